/** What waits on this device, as screens see it; what keeps and sends it is outbox.ts, which they need not wait for. */
import { create } from "zustand";
import type { Pending } from "./types";

interface Outbox {
  /** Changes on this device in the order in which they were made, whoever made them; refused ones stay until mended. */
  changes: readonly Pending[];
  /** Photos on this device, by the digest of their content: why the server will not have them, empty while they wait. */
  photos: Readonly<Record<string, string>>;
  /** When the server last acknowledged something, milliseconds. */
  keptAt: number | null;
  /** The device itself cannot keep anything (storage full or forbidden). */
  deviceFailed: boolean;
  /** Inspections that the server will take nothing for, and what it said. */
  barred: Readonly<Record<string, string>>;
}

export const useOutbox = create<Outbox>(() => ({
  changes: [],
  photos: {},
  keptAt: null,
  deviceFailed: false,
  barred: {},
}));

/** Who is signed in; nobody: nothing here is theirs. */
let author = "";
export const authorHere = (): string => author;
export const setAuthor = (who: string): void => void (author = who);

/** What still waits on this device, of whoever is signed in: entries and photos. */
export const waiting = ({ changes, photos }: Outbox): number =>
  changes.filter((p) => mine(p) && !p.refused).length + Object.values(photos).filter((refused) => !refused).length;

/** Photos of before authors were kept go under whoever is signed in. */
export const mine = (one: { author?: string }): boolean => author !== "" && (one.author ?? author) === author;

/** What of one inspection is on this device, by whoever is signed in. */
export const changesOf = (inspectionId: string): Pending[] =>
  useOutbox.getState().changes.filter((p) => p.inspectionId === inspectionId && mine(p));

/** Whether an inspection so far is only on this device: what makes it has not reached the server. */
export const isOnlyHere = (inspectionId: string): boolean =>
  changesOf(inspectionId).some(({ change }) => makes(change));

/** Inspections that so far are only on this device, the latest first: id, and what names them. */
export function onlyHere(): { id: string; title: string; at: number }[] {
  const made = useOutbox.getState().changes.filter((p) => mine(p) && makes(p.change));
  return made.reverse().map(({ inspectionId: id, change }) => {
    const named = (field: string) =>
      changesOf(id).findLast(({ change: c }) => c.entity_id === id && c.field === field)?.change.value;
    const title = [named("reference"), named("property_address")].filter(Boolean).map(String).join(" · ");
    return { id, title: title || "New inspection", at: Date.parse(change.made_at) };
  });
}

const makes = ({ entity, field }: Pending["change"]): boolean => entity === "inspection" && field === "firm";
