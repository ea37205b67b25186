/** A home over the years on one line: built, rewired, each visit with its codes, and when it is due again. */
import { Box } from "@chakra-ui/react";
import type { Schemas } from "../api/client";
import { day } from "../ui/when";

type Event = Schemas["EventOut"];

const WIDTH = 1000;
const HEIGHT = 122;
const LINE = 62;
const EDGE = 86;
/** Words of two events stand no nearer than this. */
const APART = 190;

const yearOf = (on: string) => {
  const [year = "0", month = "1", dayOfMonth = "1"] = on.split("-");
  return Number(year) + (Number(month) - 1) / 12 + (Number(dayOfMonth) - 1) / 365;
};

/** Where each event stands: to scale where there is room, pushed apart where there is none. */
export function places(years: readonly number[]): number[] {
  const [first, last] = [years[0] ?? 0, years.at(-1) ?? 0];
  const span = Math.max(last - first, 1);
  const room = WIDTH - 2 * EDGE;
  const apart = Math.min(APART, years.length > 1 ? room / (years.length - 1) : room);
  const positions = years.map((year) => EDGE + ((year - first) / span) * room);
  for (let at = 1; at < positions.length; at++) positions[at] = Math.max(positions[at]!, positions[at - 1]! + apart);
  for (let at = positions.length - 1; at >= 0; at--) {
    positions[at] = Math.min(positions[at]!, at === positions.length - 1 ? WIDTH - EDGE : positions[at + 1]! - apart);
  }
  return positions;
}

const codesOf = (event: Event) =>
  Object.entries(event.codes)
    .map(([code, count]) => (count > 1 ? `${code} × ${count}` : code))
    .join(" · ");

function wordsOf(event: Event): [above: string, below: string] {
  const when = event.on.length > 4 ? day(event.on, { month: "short", year: "numeric" }) : event.on;
  if (event.kind === "due") return [when, "due again"];
  if (event.kind !== "inspection") return ["", `${when} ${event.kind}`];
  const standing = event.issued ? (event.outcome ?? "issued") : "in hand";
  return [codesOf(event) || (event.issued ? "no codes" : ""), `${when} ${standing}`];
}

interface Props {
  events: readonly Event[];
  /** Several installations: each visit says which. */
  named: boolean;
  open: (inspectionId: string) => void;
}

export function Timeline({ events, named, open }: Props) {
  const at = places(events.map((event) => yearOf(event.on)));
  const sentence = events.map((event) => wordsOf(event).filter(Boolean).reverse().join(", ")).join("; ");
  return (
    <Box overflowX="auto" tabIndex={0} role="region" aria-label="Over the years">
      <Box minW="44rem">
        <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} width="100%" role="img" aria-label={sentence}>
          <line x1="12" x2={WIDTH - 12} y1={LINE} y2={LINE} stroke="currentColor" strokeWidth="2" />
          {events.map((event, i) => (
            <EventMark
              key={event.kind + event.on + event.inspection_id}
              event={event}
              x={at[i] ?? 0}
              named={named}
              open={open}
            />
          ))}
        </svg>
      </Box>
    </Box>
  );
}

function EventMark({ event, x, named, open }: { event: Event; x: number } & Pick<Props, "named" | "open">) {
  const [above, below] = wordsOf(event);
  const unsatisfactory = event.outcome === "unsatisfactory";
  const id = event.inspection_id;
  const strong = event.kind === "inspection" && unsatisfactory ? 700 : 400;
  return (
    <g
      onClick={id ? () => open(id) : undefined}
      style={{ cursor: id ? "pointer" : undefined }}
      fontSize="18"
      textAnchor="middle"
      fill="currentColor"
    >
      <text x={x} y={LINE - 24} style={{ fontWeight: strong }}>
        {above}
      </text>
      <circle
        cx={x}
        cy={LINE}
        r={event.kind === "inspection" ? 9 : 7}
        fill={unsatisfactory ? "currentColor" : "var(--d-colors-sheet)"}
        stroke="currentColor"
        strokeWidth="2"
        strokeDasharray={
          event.kind === "due" ? "3 3" : event.kind === "inspection" && !event.issued ? "4 3" : undefined
        }
      />
      <text x={x} y={LINE + 34} style={{ fontWeight: strong }}>
        {below}
      </text>
      {named && event.installation && (
        <text x={x} y={LINE + 54} fontSize="15">
          {event.installation}
        </text>
      )}
    </g>
  );
}
