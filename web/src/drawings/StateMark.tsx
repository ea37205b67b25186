/** Where a property stands, by weight of ink: solid for what presses, half for what is under way, an outline for what is
 * still to be agreed, a tick for what is done. */
import type { Schemas } from "../api/client";
import { Tick } from "./Mark";

export type PropertyState = Schemas["StandingOut"]["state"];

const WEIGHT: Record<PropertyState, "solid" | "half" | "outline" | "dashed" | "tick"> = {
  "to put right": "solid",
  "on hold": "half",
  "in hand": "half",
  "copies due": "half",
  booked: "outline",
  asked: "outline",
  due: "outline",
  never: "dashed",
  done: "tick",
};

interface Props {
  state: PropertyState;
  /** A day has passed: it presses, whatever it is. */
  late?: boolean;
  size?: number;
}

export function StateMark({ state, late, size = 13 }: Props) {
  const weight = late ? "solid" : WEIGHT[state];
  if (weight === "tick")
    return (
      <span aria-hidden style={{ display: "inline-grid", width: size, flex: "none" }}>
        <Tick size={size} />
      </span>
    );
  return (
    <svg width={size} height={size} viewBox="0 0 12 12" aria-hidden style={{ flex: "none", display: "inline-block" }}>
      <StateShape weight={weight} />
    </svg>
  );
}

function StateShape({ weight }: { weight: "solid" | "half" | "outline" | "dashed" }) {
  if (weight === "solid") return <circle cx="6" cy="6" r="5.4" fill="currentColor" />;
  return (
    <>
      <circle
        cx="6"
        cy="6"
        r="4.8"
        fill="none"
        stroke="currentColor"
        strokeWidth="1.4"
        strokeDasharray={weight === "dashed" ? "2 1.6" : undefined}
      />
      {weight === "half" && <path d="M1.2 6 A4.8 4.8 0 0 0 10.8 6 Z" fill="currentColor" />}
    </>
  );
}

/** How a point of that state is drawn on a map. */
export const pointLook = (state: PropertyState, late: boolean): "solid" | "half" | "outline" | "done" => {
  const weight = late ? "solid" : WEIGHT[state];
  return weight === "tick" ? "done" : weight === "dashed" ? "outline" : weight;
};
