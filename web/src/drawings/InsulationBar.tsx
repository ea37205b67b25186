/** A circuit's insulation on a scale of tens, with what the whole board needs and what the firm looks at. */
import type { Schemas } from "../api/client";
import css from "./ZsBar.module.css";

const WIDE = 200;
const HIGH = 26;
/** The scale runs from a hundredth of a megohm to a thousand. */
const LEAST = 0.01;
const MOST = 1000;

const x = (mohm: number) =>
  (Math.log10(Math.min(MOST, Math.max(LEAST, mohm)) / LEAST) / Math.log10(MOST / LEAST)) * WIDE;

interface Props {
  row: Schemas["InsulationRow"];
  minimum: number;
  attention: number;
}

export function InsulationBar({ row, minimum, attention }: Props) {
  const part = `${Math.round(row.part * 100)} % of the board's leakage`;
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      width={WIDE}
      height={HIGH}
      preserveAspectRatio="none"
      className={css.bar}
      role="img"
      aria-label={`${row.text} MΩ, ${part}`}
    >
      <title>{part}</title>
      <rect x="0" y="7" width={WIDE} height="12" className={css.ground} />
      {row.mohm !== null && (
        <rect
          x="0"
          y="7"
          width={x(row.mohm)}
          height="12"
          className={css.read}
          data-status={row.low ? "fail" : row.apart ? "attention" : "pass"}
        />
      )}
      <line x1={x(attention)} x2={x(attention)} y1="2" y2="24" className={css.held} />
      <line x1={x(minimum)} x2={x(minimum)} y1="2" y2="24" className={css.limit} />
    </svg>
  );
}
