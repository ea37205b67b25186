/** The test grid: the board above, a row for each circuit, a column for each test, verdicts in the margin. */
import { useEffect, useMemo, useState } from "react";
import { Link, useNavigate } from "react-router";
import type { Judgement, Status } from "../api/client";
import { BoardDrawing } from "../drawings/BoardDrawing";
import { answerReminder, focusOn, setOrder, useDesk } from "../inspection/desk";
import { children } from "../inspection/model";
import { useInspection } from "../inspection/sync";
import type { Entity, Place } from "../inspection/types";
import { cableAndDevice, nameOf, useSay } from "../inspection/words";
import { ReadingCell } from "../fields/ReadingCell";
import { Banner } from "../ui/Banner";
import { Button, LinkButton } from "../ui/Button";
import { type Choice, Segments } from "../ui/ChoiceField";
import { StageBody, StageHead } from "../ui/StageHead";
import { Empty } from "../ui/States";
import { clock } from "../ui/when";
import { useNarrow } from "../ui/layout";
import { applies, type Asked, askedIn, type Column, COLUMNS, columnsFor, DEVICE_COLUMNS, order } from "./columns";
import { Devices } from "./Devices";
import { NullBar } from "./NullBar";
import css from "./TestGrid.module.css";

const WEIGHT: Record<Status, number> = { pass: 0, unknown: 1, attention: 2, fail: 3 };

/** Figures of the board as a whole: field, label, unit, what to mind. Which of them are asked comes with the judgement. */
const WHOLE: [string, string, string, string][] = [
  ["zdb_ohm", "Zdb at this board", "Ω", "with every bond reconnected"],
  ["insulation_ln_mohm", "Insulation of the board, L–N", "MΩ", "every circuit on, every load out"],
  ["insulation_lne_mohm", "Insulation of the board, L+N–E", "MΩ", "measure the circuits apart where it is low"],
];

const KINDS: readonly Choice[] = [
  ["dead", "Dead"],
  ["live", "Live"],
];
const ORDERS: readonly Choice[] = [
  ["circuit", "by circuit"],
  ["test", "by test"],
];

type Marks = Record<string, Status>;

function marksOf(judgement: Judgement | null | undefined): Marks {
  const marks: Marks = {};
  for (const note of judgement?.notes ?? []) {
    // A statement about several circuits marks the figure at each of them.
    for (const id of new Set([note.id, ...note.touches])) {
      const key = `${id}.${note.field}`;
      if (WEIGHT[note.standing] >= WEIGHT[marks[key] ?? "pass"]) marks[key] = note.standing;
    }
  }
  return marks;
}

export default function TestGrid({ live }: { live: boolean }) {
  const navigate = useNavigate();
  const narrow = useNarrow();
  const model = useInspection((s) => s.model);
  const focusId = useDesk((s) => s.focus?.id);
  const [chosen, choose] = useState<string | null>(null);
  const [byTest, setByTest] = useState(false);
  const boards = model ? children(model, "board", model.id) : [];
  const board = boards.find((b) => b.id === chosen) ?? boards[0];
  const circuits = model && board ? children(model, "circuit", board.id) : [];
  const devices = model && board && live ? children(model, "rcd", board.id) : [];
  const say = useSay();
  const judgement = model?.judgement;
  const kind = live ? "live" : "dead";
  const asked = useMemo(() => askedIn(judgement, kind), [judgement, kind]);
  const columns = columnsFor(COLUMNS[kind], circuits, asked);
  const deviceColumns = columnsFor(DEVICE_COLUMNS, devices, asked);
  const marks = useMemo(() => marksOf(judgement), [judgement]);
  const ofBoard = board ? asked.get(board.id) : undefined;
  const whole = WHOLE.filter(([field]) => ofBoard?.fields.includes(field) || ofBoard?.more.includes(field));
  const first: Place[] = board ? whole.map(([field]) => ({ kind: "board", id: board.id, field })) : [];
  const places = [
    ...first,
    ...order("rcd", deviceColumns, devices, asked, byTest),
    ...order("circuit", columns, circuits, asked, byTest),
  ];
  const signature = places.map((p) => p.id + p.field).join();

  useEffect(() => {
    setOrder(places);
    // The places are the same as long as their signature is; a new array alone changes nothing.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [signature]);

  if (!model || !board) {
    return (
      <>
        <StageHead title={live ? "Live tests" : "Dead tests"} />
        <StageBody>
          <Empty
            title="No board yet"
            act={<LinkButton to={`/inspection/${model?.id}/boards`}>Add the first board</LinkButton>}
          >
            Tests stand on circuits, circuits on a board.
          </Empty>
        </StageBody>
      </>
    );
  }
  const expected = (id: string, field: string) => judgement?.expected.find((e) => e.id === id && e.field === field);
  const state = judgement?.boards.find((one) => one.board_id === board.id);
  const isolated = state?.proved_at
    ? `${state.restored ? "restored after" : "isolated"} ${clock(state.proved_at)}${state.lock ? `, ${state.lock.toLowerCase()}` : ""}`
    : "no isolation recorded";
  const place = [board.values.location, `${circuits.length} circuits`, live ? null : isolated]
    .filter(Boolean)
    .join(" · ");
  const stage = (to: string) => navigate(`/inspection/${model.id}/${to}`);
  return (
    <div className={css.screen}>
      <StageHead title={nameOf(board)} line={place}>
        {boards.length > 1 && (
          <Segments label="Board" choices={boards.map((b) => [b.id, nameOf(b)])} value={board.id} change={choose} />
        )}
        {!narrow && <Segments label="Tests" choices={KINDS} value={kind} change={stage} />}
        <Segments
          label="Order of next"
          choices={ORDERS}
          value={byTest ? "test" : "circuit"}
          change={(by) => setByTest(by === "test")}
        />
      </StageHead>
      <Reminder live={live} board={board} />
      {!live && <NullBar />}
      {!narrow && (
        <BoardDrawing
          board={board}
          chosen={focusId}
          choose={(circuit) => {
            const first =
              places.find((p) => p.id === circuit.id && circuit.values[p.field] == null) ??
              places.find((p) => p.id === circuit.id);
            if (first) focusOn(first);
          }}
        />
      )}
      {whole.map(([field, label, unit, hint]) => (
        <div key={field} className={css.zdb}>
          <b>{label}</b>
          <span>
            <ReadingCell
              place={{ kind: "board", id: board.id, field }}
              label={label}
              status={marks[`${board.id}.${field}`]}
              boxed
            />
          </span>
          {unit} <small>{hint}</small>
        </div>
      ))}
      {devices.length > 0 && (
        <Devices devices={devices} circuits={circuits} columns={deviceColumns} asked={asked} marks={marks} />
      )}
      {narrow ? (
        <Cards columns={columns} circuits={circuits} asked={asked} marks={marks} expected={expected} />
      ) : (
        <table className={css.grid} data-dense={circuits.length > 10 || undefined}>
          <thead>
            <tr>
              <th className={css.way}>#</th>
              <th className={css.circuit}>Circuit</th>
              {live && <th className={css.info}>Zs at most</th>}
              {live && <th className={css.info}>Zdb + {say("R1+R2")}</th>}
              {columns.map((column) => (
                <th key={column.field} style={{ width: column.width }}>
                  {say(column.head[0])}
                  <br />
                  {column.head[1]}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {circuits.map((circuit) => (
              <tr key={circuit.id} data-here={circuit.id === focusId || undefined}>
                <td className={css.way}>{String(circuit.values.way ?? "")}</td>
                <th scope="row" className={css.circuit} title={nameOf(circuit)}>
                  {String(circuit.values.designation ?? "Unnamed")} <small>{cableAndDevice(circuit.values)}</small>
                </th>
                {live && <td className={css.info}>{limitOf(expected(circuit.id, "zs_ohm")?.greatest)}</td>}
                {live && <td className={css.info}>{judgement?.sums[circuit.id] ?? "–"}</td>}
                {columns.map((column) => (
                  <GridCell
                    key={column.field}
                    column={column}
                    circuit={circuit}
                    asked={asked}
                    status={marks[`${circuit.id}.${column.field}`]}
                    ghost={ghostOf(column, expected(circuit.id, column.field)?.greatest)}
                  />
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {circuits.length === 0 && (
        <p className={css.none}>
          This board has no circuits yet. <Link to={`/inspection/${model.id}/boards`}>Add them under Boards.</Link>
        </p>
      )}
    </div>
  );
}

const limitOf = (greatest: number | null | undefined) =>
  greatest == null ? "–" : greatest >= 100 ? greatest.toFixed(0) : greatest.toFixed(2);

/** Only what a ring's ends lead to is shown before it is measured: a limit is no expectation. */
function ghostOf(column: Column, greatest: number | null | undefined): string | undefined {
  return column.field === "r1_r2_ohm" && greatest != null ? `≤ ${greatest.toFixed(2)}` : undefined;
}

interface CellProps {
  column: Column;
  circuit: Entity;
  status?: Status;
  ghost?: string;
}

function GridCell({ column, circuit, asked, status, ghost }: CellProps & { asked: Map<string, Asked> }) {
  if (!applies(column, circuit, asked)) return <td className={css.none}>–</td>;
  return (
    <td className={css.figure}>
      <Figure column={column} circuit={circuit} status={status} ghost={ghost} />
    </td>
  );
}

function Figure({ column, circuit, status, ghost, boxed }: CellProps & { boxed?: boolean }) {
  const { id } = circuit;
  const place = useMemo<Place>(() => ({ kind: "circuit", id, field: column.field }), [id, column.field]);
  const label = `${nameOf(circuit)}, ${column.head.join(" ")}`.trim();
  return <ReadingCell place={place} label={label} check={column.check} status={status} ghost={ghost} boxed={boxed} />;
}

/** On a phone: one circuit under another, each test with its name beside its figure. */
function Cards({
  columns,
  circuits,
  asked,
  marks,
  expected,
}: {
  columns: Column[];
  circuits: Entity[];
  asked: Map<string, Asked>;
  marks: Marks;
  expected: (id: string, field: string) => { greatest: number | null } | undefined;
}) {
  const say = useSay();
  return (
    <ul className={css.cards}>
      {circuits
        .filter((circuit) => !circuit.values.spare)
        .map((circuit) => (
          <li key={circuit.id}>
            <b>{nameOf(circuit)}</b> <small>{cableAndDevice(circuit.values)}</small>
            <div className={css.card}>
              {columns
                .filter((column) => applies(column, circuit, asked))
                .map((column) => (
                  <div key={column.field}>
                    <span>{`${say(column.head[0])} ${column.head[1]}`.trim()}</span>
                    <Figure
                      column={column}
                      circuit={circuit}
                      status={marks[`${circuit.id}.${column.field}`]}
                      ghost={ghostOf(column, expected(circuit.id, column.field)?.greatest)}
                      boxed
                    />
                  </div>
                ))}
            </div>
          </li>
        ))}
    </ul>
  );
}

/** Asked once a visit: isolation before dead tests, the usual care before live ones. Never in the way of a note. */
function Reminder({ live, board }: { live: boolean; board: Entity }) {
  const id = useInspection((s) => s.model?.id) ?? "";
  const key = live ? `live.${id}` : `dead.${board.id}`;
  const answered = useDesk((s) => s.answered[key]);
  const isolated = useInspection(
    (s) => !!s.model?.judgement?.boards.find((one) => one.board_id === board.id)?.proved_at,
  );
  if (answered || (!live && isolated)) return null;
  return (
    <Banner
      role="note"
      acts={
        <>
          {!live && (
            <LinkButton variant="action" to={`/inspection/${id}/isolation`}>
              Record isolation
            </LinkButton>
          )}
          <Button onClick={() => answerReminder(key)}>{live ? "Understood" : "Not now"}</Button>
        </>
      }
    >
      {live ? (
        <>
          <b>Live tests.</b> Insulated tools, shrouded probes, nobody else near; every conductor and bond back in place
          first.
        </>
      ) : (
        <>
          <b>No safe isolation is recorded for {nameOf(board)}.</b> Before insulation tests: unplug equipment, warn
          people, take surge devices out.
        </>
      )}
    </Banner>
  );
}
