/** The parts of the intake, and which figures belong to each. */
import { INTAKE } from "../api/declared.gen";
import type { Place } from "../inspection/types";

export type PartKey = keyof typeof INTAKE;
export const FIELDS: Record<PartKey, readonly string[]> = INTAKE;
export const PARTS = Object.keys(INTAKE) as PartKey[];

/** Anything else that is tapped is a bond, by its id. */
export const isPart = (key: string): key is PartKey => key in FIELDS;

/** The part, or the bond, that a figure belongs to; null for what is not drawn. */
export function partOf(place: Place): string | null {
  if (place.kind === "bond") return place.id;
  return place.kind === "inspection" ? (PARTS.find((key) => FIELDS[key].includes(place.field)) ?? null) : null;
}
