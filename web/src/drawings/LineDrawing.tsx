/** A radial as its readings lay it out: the board on the left, each point as far from it as its cable is long. */
import type { Schemas } from "../api/client";
import { asides } from "../inspection/aside";
import { useDesk } from "../inspection/desk";
import { useInspection } from "../inspection/open";

import css from "./readings.module.css";

type Bench = Schemas["BenchView"];
const WIDE = 400;
const HIGH = 150;
const FROM = 56;
const TO = WIDE - 40;
const Y = 74;

export function LineDrawing({ bench, way, choose }: { bench: Bench; way: string; choose: (id: string) => void }) {
  const focused = useDesk((s) => s.focus?.id);
  const leftOut = useInspection((s) => asides(s.model?.judgement));
  const longest = Math.max(...bench.points.map((benchPoint) => benchPoint.from_board_m ?? 0));
  const place = (metres: number | null, walked: number) =>
    FROM + 34 + (TO - FROM - 34) * (metres != null && longest > 0 ? metres / longest : walked);
  const placed = bench.points.map((benchPoint) => benchPoint.from_board_m).filter((one) => one != null).length;
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      className={css.ring}
      role="img"
      aria-label={`Line of ${bench.points.length} points${longest ? `, the furthest ${longest.toFixed(0)} m from the board` : ""}`}
    >
      <line x1={FROM} x2={TO} y1={Y} y2={Y} className={css.cable} />
      <rect x={FROM - 40} y={Y - 27} width="40" height="54" rx="4" className={css.board} />
      <text x={FROM - 20} y={Y + 5} textAnchor="middle" className={css.way}>
        {way}
      </text>
      {bench.points.map((point, index) => {
        const x = place(point.from_board_m, point.walked);
        // Neighbours stand above and under the line in turn, so that their words have room.
        const above = index % 2 === 0;
        return (
          <g
            key={point.id}
            className={css.dot}
            data-chosen={focused === point.id || undefined}
            data-tested={point.tested || undefined}
            data-aside={leftOut.get(point.id)?.state}
            onClick={() => choose(point.id)}
            aria-hidden
          >
            <circle cx={x} cy={Y} r="22" className={css.reach} />
            <circle cx={x} cy={Y} r="11" />
            <text x={x} y={Y + 4.5} textAnchor="middle" className={css.number}>
              {index + 1}
            </text>
            <text x={x} y={above ? Y - 20 : Y + 32} textAnchor="middle">
              {point.from_board_m != null ? `${point.from_board_m.toFixed(0)} m` : ""}
            </text>
          </g>
        );
      })}
      {placed > 0 && (
        <text x={WIDE - 8} y={HIGH - 10} textAnchor="end" className={css.quiet}>
          metres of cable from the board, by the readings
        </text>
      )}
    </svg>
  );
}
