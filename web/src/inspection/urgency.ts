/** The order in which standings are shown and outweigh each other: what fails first. */
import type { Status } from "../api/client";

/** What does not pass. */
export const URGENCY = ["fail", "attention", "unknown"] as const satisfies readonly Status[];
export type Urgency = (typeof URGENCY)[number];

const ORDER: readonly Status[] = [...URGENCY, "pass"];

/** Below nothing where the first is the more urgent. */
export const byUrgency = (a: Status, b: Status): number => ORDER.indexOf(a) - ORDER.indexOf(b);
