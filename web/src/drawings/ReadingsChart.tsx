/** The readings of a ring's points against what a sound ring reads there. */
import type { Schemas } from "../api/client";
import { useInspection } from "../inspection/open";

import css from "./readings.module.css";
import { valueIn } from "../inspection/types";

type Bench = Schemas["BenchView"];
const WIDE = 400;
const HIGH = 132;
const LEFT = 44;
const RIGHT = WIDE - 12;
const TOP = 12;
const BOTTOM = HIGH - 22;
/** How the figures are drawn: filled what goes to the cpc, hollow what goes to neutral. */
const HOLLOW = "line_neutral_ohm";

const plain = (value: unknown): number | null => {
  const number = typeof value === "string" ? Number(value.replace(",", ".")) : NaN;
  return Number.isFinite(number) ? number : null;
};

export function ReadingsChart({ bench }: { bench: Bench }) {
  const entities = useInspection((s) => s.model?.entities);
  const read = bench.points.flatMap((point) =>
    bench.fields.flatMap((field) => {
      const ohm = plain(valueIn(entities?.[point.id], field));
      return ohm === null ? [] : [{ id: point.id, field, place: point.position ?? point.walked, ohm }];
    }),
  );
  const values = [...read.map((one) => one.ohm), ...bench.curves.flatMap((curve) => curve.values)];
  if (!values.length || !bench.curves.length) return null;
  const step = stepFor(Math.max(...values) - Math.min(...values));
  const low = Math.floor(Math.min(...values) / step - 0.01) * step;
  const high = Math.max(low + 2 * step, Math.ceil(Math.max(...values) / step + 0.01) * step);
  const x = (place: number) => LEFT + place * (RIGHT - LEFT);
  const y = (ohm: number) => BOTTOM - ((ohm - low) / (high - low)) * (BOTTOM - TOP);
  const lines = Array.from({ length: Math.round((high - low) / step) + 1 }, (_, n) => low + n * step);
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      className={css.chart}
      role="img"
      aria-label={`Readings of ${new Set(read.map((one) => one.id)).size} points against the expected values`}
    >
      {lines.map((ohm) => (
        <g key={ohm}>
          <line x1={LEFT} x2={RIGHT} y1={y(ohm)} y2={y(ohm)} className={css.rule} />
          <text x={LEFT - 8} y={y(ohm) + 4} textAnchor="end" className={css.axis}>
            {ohm.toFixed(2)}
          </text>
        </g>
      ))}
      {bench.curves.map(({ field, places, values: along }) => (
        <polyline
          key={field}
          points={along.map((ohm, n) => `${x(places[n] ?? 0)},${y(ohm)}`).join(" ")}
          className={css.curve}
          data-hollow={field === HOLLOW || undefined}
        />
      ))}
      {read.map((one) => (
        <circle
          key={one.id + one.field}
          cx={x(one.place)}
          cy={y(one.ohm)}
          r="5"
          className={css.read}
          data-hollow={one.field === HOLLOW || undefined}
        />
      ))}
      <text x={LEFT} y={HIGH - 4} className={css.axis}>
        ○ line–neutral ● line–cpc
      </text>
      <text x={RIGHT} y={HIGH - 4} textAnchor="end" className={css.axis}>
        line: expected
      </text>
    </svg>
  );
}

const stepFor = (span: number): number => [0.02, 0.05, 0.1, 0.2, 0.5, 1, 2].find((step) => span / step <= 4) ?? 5;
