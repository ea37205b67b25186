/** Entries that the device is still at keeping, written down at once: a reload in that moment finds them.
 *
 * The database of the device answers once the page has been drawn; until then nothing would be sent. A slip stands in the
 * meantime, so that an entry is on its way before it is drawn, and no reload loses it.
 */
import { sealNow, unsealNow } from "../api/vault";
import type { Pending } from "./types";

const NAME = "dorrik.slip.";
/** Longer entries wait for the database: there is little room for slips. */
const LONGEST = 20_000;

export interface Slip {
  pending: Pending;
  /** Ids of refused changes that gave way to it. */
  replaces: string[];
}

/** Write an entry down; false where that cannot be, as in a browser that forbids it. */
export function keep(slip: Slip): boolean {
  const plain = JSON.stringify(slip);
  const text = plain.length > LONGEST ? undefined : sealNow(plain);
  if (text === undefined) return false;
  try {
    localStorage.setItem(NAME + slip.pending.change.id, text);
    return true;
  } catch {
    return false;
  }
}

export function drop(changeId: string): void {
  try {
    localStorage.removeItem(NAME + changeId);
  } catch {
    // Where none can be written there is none.
  }
}

/** Slips that were left, in the order in which they were written. */
export function left(): Slip[] {
  try {
    const all = Array.from({ length: localStorage.length }, (_, at) => localStorage.key(at) ?? "");
    const names = all.filter((name) => name.startsWith(NAME));
    // Ids of changes are in the order of time.
    return names.sort().flatMap((name) => read(localStorage.getItem(name)));
  } catch {
    return [];
  }
}

function read(text: string | null): Slip[] {
  try {
    const plain = text === null ? undefined : unsealNow(text);
    return plain === undefined ? [] : [JSON.parse(plain) as Slip];
  } catch {
    return [];
  }
}
