/** Zones round a bath or shower, from the side and from above, with the points where they stand; a tap places the chosen one. */
import { Box } from "@chakra-ui/react";
import type { Schemas } from "../api/client";
import css from "./ZonesDrawing.module.css";

type Zones = Schemas["Zones"];

export interface Placed {
  id: string;
  name: string;
  zone: string | null;
  /** What is asked there and not shown to be met. */
  wanting: boolean;
  height: number | null;
  /** From the edge of bath or tray (m). */
  distance: number | null;
  x: number | null;
  y: number | null;
}

export interface Partition {
  x1: number;
  y1: number;
  x2: number;
  y2: number;
  top_m?: number;
}

interface Props {
  zones: Zones;
  points: readonly Placed[];
  chosen: string | null;
  choose: (id: string) => void;
}

/** Pixels to a metre, and the finest step of a tap (m). */
const SCALE = 100;
const STEP = 0.05;
const ROUND = (metres: number) => Math.round(Math.round(metres / STEP) * STEP * 100) / 100;

function tapped(event: React.MouseEvent<SVGSVGElement>, box: readonly [number, number, number, number]) {
  const frame = event.currentTarget.getBoundingClientRect();
  const [left, top, width, height] = box;
  const scale = Math.max(width / frame.width, height / frame.height);
  // The drawing keeps its shape: what is left over stands on both sides of it.
  const across = (frame.width - width / scale) / 2;
  const down = (frame.height - height / scale) / 2;
  return {
    x: (event.clientX - frame.left - across) * scale + left,
    y: (event.clientY - frame.top - down) * scale + top,
  };
}

interface DotProps extends Pick<Props, "chosen" | "choose"> {
  point: Placed;
  x: number;
  y: number;
  /** Its name stands under it: those of neighbours stand above and below in turn. */
  below: boolean;
}

function Dot({ point, x, y, below, chosen, choose }: DotProps) {
  return (
    <g
      className={css.dot}
      data-chosen={point.id === chosen || undefined}
      data-wanting={point.wanting || undefined}
      onClick={(event) => {
        event.stopPropagation();
        choose(point.id);
      }}
    >
      <circle cx={x} cy={y} r="22" className={css.reach} />
      <circle cx={x} cy={y} r="9" />
      <text x={x} y={below ? y + 24 : y - 15} textAnchor="middle">
        {point.name}
      </text>
    </g>
  );
}

interface SideProps extends Props {
  place: (height: number, distance: number) => void;
}

/** From the side: bath or tray, the zones beside and above it, heights to scale. */
export function ZonesFromTheSide({ zones, points, chosen, choose, place }: SideProps) {
  const { basin, top_m: top, reach_m: reach } = zones;
  const outlet = basin.length < 3;
  const xs = basin.map((at) => at[0] ?? 0);
  const wide = outlet ? 0 : (Math.max(...xs) - Math.min(...xs)) * SCALE;
  const away = 1.9 * SCALE;
  const ceiling = Math.max(top, 2.4) + 0.15;
  const y = (metres: number) => (ceiling - metres) * SCALE;
  const box = [-70, -8, wide + away + 100, ceiling * SCALE + 30] as const;
  const standing = points.filter((one) => one.height !== null && one.distance !== null);
  const above = standing.filter((one) => (one.distance ?? 0) === 0);
  const xOf = (one: Placed) => {
    if ((one.distance ?? 0) > 0) return Math.min(wide + (one.distance ?? 0) * SCALE, wide + away);
    // Over the bath nothing says where along it: side by side.
    return outlet ? 0 : (wide * (above.indexOf(one) + 1)) / (above.length + 1);
  };
  const rim = 0.55;
  return (
    <Box className={css.frame}>
      <svg
        viewBox={box.join(" ")}
        role="img"
        aria-label={`Zones from the side: ${outlet ? "no tray" : "bath or tray"}, up to ${top} m`}
        onClick={(event) => {
          const at = tapped(event, box);
          place(ROUND(Math.max(0, ceiling - at.y / SCALE)), at.x <= wide ? 0 : ROUND((at.x - wide) / SCALE));
        }}
      >
        <line x1={box[0]} x2={box[0] + box[2]} y1={y(0)} y2={y(0)} className={css.floor} />
        <rect
          x={outlet ? 0 : 0}
          y={y(top)}
          width={outlet ? reach * SCALE : wide}
          height={top * SCALE}
          className={css.one}
        />
        {!outlet && <rect x="0" y={y(rim)} width={wide} height={rim * SCALE} className={css.zero} />}
        {!outlet && <rect x={wide} y={y(top)} width={reach * SCALE} height={top * SCALE} className={css.two} />}
        <text x={outlet ? 10 : wide / 2} y={y(1.35)} textAnchor={outlet ? "start" : "middle"}>
          zone 1
        </text>
        {!outlet && (
          <text x={wide / 2} y={y(0.2)} textAnchor="middle">
            zone 0
          </text>
        )}
        {!outlet && (
          <text x={wide + (reach * SCALE) / 2} y={y(0.2)} textAnchor="middle">
            zone 2
          </text>
        )}
        <text x="-8" y={y(top) + 12} textAnchor="end" className={css.measure}>
          {top.toFixed(2)} m
        </text>
        <text x={wide + reach * SCALE + 8} y={y(0) + 18} className={css.measure}>
          {reach.toFixed(1)} m
        </text>
        {standing.map((one, at) => (
          <Dot
            key={one.id}
            point={one}
            x={xOf(one)}
            y={y(one.height ?? 0)}
            below={at % 2 === 1}
            chosen={chosen}
            choose={choose}
          />
        ))}
      </svg>
    </Box>
  );
}

interface AboveProps extends Props {
  partitions: readonly Partition[];
  place: (x: number, y: number) => void;
}

/** From above: the room with its bath, fixed partitions, and how far the zones reach round them. */
export function ZonesFromAbove({ zones, points, partitions, chosen, choose, place }: AboveProps) {
  const box = [-12, -22, zones.length_m * SCALE + 24, zones.width_m * SCALE + 40] as const;
  const outlet = zones.basin.length < 3;
  const strips = (of: number[][], name: string) =>
    of.map(([y = 0, from = 0, to = 0]) => (
      <rect
        key={`${name}${y}/${from}`}
        x={from * SCALE}
        y={y * SCALE}
        width={(to - from) * SCALE}
        height={zones.step_m * SCALE + 0.5}
        className={css[name]}
      />
    ));
  return (
    <Box className={css.frame}>
      <svg
        viewBox={box.join(" ")}
        role="img"
        aria-label="The room from above, with its zones"
        onClick={(event) => {
          const at = tapped(event, box);
          place(ROUND(Math.max(0, at.x / SCALE)), ROUND(Math.max(0, at.y / SCALE)));
        }}
      >
        <clipPath id="walls">
          <rect width={zones.length_m * SCALE} height={zones.width_m * SCALE} />
        </clipPath>
        <g clipPath="url(#walls)">
          {strips(zones.zone_2, "band2")}
          {strips(zones.zone_1, "band1")}
        </g>
        {!outlet && (
          <polygon
            points={zones.basin.map(([x = 0, y = 0]) => `${x * SCALE},${y * SCALE}`).join(" ")}
            className={css.zero}
          />
        )}
        <rect width={zones.length_m * SCALE} height={zones.width_m * SCALE} className={css.walls} />
        {partitions.map((one, at) => (
          <line
            key={at}
            x1={one.x1 * SCALE}
            y1={one.y1 * SCALE}
            x2={one.x2 * SCALE}
            y2={one.y2 * SCALE}
            className={css.partition}
          />
        ))}
        <text x={zones.length_m * SCALE} y="-8" textAnchor="end" className={css.measure}>
          {zones.length_m} × {zones.width_m} m
        </text>
        {points
          .filter((one) => one.x !== null && one.y !== null)
          .map((one, at) => (
            <Dot
              key={one.id}
              point={one}
              x={(one.x ?? 0) * SCALE}
              y={(one.y ?? 0) * SCALE}
              below={at % 2 === 1}
              chosen={chosen}
              choose={choose}
            />
          ))}
      </svg>
    </Box>
  );
}
