/** The ring as its readings lay it out: the board on the left, each point at its place, spurs outside with their metres. */
import type { Schemas } from "../api/client";
import { asides } from "../inspection/aside";
import { useDesk } from "../inspection/desk";
import { useInspection } from "../inspection/open";

import css from "./RingDrawing.module.css";

type Bench = Schemas["BenchView"];
const WIDE = 400;
const HIGH = 250;
const CENTRE = [WIDE / 2 + 6, HIGH / 2] as const;
const REACH = [146, 78] as const;
/** Where a place from 0 to 1 lies: from the board on the left over the top and back. */
function at(place: number, out = 0): readonly [number, number] {
  const turn = 2 * Math.PI * place;
  return [CENTRE[0] - (REACH[0] + out) * Math.cos(turn), CENTRE[1] - (REACH[1] + out) * Math.sin(turn)];
}

const metres = (m: number) => (m < 10 ? m.toFixed(1) : m.toFixed(0));

interface Props {
  bench: Bench;
  way: string;
  line: string;
  choose: (pointId: string) => void;
}

export function RingDrawing({ bench, way, line, choose }: Props) {
  const focused = useDesk((s) => s.focus?.id);
  const leftOut = useInspection((s) => asides(s.model?.judgement));
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      className={css.ring}
      role="img"
      aria-label={`Ring of ${bench.points.length} points${bench.length_m ? `, ${metres(bench.length_m)} m of cable` : ""}`}
    >
      <ellipse
        cx={CENTRE[0]}
        cy={CENTRE[1]}
        rx={REACH[0]}
        ry={REACH[1]}
        className={css.cable}
        data-open={bench.open || undefined}
      />
      {bench.length_m != null && !bench.open && (
        <>
          <text x={CENTRE[0]} y={CENTRE[1] - 2} textAnchor="middle" className={css.metres}>
            {metres(bench.length_m)} m
          </text>
          <text x={CENTRE[0]} y={CENTRE[1] + 20} textAnchor="middle" className={css.quiet}>
            of cable round the ring
          </text>
        </>
      )}
      {bench.gap && <Break bench={bench} />}
      {bench.open && (
        <text x={CENTRE[0]} y={CENTRE[1] - 2} textAnchor="middle" className={css.metres}>
          open
        </text>
      )}
      {line && (
        <text x={CENTRE[0]} y={CENTRE[1] + 40} textAnchor="middle" className={css.quiet}>
          {line}
        </text>
      )}
      <g>
        <rect x={at(0)[0] - 20} y={CENTRE[1] - 27} width="40" height="54" rx="4" className={css.board} />
        <text x={at(0)[0]} y={CENTRE[1] + 5} textAnchor="middle" className={css.way}>
          {bench.starts_at ? "ends" : way}
        </text>
      </g>
      {bench.starts_at && <BoardOnTheWay place={bench.board_at} way={way} />}
      {bench.across.map((pair) => (
        <Link key={pair.one_end} points={bench.points} pair={pair} />
      ))}
      {bench.points.map(
        (point, index) =>
          // The socket whose ends are open is drawn as the ends.
          !(bench.starts_at && point.walked === 0) && (
            <Dot
              key={point.id}
              point={point}
              number={index + 1}
              chosen={focused === point.id}
              aside={leftOut.get(point.id)?.state}
              // What a link across would explain is drawn as the link.
              says={bench.across.length > 0 && point.spur_m != null ? "" : point.says}
              choose={() => choose(point.id)}
            />
          ),
      )}
    </svg>
  );
}

/** The board, where the ends were opened at a socket: it is passed on the way round. */
function BoardOnTheWay({ place, way }: { place: number; way: string }) {
  const [x, y] = at(place);
  return (
    <g>
      <rect x={x - 15} y={y - 15} width="30" height="30" rx="4" className={css.board} />
      <text x={x} y={y + 5} textAnchor="middle" className={css.way}>
        {way}
      </text>
    </g>
  );
}

/** A link across the ring, as it may run between the first and the last of the points that read high together. */
function Link({ points, pair }: { points: Bench["points"]; pair: Bench["across"][number] }) {
  const place = (id: string) => at(points.find((one) => one.id === id)?.walked ?? 0);
  const [x, y] = place(pair.one_end);
  const [u, v] = place(pair.other_end);
  const inwards = (one: number, other: number, centre: number) => (one + other) / 4 + centre / 2;
  return (
    <path d={`M${x} ${y} Q${inwards(x, u, CENTRE[0])} ${inwards(y, v, CENTRE[1])} ${u} ${v}`} className={css.link}>
      <title>A link across the ring could run here</title>
    </path>
  );
}

/** A break across the cable between the two points on either side of the gap, or next to the one that is known. */
function Break({ bench: { points, gap } }: { bench: Bench }) {
  const place = (id: string | null | undefined) => points.find((one) => one.id === id)?.walked;
  const before = place(gap?.before);
  const after = place(gap?.after);
  if (before === undefined && after === undefined) return null;
  const step = 0.5 / (points.length + 1);
  const [x, y] = at(((before ?? (after ?? 0) - 2 * step) + (after ?? (before ?? 0) + 2 * step)) / 2);
  return (
    <g>
      <circle cx={x} cy={y} r="12" className={css.blank} />
      <path d={`M${x - 9} ${y - 9} L${x + 9} ${y + 9} M${x + 9} ${y - 9} L${x - 9} ${y + 9}`} className={css.gap} />
    </g>
  );
}

interface DotProps {
  point: Schemas["BenchPoint"];
  number: number;
  chosen: boolean;
  /** Left disconnected, or out of scope. */
  aside?: string;
  says: string;
  choose: () => void;
}

function Dot({ point, number, chosen, aside, says, choose }: DotProps) {
  const place = point.position ?? point.walked;
  const spur = point.spur_m != null;
  const [x, y] = at(place, spur ? 32 : 0);
  const foot = at(place);
  // Words lean inwards, so that none is cut off at the side; what a point is called stands in the table.
  const anchor = x > WIDE * 0.7 ? "end" : x < WIDE * 0.3 ? "start" : "middle";
  return (
    <g
      className={css.dot}
      data-chosen={chosen || undefined}
      data-tested={point.tested || undefined}
      data-aside={aside}
      onClick={choose}
      aria-hidden
    >
      {spur && (
        <>
          <line x1={foot[0]} y1={foot[1]} x2={x} y2={y} className={css.spur} />
          <circle cx={foot[0]} cy={foot[1]} r="4" className={css.foot} />
        </>
      )}
      <circle cx={x} cy={y} r="22" className={css.reach} />
      <circle cx={x} cy={y} r="11" />
      <text x={x} y={y + 4.5} textAnchor="middle" className={css.number}>
        {number}
      </text>
      {(aside || says) && (
        <text x={x} y={y < CENTRE[1] ? y - 18 : y + 36} textAnchor={anchor} className={css.says}>
          {aside ?? says}
        </text>
      )}
    </g>
  );
}
