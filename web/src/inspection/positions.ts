/** How switches, breakers and isolators stand while figures are filled in: said once, kept beside every reading that follows. */
import { create } from "zustand";
import { useShallow } from "zustand/react/shallow";
import { children, type Model } from "./model";
import { add, setField, useInspection } from "./open";
import type { Entity, Place, Value } from "./types";

/** One of them; lasts: it is of the whole board, and stays at the next circuit. */
export interface Standing {
  says: string;
  lasts: boolean;
}

interface Positions {
  now: readonly Standing[];
  /** The circuit, board or point at which they were said. */
  at: string | null;
}

const usePositions = create<Positions>(() => ({ now: [], at: null }));
const JOINT = ", ";

const standingAt = ({ now, at }: Positions, id: string) => (at === id ? now : now.filter((standing) => standing.lasts));

/** Nothing was said any more: another inspection. */
export function nothingStands(): void {
  usePositions.setState({ now: [], at: null });
}

/** How things stand from now on at a figure; a reading that stands there already was taken so. */
export function stand(place: Place, now: readonly Standing[]): void {
  usePositions.setState({ now, at: place.id });
  const kept = useInspection.getState().model?.entities[place.id]?.values[place.field];
  if (kept != null) keepBeside(place, kept);
}

/** Keep beside a reading how things stand; a reading that was taken out keeps nothing. */
export function keepBeside(place: Place, reading: Value): void {
  const { model } = useInspection.getState();
  if (!model || reading === null) return;
  const now = standingAt(usePositions.getState(), place.id);
  usePositions.setState({ now, at: place.id });
  const stood = now.map((standing) => standing.says).join(JOINT) || null;
  const beside = besideOf(model, place, reading);
  if (beside) setField({ kind: "position", id: beside.id, field: "stood" }, stood, { remember: false });
  else if (stood) add("position", model.id, { about_id: place.id, field: place.field, of_reading: reading, stood });
}

/** Each reading has its own: one that is put back finds how things stood then. */
const besideOf = (model: Model, { id, field }: Place, reading: Value): Entity | undefined =>
  children(model, "position", model.id).findLast(
    ({ values }) => values.about_id === id && values.field === field && values.of_reading === reading,
  );

/** How things stood at a reading, where it is kept; else how they stand for the one that is due. */
export function usePositionsOf(place: Place | null): string[] {
  const standing = usePositions(useShallow((s) => (place ? standingAt(s, place.id).map((one) => one.says) : [])));
  const stood = useInspection((s) => {
    const reading = place ? s.model?.entities[place.id]?.values[place.field] : undefined;
    if (!s.model || !place || reading == null) return null;
    return String(besideOf(s.model, place, reading)?.values.stood ?? "");
  });
  return stood === null ? standing : stood.split(JOINT).filter(Boolean);
}
