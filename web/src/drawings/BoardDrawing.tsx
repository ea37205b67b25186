/** The board's front, way by way and to scale: what each carries, how far its tests are, the worst that was found on it. */
import { Fragment, memo, type ReactNode, useCallback, useEffect, useRef } from "react";
import type { Judgement, Status } from "../api/client";
import { asides } from "../inspection/aside";
import { children, type Model } from "../inspection/model";
import { setField, useInspection } from "../inspection/open";
import type { Entity } from "../inspection/types";
import { nameOf } from "../inspection/words";
import { Drag, useDragged, useDropPlace } from "../ui/Drag";
import { useAfterPaint } from "../ui/useAfterPaint";
import { Mark } from "./Mark";
import css from "./BoardDrawing.module.css";
import { front, movedTo, type Slot } from "./ways";

/** What a judgement says of each circuit: the worst on it, and how much of what is asked is done, dead and live together.
 * Gone through once for a judgement: a board of sixty ways is drawn anew at every figure. */
interface Said {
  worst: Map<string, Status>;
  tested: Map<string, number>;
}

const lastWords = new WeakMap<Judgement, Said>();
const NOTHING: Said = { worst: new Map(), tested: new Map() };

function saidOf(judgement: Judgement | null | undefined): Said {
  if (!judgement) return NOTHING;
  let known = lastWords.get(judgement);
  if (!known) lastWords.set(judgement, (known = { worst: worstOf(judgement), tested: testedOf(judgement) }));
  return known;
}

function worstOf({ notes }: Judgement): Map<string, Status> {
  const worst = new Map<string, Status>();
  for (const { because_of, standing, id, touches } of notes) {
    if (because_of || (standing !== "fail" && standing !== "attention")) continue;
    for (const touched of [id, ...touches]) if (worst.get(touched) !== "fail") worst.set(touched, standing);
  }
  return worst;
}

function testedOf({ asked }: Judgement): Map<string, number> {
  const counts = new Map<string, [done: number, all: number]>();
  for (const { id, done, fields } of asked) {
    const [before, all] = counts.get(id) ?? [0, 0];
    counts.set(id, [before + done, all + fields.length]);
  }
  return new Map([...counts].map(([id, [done, all]]) => [id, all ? done / all : 0]));
}

interface Props {
  board: Entity;
  chosen?: string;
  choose?: (circuit: Entity) => void;
  /** Circuits can be dragged to another way. */
  movable?: boolean;
}

export function BoardDrawing(props: Props) {
  const model = useInspection((s) => s.model);
  // The verdict on the figure that was left is drawn first.
  const later = useAfterPaint(model);
  // Where circuits are dragged, what was let go stands at once where it was put.
  const drawn = props.movable ? model : later;
  return drawn && <Drawn {...props} model={drawn} />;
}

const Drawn = memo(function Drawn({ board, chosen, choose, movable, model }: Props & { model: Model }) {
  // The same for every way, whatever a tap leads to now: else all of them were drawn anew.
  const latest = useRef(choose);
  useEffect(() => {
    latest.current = choose;
  }, [choose]);
  const tap = useCallback((id: string) => {
    const circuit = useInspection.getState().model?.entities[id];
    if (circuit) latest.current?.(circuit);
  }, []);
  const circuits = children(model, "circuit", board.id);
  const { worst, tested } = saidOf(model.judgement);
  const leftOut = asides(model.judgement);
  const devices = children(model, "rcd", board.id);
  const three = (board.values.phases ?? model.entities[model.id]?.values.phases) === "3";
  const { slots, others } = front(board, circuits, three);
  const columns = three ? group(slots, 3) : slots.map((slot) => [slot]);
  const drop = (id: string, onto: string) => {
    const slot = slots.find((one) => keyOf(one) === onto);
    if (!slot) return;
    const dragged = circuits.find((circuit) => circuit.id === id);
    if (!dragged) return;
    for (const { place, value } of movedTo(circuits, dragged, slot.way)) setField(place, value);
    if (three && dragged.values.phase !== "all three" && slot.phase !== dragged.values.phase) {
      setField({ kind: "circuit", id, field: "phase" }, slot.phase);
    }
  };
  const way = (circuit: Entity, label: string) => (
    <Way
      circuit={circuit}
      label={label}
      worst={worst.get(circuit.id)}
      tested={circuit.values.spare ? 0 : (tested.get(circuit.id) ?? 0)}
      group={groupOf(circuit, devices)}
      chosen={circuit.id === chosen}
      movable={!!movable}
      still={!movable && (!!circuit.values.spare || !choose)}
      aside={leftOut.get(circuit.id)?.state}
      tap={tap}
    />
  );
  const cell = (slot: Slot) => (
    <Place key={keyOf(slot)} id={keyOf(slot)} movable={!!movable}>
      {slot.circuit ? (
        way(slot.circuit, slot.phase ?? String(slot.circuit.values.way ?? "?"))
      ) : (
        <div className={css.way} data-blank title={`Way ${slot.way} is a blank`}>
          <span>{slot.way}</span>
        </div>
      )}
    </Place>
  );
  const called = (id: string) => {
    const circuit = circuits.find((one) => one.id === id);
    return circuit ? nameOf(circuit) : `way ${id}`;
  };
  const surge = board.values.spd_state;
  const mainAfter = waysBeforeMain(board, columns.length);
  const main = (
    <div className={css.main}>
      <b>main</b>
      <span>{board.values.main_switch_a ? `${board.values.main_switch_a} A` : "–"}</span>
    </div>
  );
  const drawing = (
    <div
      className={css.board}
      data-three={three || undefined}
      data-unconfirmed={board.values.unconfirmed ? true : undefined}
      role="group"
      tabIndex={choose || movable ? undefined : 0}
      aria-label={`Front of ${nameOf(board)}`}
    >
      {mainAfter === 0 && main}
      {surge != null && surge !== "none" && (
        <div className={css.surge} title={`Surge device: ${String(surge)}`}>
          <b>SPD</b>
          <span>{surge === "sound" ? "ok" : String(surge)}</span>
        </div>
      )}
      {columns.map((column, at) => (
        <Fragment key={column[0]?.way}>
          <div className={css.column}>
            {three && <small>{column[0]?.way}</small>}
            {wholeColumn(column) ? <div className={css.slot}>{way(column[0]!.circuit!, "3~")}</div> : column.map(cell)}
          </div>
          {mainAfter === at + 1 && main}
        </Fragment>
      ))}
      {others.map((circuit) => (
        <div key={circuit.id} className={css.column}>
          <div className={css.slot}>{way(circuit, String(circuit.values.way ?? "?"))}</div>
        </div>
      ))}
    </div>
  );
  if (!movable) return drawing;
  return (
    <Drag called={called} drop={drop}>
      {drawing}
    </Drag>
  );
});

const keyOf = (slot: Slot) => `${slot.way}${slot.phase ?? ""}`;

/** A place of the board, on which a circuit can be put. */
function Place({ id, movable, children }: { id: string; movable: boolean; children: ReactNode }) {
  const { ref, isOver } = useDropPlace(id, !movable);
  return (
    <div ref={ref} className={css.slot} data-over={isOver || undefined}>
      {children}
    </div>
  );
}

/** By which letter it is seen which ways share a device. */
function groupOf({ values }: Entity, devices: Entity[]): string | null {
  const device = devices.findIndex((entity) => entity.id === values.rcd_id);
  if (device >= 0) return "ABCDEFGH".charAt(device) || "+";
  return values.rcd_group ? String(values.rcd_group) : null;
}

interface WayProps {
  circuit: Entity;
  label: string;
  worst: Status | undefined;
  tested: number;
  group: string | null;
  chosen: boolean;
  movable: boolean;
  /** Nothing happens at a tap. */
  still: boolean;
  /** Left disconnected or out of scope. */
  aside?: string;
  tap: (circuitId: string) => void;
}

const Way = memo(function Way({ circuit, label, worst, tested, group, chosen, movable, still, aside, tap }: WayProps) {
  const spare = !!circuit.values.spare;
  const dragged = useDragged(circuit.id, !movable);
  return (
    <button
      type="button"
      className={css.way}
      data-chosen={chosen || undefined}
      data-spare={spare || undefined}
      data-aside={aside}
      data-unconfirmed={circuit.values.unconfirmed ? true : undefined}
      data-group={group ?? undefined}
      disabled={still}
      {...dragged}
      onClick={() => tap(circuit.id)}
      title={nameOf(circuit)}
    >
      <span className={css.fill} style={{ height: `${tested * 100}%` }} />
      <b>{label}</b>
      <span>{spare ? "–" : String(circuit.values.device_rating_a ?? "")}</span>
      {group && <em>{group}</em>}
      <i>{worst && <Mark status={worst} size={14} />}</i>
      <span className={css.spoken}>
        {nameOf(circuit)}, {spare ? "spare" : (aside ?? `${Math.round(tested * 100)} percent tested`)}
        {circuit.values.unconfirmed ? ", not confirmed" : ""}
      </span>
    </button>
  );
});

/** After how many ways the main switch stands: at the left end where nobody said otherwise. */
function waysBeforeMain({ values }: Entity, ways: number): number {
  if (values.main_switch_at === "right end") return ways;
  if (values.main_switch_at !== "in the middle") return 0;
  return Math.min(ways, Number(values.ways_left ?? Math.ceil(ways / 2)));
}

const group = (slots: Slot[], size: number): Slot[][] =>
  Array.from({ length: Math.ceil(slots.length / size) }, (_, i) => slots.slice(i * size, i * size + size));

/** A three-phase device over all three places of its way is one thing. */
const wholeColumn = (column: Slot[]) =>
  column.length === 3 && !!column[0]?.circuit && column.every((slot) => slot.circuit?.id === column[0]?.circuit?.id);
