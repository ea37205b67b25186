/** A reading over the years as a small line: the last dot is today's; one behind `>` or `<` is hollow. */
import type { Schemas } from "../api/client";

type Point = Schemas["StoryPointOut"];

const WIDTH = 76;
const HEIGHT = 26;
const EDGE = 5;

/** Insulation spans decades: there equal steps are equal ratios. */
const scaled = (value: number, ratio: boolean) => (ratio ? Math.log10(Math.max(value, 0.01)) : value);

export function Spark({ points, ratio = false }: { points: readonly Point[]; ratio?: boolean }) {
  const known = points.filter((point): point is Point & { value: number } => point.value !== null);
  if (known.length === 0) return <svg width={WIDTH} height={HEIGHT} aria-hidden="true" />;
  const times = known.map((point) => Date.parse(point.on));
  const values = known.map((point) => scaled(point.value, ratio));
  const [from, to] = [Math.min(...times), Math.max(...times)];
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const x = (time: number) => (to === from ? WIDTH - EDGE : EDGE + ((time - from) / (to - from)) * (WIDTH - 2 * EDGE));
  // Below a tenth of its size, or of a decade, a change is drawn level: it is nothing to look at.
  const least = ratio ? 0.3 : Math.abs(high) * 0.2;
  const span = Math.max(high - low, least, 1e-6);
  const middle = (low + high) / 2;
  const y = (value: number) => HEIGHT / 2 - ((value - middle) / span) * (HEIGHT - 2 * EDGE);
  const at = known.map((point, i) => ({ point, x: x(times[i] ?? 0), y: y(values[i] ?? 0) }));
  return (
    <svg width={WIDTH} height={HEIGHT} aria-hidden="true" style={{ flex: "none" }}>
      <polyline
        points={at.map((one) => `${one.x},${one.y}`).join(" ")}
        fill="none"
        stroke="currentColor"
        strokeWidth="1.3"
      />
      {at.map(({ point, x: cx, y: cy }, i) => {
        const last = i === at.length - 1;
        const bound = /^[<>]/.test(point.text);
        return (
          <circle
            key={point.on}
            cx={cx}
            cy={cy}
            r={last ? 4 : 2}
            fill={bound ? "var(--d-colors-sheet)" : "currentColor"}
            stroke="currentColor"
            strokeWidth={bound ? 1.3 : 0}
          />
        );
      })}
    </svg>
  );
}
