/** A loop impedance against its limits: the bar is what was measured, the tick what Zdb and the dead test lead to. */
import type { Schemas, Status } from "../api/client";
import css from "./ZsBar.module.css";

const WIDE = 190;
const HIGH = 26;
/** The full limit stands here, so that what is over it has room to be seen. */
const LIMIT = 168;

const ohm = (value: number) => (value >= 100 ? value.toFixed(0) : value.toFixed(2));

export function ZsBar({ scale, status }: { scale: Schemas["ZsScale"]; status?: Status }) {
  const { full_ohm: full, held_ohm: held, sum_ohm: sum, read_ohm: read, over } = scale;
  const x = (value: number) => Math.min((value / full) * LIMIT, WIDE - 10);
  const beyond = over || (read !== null && read > full);
  const end = beyond ? WIDE - 10 : read === null ? 0 : x(read);
  const words = [
    read === null ? (over ? "over range" : "not measured") : `${ohm(read)} Ω`,
    `max ${ohm(full)} Ω`,
    held < full ? `${ohm(held)} Ω when cold` : "",
    sum === null ? "" : `expected ${ohm(sum)} Ω`,
  ];
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      width={WIDE}
      height={HIGH}
      className={css.bar}
      role="img"
      aria-label={words.filter(Boolean).join(", ")}
    >
      <rect x="0" y="7" width={LIMIT} height="12" className={css.ground} />
      {end > 0 && (
        <path
          d={`M0 7 H${end} ${beyond ? `L${end + 9} 13 L${end} 19` : "V19"} H0 Z`}
          className={css.read}
          data-status={status}
        />
      )}
      {held < full && <line x1={x(held)} x2={x(held)} y1="2" y2="24" className={css.held} />}
      <line x1={LIMIT} x2={LIMIT} y1="2" y2="24" className={css.limit} />
      {sum !== null && <line x1={x(sum)} x2={x(sum)} y1="2" y2="24" className={css.sum} data-over={end > x(sum)} />}
    </svg>
  );
}
