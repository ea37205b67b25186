/** The board's front, way by way and to scale: what each carries, how far its tests are, the worst that was found on it. */
import { Fragment, useState } from "react";
import type { Schemas, Status } from "../api/client";
import { children } from "../inspection/model";
import { setField, useInspection } from "../inspection/open";
import type { Entity } from "../inspection/types";
import { nameOf } from "../inspection/words";
import { Mark } from "./Mark";
import css from "./BoardDrawing.module.css";
import { front, movedTo, type Slot } from "./ways";

/** How much of what is asked of a circuit is done, dead and live together. */
function tested(circuit: Entity, asked: Schemas["AskedOut"][]): number {
  const own = asked.filter((one) => one.id === circuit.id);
  const all = own.reduce((sum, one) => sum + one.fields.length, 0);
  return all ? own.reduce((sum, one) => sum + one.done, 0) / all : 0;
}

const ORDER: Status[] = ["fail", "attention"];

interface Props {
  board: Entity;
  chosen?: string;
  choose?: (circuit: Entity) => void;
  /** Circuits can be dragged to another way. */
  movable?: boolean;
}

export function BoardDrawing({ board, chosen, choose, movable }: Props) {
  const model = useInspection((s) => s.model);
  const [over, setOver] = useState<string | null>(null);
  if (!model) return null;
  const circuits = children(model, "circuit", board.id);
  const notes = (model.judgement?.notes ?? []).filter((n) => !n.because_of);
  const asked = model.judgement?.asked ?? [];
  const devices = children(model, "rcd", board.id);
  const three = (board.values.phases ?? model.entities[model.id]?.values.phases) === "3";
  const { slots, others } = front(board, circuits, three);
  const columns = three ? group(slots, 3) : slots.map((slot) => [slot]);
  const drop = (slot: Slot, id: string) => {
    setOver(null);
    const dragged = circuits.find((one) => one.id === id);
    if (!dragged) return;
    for (const { place, value } of movedTo(circuits, dragged, slot.way)) setField(place, value);
    if (three && dragged.values.phase !== "all three" && slot.phase !== dragged.values.phase) {
      setField({ kind: "circuit", id, field: "phase" }, slot.phase);
    }
  };
  const way = (circuit: Entity, label: string) => {
    const worst = ORDER.find((status) =>
      notes.some((n) => n.standing === status && (n.id === circuit.id || n.touches.includes(circuit.id))),
    );
    const share = circuit.values.spare ? 0 : tested(circuit, asked);
    const spare = !!circuit.values.spare;
    const device = devices.findIndex((one) => one.id === circuit.values.rcd_id);
    const group =
      device >= 0
        ? "ABCDEFGH".charAt(device) || "+"
        : circuit.values.rcd_group
          ? String(circuit.values.rcd_group)
          : null;
    return (
      <button
        type="button"
        className={css.way}
        data-chosen={circuit.id === chosen || undefined}
        data-spare={spare || undefined}
        data-unconfirmed={circuit.values.unconfirmed ? true : undefined}
        data-group={group ?? undefined}
        draggable={movable || undefined}
        onDragStart={(event) => event.dataTransfer.setData("text/plain", circuit.id)}
        disabled={!movable && (spare || !choose)}
        onClick={() => choose?.(circuit)}
        title={nameOf(circuit)}
      >
        <span className={css.fill} style={{ height: `${share * 100}%` }} />
        <b>{label}</b>
        <span>{spare ? "–" : String(circuit.values.device_rating_a ?? "")}</span>
        {group && <em>{group}</em>}
        <i>{worst && <Mark status={worst} size={14} />}</i>
        <span className={css.spoken}>
          {nameOf(circuit)}, {spare ? "spare" : `${Math.round(share * 100)} percent tested`}
          {circuit.values.unconfirmed ? ", not confirmed" : ""}
        </span>
      </button>
    );
  };
  const cell = (slot: Slot) => {
    const key = `${slot.way}${slot.phase ?? ""}`;
    const target = movable && {
      onDragOver: (event: React.DragEvent) => {
        event.preventDefault();
        setOver(key);
      },
      onDragLeave: () => setOver(null),
      onDrop: (event: React.DragEvent) => {
        event.preventDefault();
        drop(slot, event.dataTransfer.getData("text/plain"));
      },
    };
    return (
      <div key={key} className={css.slot} data-over={over === key || undefined} {...target}>
        {slot.circuit ? (
          way(slot.circuit, slot.phase ?? String(slot.circuit.values.way ?? "?"))
        ) : (
          <div className={css.way} data-blank title={`Way ${slot.way} is a blank`}>
            <span>{slot.way}</span>
          </div>
        )}
      </div>
    );
  };
  const surge = board.values.spd_state;
  const mainAfter = waysBeforeMain(board, columns.length);
  const main = (
    <div className={css.main}>
      <b>main</b>
      <span>{board.values.main_switch_a ? `${board.values.main_switch_a} A` : "–"}</span>
    </div>
  );
  return (
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
}

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
