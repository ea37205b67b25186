/** The way of one day, from home and back, over every other visit of the week; no coast, no streets: kilometres alone. */
import { Box } from "@chakra-ui/react";
import { day as dayWords } from "../ui/when";
import type { PlanDay, PlanInspector } from "./usePlanner";

interface Props {
  day: PlanDay | undefined;
  inspectors: readonly PlanInspector[];
  chosen: string;
}

const WIDTH = 600;
const HEIGHT = 150;
const EDGE = 24;

interface Spot {
  id: string;
  name: string;
  east: number;
  north: number;
}

export function DayMap({ day, inspectors, chosen }: Props) {
  const whose = inspectors.find((one) => day && one.days.includes(day));
  if (!day || !whose || day.leaves === null) return null;
  const home = spot({ id: "home", name: whose.name, east_km: whose.east_km, north_km: whose.north_km });
  const stops = day.stops.flatMap((one) => spot(one));
  const way = [...home, ...stops, ...home];
  if (way.length < 2) return null;
  const others = inspectors.flatMap((one) => one.days.flatMap((other) => other.stops.flatMap((stop) => spot(stop))));
  const at = projection([...way, ...others]);
  const points = way.map((one) => at(one).join(",")).join(" ");
  return (
    <Box bg="sheet" borderWidth="1px" borderColor="line" borderRadius="lg" color="ink" mt="2">
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        width="100%"
        role="img"
        aria-label={`${whose.name}, ${dayWords(day.day)}: ${stops.map((one) => one.name).join(", ")}, ${day.km.toFixed(1)} km`}
      >
        <text x="12" y="20" fontSize="13" fill="var(--d-colors-quiet)">
          {dayWords(day.day, { weekday: "long" })}, {whose.name}, {day.km.toFixed(1)} km
        </text>
        {others.map((one, index) => {
          const [x, y] = at(one);
          return <circle key={index} cx={x} cy={y} r="3.5" fill="none" stroke="var(--d-colors-faint)" />;
        })}
        <polyline points={points} fill="none" stroke="currentColor" strokeWidth="1.6" />
        {[...home, ...stops].map((one, index) => {
          const [x, y] = at(one);
          const lit = one.id === chosen;
          return (
            <g key={`${one.id} ${index}`}>
              <circle
                cx={x}
                cy={y}
                r={lit ? 7 : 5}
                fill={one.id === "home" ? "currentColor" : lit ? "var(--d-colors-lamp)" : "var(--d-colors-sheet)"}
                stroke="currentColor"
                strokeWidth="1.6"
              />
              {lit && (
                <text x={x + 12} y={y - 6} fontSize="13" fontWeight="700">
                  {one.name}
                </text>
              )}
            </g>
          );
        })}
      </svg>
    </Box>
  );
}

const spot = (one: { id: string; name: string; east_km: number | null; north_km: number | null }): Spot[] =>
  one.east_km === null || one.north_km === null
    ? []
    : [{ id: one.id, name: one.name, east: one.east_km, north: one.north_km }];

/** Kilometres onto the drawing, alike in both directions. */
function projection(spots: readonly Spot[]): (spot: Spot) => [number, number] {
  const [easts, norths] = [spots.map((one) => one.east), spots.map((one) => one.north)];
  const [west, east, south, north] = [Math.min(...easts), Math.max(...easts), Math.min(...norths), Math.max(...norths)];
  const scale = Math.min(
    (WIDTH - 2 * EDGE) / Math.max(east - west, 0.05),
    (HEIGHT - 2.5 * EDGE) / Math.max(north - south, 0.05),
  );
  const left = (WIDTH - (east - west) * scale) / 2;
  const top = 1.4 * EDGE + (HEIGHT - 2.5 * EDGE - (north - south) * scale) / 2;
  return (one) => [left + (one.east - west) * scale, top + (north - one.north) * scale];
}
