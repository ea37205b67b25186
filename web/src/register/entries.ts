/** Entries of the firm's register, made and changed on the server. */
import { api, answer, type Schemas } from "../api/client";
import type { Value } from "../inspection/types";

export type Entry = Schemas["RegisterEntry"];

/** Make an entry; returns it. Throws Refused with the server's words. */
export async function addEntry(kind: Entry["kind"], parentId: string, values: Record<string, Value>): Promise<Entry> {
  return answer(
    api.POST("/api/register/{kind}", { params: { path: { kind } }, body: { parent_id: parentId, values } }),
  );
}

/** What was sent last of each entry: a field arrives after those that were left before it, however slow those are. A
 * value is checked beside the others, so that the order says what is refused. */
const sent = new Map<string, Promise<unknown>>();

export async function changeEntry(entry: Entry, values: Record<string, Value>): Promise<Entry> {
  const path = { kind: entry.kind, entry_id: entry.id };
  const before = sent.get(entry.id) ?? Promise.resolve();
  const change = before
    .catch(() => undefined)
    .then(() => answer(api.PATCH("/api/register/{kind}/{entry_id}", { params: { path }, body: { values } })));
  sent.set(entry.id, change);
  try {
    return await change;
  } finally {
    if (sent.get(entry.id) === change) sent.delete(entry.id);
  }
}
