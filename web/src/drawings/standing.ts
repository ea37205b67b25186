/** The mark that a drawn thing carries: the worst of what is said of it. */
import type { Judgement, Status } from "../api/client";
import { URGENCY } from "../inspection/urgency";

/** What follows from another figure is told there, and marks nothing here. */
export function worst(judgement: Judgement | null, speaks: (id: string, field: string) => boolean): Status | undefined {
  const notes = (judgement?.notes ?? []).filter((note) => !note.because_of && speaks(note.id, note.field));
  return URGENCY.find((status) => notes.some((note) => note.standing === status));
}
