/** The test grid: the board above, a row for each circuit, a column for each test, verdicts in the margin. */
import { type ClipboardEvent, useDeferredValue, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import { useFieldSpec } from "../api/reference";
import { BoardDrawing } from "../drawings/BoardDrawing";
import { ReadingCell } from "../fields/ReadingCell";
import { focusOn, forgetHabit, useDesk } from "../inspection/desk";
import { useChildIds, useChildren } from "../inspection/select";
import { useInspection } from "../inspection/open";
import { isBlock, paste } from "../inspection/paste";
import { type Entity, placeOf } from "../inspection/types";
import { nameOf, useTranslate } from "../inspection/words";
import { Apart } from "../putback/Apart";
import { LinkButton } from "../ui/Button";
import { type Choice } from "../ui/ChoiceField";
import { Link } from "../ui/Link";
import { loaded } from "../ui/Loaded";
import { Segments } from "../ui/Segments";
import { StageBody, StageHead, StageLines } from "../ui/StageHead";
import { Empty } from "../ui/States";
import { useNarrow } from "../ui/layout";
import { clock } from "../ui/when";
import { withLooks } from "../ui/withLooks";
import { Cards } from "./Cards";
import { Devices } from "./Devices";
import { FEW, GridRow, useYears } from "./GridRow";
import { Insulation } from "./Insulation";
import { NullBar } from "./NullBar";
import css from "./TestGrid.module.css";
import type { Tests } from "./columns";
import { Reminder } from "./Reminder";
import { type Layout, useLayout, type Whole } from "./useLayout";
import { markAt } from "./verdicts";

const Checks = loaded(
  "the checks",
  withLooks(() => import("./Checks").then((m) => m.Checks)),
);

/** Surge devices, leakage, functional checks: a walk of their own. */
const CHECKS = "checks";
const LIVE: readonly Choice[] = [
  ["live", "Live"],
  [CHECKS, "Checks"],
];
const DEAD: Choice = ["dead", "Dead"];
const TESTS: Record<Tests, readonly Choice[]> = { dead: [DEAD, ["live", "Live"]], live: [DEAD, ...LIVE] };
const ORDERS: readonly Choice[] = [
  ["circuit", "by circuit"],
  ["test", "by test"],
];

export default function TestGrid({ live }: { live: boolean }) {
  const navigate = useNavigate();
  const narrow = useNarrow();
  const [search] = useSearchParams();
  const inspection = useInspection((s) => s.model?.id) ?? "";
  const [chosen, choose] = useState<string | null>(null);
  const [byTest, setByTest] = useState(false);
  const boards = useChildren("board", inspection);
  const board = boards.find((b) => b.id === chosen) ?? boards[0];
  const circuits = useChildIds("circuit", board?.id);
  const tests: Tests = live ? "live" : "dead";
  const checks = live && search.get("view") === CHECKS;
  if (!board) {
    return (
      <>
        <StageHead title={live ? "Live tests" : "Dead tests"} />
        <StageBody>
          <Empty
            title="No board yet"
            act={<LinkButton to={`/inspection/${inspection}/boards`}>Add the first board</LinkButton>}
          >
            Tests stand on circuits, circuits on a board.
          </Empty>
        </StageBody>
      </>
    );
  }
  return (
    <div className={css.screen}>
      <StageHead title={nameOf(board)} line={<Where board={board} circuits={circuits.length} live={live} />} long>
        {boards.length > 1 && (
          <Segments label="Board" choices={boards.map((b) => [b.id, nameOf(b)])} value={board.id} change={choose} />
        )}
        {(!narrow || live) && (
          <Segments
            label="Tests"
            choices={narrow ? LIVE : TESTS[tests]}
            value={checks ? CHECKS : tests}
            change={(to) => navigate(`/inspection/${inspection}/${to === CHECKS ? `live?view=${CHECKS}` : to}`)}
          />
        )}
        {!checks && (
          <Segments
            label="Order of next"
            choices={ORDERS}
            value={byTest ? "test" : "circuit"}
            change={(by) => {
              // Chosen so, the order is as it is called; from there it is learnt anew.
              forgetHabit();
              setByTest(by === "test");
            }}
          />
        )}
      </StageHead>
      <Reminder live={live} board={board} />
      <StageLines>
        <Apart board={board} />
        {!live && <NullBar />}
      </StageLines>
      {checks ? <Checks boardId={board.id} /> : <Tested board={board} circuits={circuits} {...{ tests, byTest }} />}
    </div>
  );
}

interface TestedProps {
  board: Entity;
  circuits: readonly string[];
  tests: Tests;
  byTest: boolean;
}

/** The board's front, what is measured of it as a whole, its devices, and its circuits. */
function Tested({ board, circuits, tests, byTest }: TestedProps) {
  const narrow = useNarrow();
  const inspection = useInspection((s) => s.model?.id) ?? "";
  const layout = useLayout(board.id, tests, byTest);
  const live = tests === "live";
  return (
    <>
      {!narrow && <Front board={board} layout={layout} />}
      {!live && <Insulation board={board} />}
      {layout.whole.map((column) => (
        <OfBoard key={column.key} boardId={board.id} one={column} />
      ))}
      {live && <Devices boardId={board.id} columns={layout.deviceColumns} />}
      {narrow ? (
        <Cards ids={circuits} columns={layout.columns} tests={tests} />
      ) : (
        <Grid ids={circuits} layout={layout} tests={tests} />
      )}
      {circuits.length === 0 && (
        <p className={css.none}>
          This board has no circuits yet. <Link to={`/inspection/${inspection}/boards`}>Add them under Boards.</Link>
        </p>
      )}
    </>
  );
}

/** Where the board is, how many circuits it has, and whether it is isolated. */
function Where({ board, circuits, live }: { board: Entity; circuits: number; live: boolean }) {
  const state = useInspection((s) => s.model?.judgement?.boards.find((boardState) => boardState.board_id === board.id));
  const isolated = state?.proved_at
    ? `${state.restored ? "restored after" : "isolated"} ${clock(state.proved_at)}${state.lock ? `, ${state.lock.toLowerCase()}` : ""}`
    : "no isolation recorded";
  return [board.values.location, `${circuits} circuits`, live ? null : isolated].filter(Boolean).join(" · ");
}

/** The board's front: a tap goes to the circuit's first figure that is still empty. */
function Front({ board, layout }: { board: Entity; layout: Layout }) {
  const focusId = useDesk((s) => s.focus?.id);
  const go = (circuit: Entity) => {
    const own = layout.places.filter((place) => place.id === circuit.id);
    const first = own.find((place) => circuit.values[place.field] == null) ?? own[0];
    if (first) focusOn(first);
  };
  return <BoardDrawing board={board} chosen={focusId} choose={go} />;
}

function OfBoard({ boardId, one: { key: field, label, hint } }: { boardId: string; one: Whole }) {
  const unit = useFieldSpec("board", field)?.unit;
  const status = useInspection((s) => markAt(s.model?.judgement, boardId, field));
  const place = placeOf("board", boardId, field);
  return (
    <div className={css.zdb}>
      <b>{label}</b>
      <span>
        <ReadingCell place={place} label={label} status={status} boxed />
      </span>
      {unit} <small>{hint}</small>
    </div>
  );
}

/** So many rows are drawn at once; the others follow a moment later, in slices. */
const FIRST = 8;

function Grid({ ids, layout, tests }: { ids: readonly string[]; layout: Layout; tests: Tests }) {
  const years = useYears(layout.columns);
  const translate = useTranslate();
  const drawn = useDeferredValue(ids, ids.slice(0, FIRST));
  const take = (event: ClipboardEvent) => {
    const text = event.clipboardData.getData("text");
    const { focus } = useDesk.getState();
    if (focus?.kind !== "circuit" || !isBlock(text)) return;
    event.preventDefault();
    const rows = ids.map((id) =>
      layout.columns.map(
        ({ field }) => layout.places.find((place) => place.id === id && place.field === field) ?? null,
      ),
    );
    paste(text, rows, focus, new Set(layout.columns.filter(({ check }) => check).map(({ field }) => field)));
  };
  return (
    <table
      onPaste={take}
      className={css.grid}
      data-dense={ids.length > 10 || undefined}
      data-wide={layout.columns.length > FEW || undefined}
    >
      <thead>
        <tr>
          <th className={css.way}>#</th>
          <th className={css.circuit}>Circuit</th>
          {tests === "live" && (
            <th className={css.bar}>
              tick: Zdb + {translate("R1+R2")}
              <br />
              edge: max Zs, dashed: when cold
            </th>
          )}
          {tests === "live" && years && <th className={css.years}>earlier</th>}
          {layout.columns.map((column) => (
            <th key={column.field} style={{ width: column.width }}>
              {translate(column.head[0])}
              <br />
              {column.head[1]}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {drawn.map((id) => (
          <GridRow key={id} id={id} columns={layout.columns} tests={tests} />
        ))}
      </tbody>
    </table>
  );
}
