/** The board's front, way by way: what each carries, how far its tests are, and the worst that was found on it. */
import type { Status } from "../api/client";
import { children } from "../inspection/model";
import { useInspection } from "../inspection/sync";
import type { Entity } from "../inspection/types";
import { nameOf } from "../inspection/words";
import { Mark } from "../ui/Mark";
import css from "./BoardDrawing.module.css";

const TESTS = ["r1_ohm", "rn_ohm", "r2_ohm", "r1_r2_ohm", "insulation_lne_mohm", "polarity", "zs_ohm", "rcd_trip_ms", "rcd_button"];

function tested(circuit: Entity): number {
  const v = circuit.values;
  const asked = TESTS.filter((field) => {
    if (["r1_ohm", "rn_ohm", "r2_ohm"].includes(field)) return v.form === "ring";
    if (["rcd_trip_ms", "rcd_button"].includes(field)) return v.rcd_rated_ma != null;
    return true;
  });
  return asked.filter((field) => v[field] != null).length / asked.length;
}

const ORDER: Status[] = ["fail", "attention"];

export function BoardDrawing({ board, chosen, choose }: { board: Entity; chosen?: string; choose?: (circuit: Entity) => void }) {
  const model = useInspection((s) => s.model);
  if (!model) return null;
  const circuits = children(model, "circuit", board.id);
  const notes = model.judgement?.notes ?? [];
  const blanks = Math.max(0, Number(board.values.ways ?? 0) - circuits.length);
  return (
    <div className={css.board} role="group" tabIndex={choose ? undefined : 0} aria-label={`Front of ${nameOf(board)}`}>
      <div className={css.main}>
        <b>main</b>
        <span>{board.values.main_switch_a ? `${board.values.main_switch_a} A` : "–"}</span>
      </div>
      {circuits.map((circuit) => {
        const worst = ORDER.find((status) => notes.some((n) => n.id === circuit.id && n.status === status));
        const share = circuit.values.spare ? 0 : tested(circuit);
        const spare = !!circuit.values.spare;
        return (
          <button
            key={circuit.id}
            type="button"
            className={css.way}
            data-chosen={circuit.id === chosen || undefined}
            data-spare={spare || undefined}
            disabled={spare || !choose}
            onClick={() => choose?.(circuit)}
            title={nameOf(circuit)}
          >
            <span className={css.fill} style={{ height: `${share * 100}%` }} />
            <b>{String(circuit.values.way ?? "?")}</b>
            <span>{spare ? "–" : String(circuit.values.device_rating_a ?? "")}</span>
            <i>{worst && <Mark status={worst} size={14} />}</i>
            <span className={css.spoken}>
              {nameOf(circuit)}, {spare ? "spare" : `${Math.round(share * 100)} percent tested`}
            </span>
          </button>
        );
      })}
      {Array.from({ length: Math.min(blanks, 24) }, (_, i) => (
        <div key={i} className={css.way} data-spare>
          <span>–</span>
        </div>
      ))}
    </div>
  );
}
