/** Carries an inspection's changes between this device and the server.
 *
 * Each change is kept on the device first, then sent; it leaves the device only when the server has acknowledged
 * it. A lost connection or an ended session stops nothing: what waits is sent when it can be.
 */
import { v7 as uuidv7 } from "uuid";
import { create } from "zustand";
import { api, answer, Refused } from "../api/client";
import { device, deviceId } from "./device";
import * as model from "./model";
import { keyOf, type Kind, PARENT, type Pending, type Place, type Value } from "./types";

export type Line = "ok" | "offline" | "signed-out";

interface State {
  model: model.Model | null;
  line: Line;
  /** When the server last acknowledged something, milliseconds. */
  keptAt: number | null;
  /** The device itself cannot keep anything (storage full or forbidden). */
  deviceFailed: boolean;
  error: string | null;
  undoable: { place: Place; before: Value }[];
}

/** The most that goes in one batch: changes, and characters of their values. */
const BATCH = { changes: 200, characters: 400_000 };
/** An entry longer than this is kept here and not sent: it would never be taken. */
const LONGEST = 100_000;
/** So often the server may fail on one entry alone before that is set aside and the rest goes on. */
const FAILURES = 3;
const RETRY = [500, 1000, 2000, 5000, 10000];
const POLL = 3000;

export const useInspection = create<State>(() => ({
  model: null,
  line: "ok",
  keptAt: null,
  deviceFailed: false,
  error: null,
  undoable: [],
}));

const { getState: get, setState: set } = useInspection;
let me = { id: "", firm_id: "" };
let sending = false;
let attempts = 0;
/** Fewer at a time after the server has failed on a batch, until it takes one again. */
let atOnce = BATCH.changes;
let failures = 0;
let retry: ReturnType<typeof setTimeout> | undefined;
let poll: ReturnType<typeof setInterval> | undefined;

/** May this person do that with the open inspection? Where nothing is known yet, the server decides once it hears of it. */
export function useMay(action: NonNullable<model.Model["may"]>[number]): boolean {
  return useInspection((s) => s.model?.may?.includes(action) ?? true);
}

/** Load an inspection, or begin the one that so far is only on this device. */
export async function load(id: string, who: { id: string; firm_id: string }): Promise<void> {
  me = who;
  if (get().model?.id !== id) set({ model: null, error: null, undoable: [] });
  const left = await device.pending
    .where({ inspectionId: id })
    .sortBy("n")
    .catch(() => []);
  const pending = left.filter((p) => p.author === who.id);
  try {
    const found = await answer(
      api.GET("/api/inspections/{inspection_id}", { params: { path: { inspection_id: id } } }),
    );
    // What was typed while this was on its way is in memory already, and may not be on the device yet.
    const here = get().model;
    set({ model: model.open(found, here?.id === id ? here.pending : pending), line: "ok", error: null });
  } catch (error) {
    const status = error instanceof Refused ? error.status : 0;
    if (status === 401) set({ line: "signed-out" });
    else if (get().model?.id === id) set({ line: status === 404 ? "ok" : "offline" });
    else if (status === 404 && pending.length) set({ model: model.blank(id, pending) });
    else
      set({
        error:
          error instanceof Refused ? error.message : "The server cannot be reached. What waits on this device is safe.",
      });
  }
  flush();
  clearInterval(poll);
  poll = setInterval(() => document.visibilityState === "visible" && listen(), POLL);
}

export function leave(): void {
  clearInterval(poll);
}

/** Set one field; it is kept on the device, then sent. */
export function setField(place: Place, value: Value, remember = true): void {
  const current = get().model;
  if (!current) return;
  const entity = current.entities[place.id];
  const isParent = place.kind !== "inspection" && place.field === PARENT[place.kind];
  const before = (isParent ? entity?.parentId : entity?.values[place.field]) ?? null;
  const refused = model.refusal(current, place.id, place.field);
  if (before === value && !refused) return;
  if (remember && current.entities[place.id]) {
    set({ undoable: [...get().undoable.slice(-99), { place, before: before as Value }] });
  }
  append(place.kind, place.id, [[place.field, value]]);
}

/** Make an entity in its parent, with its first fields; returns its id. */
export function add(
  kind: Exclude<Kind, "inspection">,
  parentId: string,
  fields: Record<string, Value>,
  id: string = uuidv7(),
): string {
  append(kind, id, [[PARENT[kind], parentId], ...Object.entries(fields)]);
  return id;
}

/** Begin a new inspection on this device; returns its id. id: the one that the server named, so that two devices begin one. */
export function begin(
  who: { id: string; firm_id: string },
  fields: Record<string, Value>,
  id: string = uuidv7(),
): string {
  me = who;
  set({ model: model.blank(id, []), undoable: [], error: null });
  append("inspection", id, [["firm", who.firm_id], ...Object.entries(fields)]);
  return id;
}

/** Wait until the server has everything that was entered; false where it cannot be reached in time. */
export async function settled(milliseconds = 10_000): Promise<boolean> {
  const until = Date.now() + milliseconds;
  const waits = () => get().model?.pending.some((p) => !p.refused);
  while (waits() && Date.now() < until) await new Promise((done) => setTimeout(done, 60));
  return !waits();
}

/** Take in what the server did to this inspection by itself. */
export async function refresh(): Promise<void> {
  await listen();
}

/** Put back what stood before the last entry. Returns the place, so that the eye can follow. */
export function undo(): Place | null {
  const last = get().undoable.at(-1);
  if (!last) return null;
  set({ undoable: get().undoable.slice(0, -1) });
  setField(last.place, last.before, false);
  return last.place;
}

export function dismiss(noticeId: string): void {
  const current = get().model;
  if (current) set({ model: { ...current, notices: current.notices.filter((n) => n.id !== noticeId) } });
}

/** Signed in again: send what waits. */
export function resume(): void {
  set({ line: "ok" });
  const id = get().model?.id;
  if (id) void listen();
  flush();
}

/** Fields of one entity, shown together and kept one by one, in their order. */
function append(kind: Kind, id: string, fields: readonly (readonly [field: string, value: Value])[]): void {
  let current = get().model;
  if (!current) return;
  const made: [Pending, Pending[]][] = [];
  for (const [field, value] of fields) {
    const pending = pendingOf(current, kind, id, field, value);
    const replaced: Pending[] = current.pending.filter(
      (p) => p.refused && keyOf(p.change.entity_id, p.change.field) === keyOf(id, field),
    );
    current = model.write(current, pending);
    made.push([pending, replaced]);
  }
  set({ model: current });
  for (const [pending, replaced] of made) void keep(pending, replaced);
}

function pendingOf(current: model.Model, kind: Kind, id: string, field: string, value: Value): Pending {
  const change = {
    id: uuidv7(),
    entity: kind,
    entity_id: id,
    field,
    value,
    based_on: current.seq,
    made_at: new Date().toISOString(),
    device: deviceId(),
  };
  const { length } = JSON.stringify(value);
  const refused =
    length > LONGEST ? `That is ${length} characters long: it is kept on this device, but cannot be sent.` : undefined;
  return { inspectionId: current.id, author: me.id, change, ...(refused && { refused }) };
}

async function keep(pending: Pending, replaced: Pending[]): Promise<void> {
  try {
    await device.transaction("rw", device.pending, async () => {
      pending.n = (await device.pending.add({ ...pending } as never)) as number;
      await device.pending.bulkDelete(replaced.flatMap((p) => (p.n === undefined ? [] : [p.n])));
    });
    set({ deviceFailed: false });
  } catch {
    // Still in memory, and on its way to the server: said plainly in the kept line.
    set({ deviceFailed: true });
  }
  flush();
}

function flush(): void {
  if (sending || get().line === "signed-out") return;
  void send();
}

/** What goes next: the oldest first, as many as fit. */
function batch(waiting: Pending[], most: number): Pending[] {
  let characters = 0;
  const fits = waiting.slice(0, most).findIndex((p) => {
    characters += JSON.stringify(p.change.value).length + 300;
    return characters > BATCH.characters;
  });
  return waiting.slice(0, fits < 0 ? most : Math.max(1, fits));
}

async function post(id: string, sent: Pending[], judged: number | null) {
  const changes = sent.map((p) => p.change);
  const params = { path: { inspection_id: id } };
  const receipt = await answer(
    api.POST("/api/inspections/{inspection_id}/changes", { params, body: { changes, judged } }),
  );
  await settle(sent, new Map(receipt.results.map((r) => [r.id, r])));
  return receipt;
}

async function send(): Promise<void> {
  const current = get().model;
  const sent = batch(current?.pending.filter((p) => !p.refused) ?? [], atOnce);
  if (!current || !sent.length) return;
  sending = true;
  clearTimeout(retry);
  try {
    const receipt = await post(current.id, sent, current.judgedSeq);
    attempts = failures = 0;
    atOnce = BATCH.changes;
    const now = get().model;
    if (now?.id === current.id) {
      const { model: next, gap } = model.receive(
        now,
        receipt,
        sent.map((p) => p.change),
        current.judgedSeq,
      );
      set({ model: next, line: "ok", keptAt: Date.now(), error: null });
      if (gap) await listen();
    }
  } catch (error) {
    sending = false;
    await failed(error instanceof Refused ? error : null, sent);
    return;
  }
  sending = false;
  if (get().model?.pending.some((p) => !p.refused)) flush();
}

/** The batch did not get through: wait and try again, in smaller parts where the server itself failed on it. */
async function failed(error: Refused | null, sent: Pending[]): Promise<void> {
  const status = error?.status ?? 0;
  if (status === 401) return set({ line: "signed-out" });
  if (status === 500 || status === 413) {
    atOnce = 1;
    const [first] = sent;
    if (sent.length === 1 && first && ++failures >= FAILURES) {
      failures = 0;
      await setAside(first, "The server fails on this entry: it is kept on this device. The rest goes on.");
    }
  } else if (error && status === 507) {
    // Said as it is, and tried again: somebody makes room.
    set({ error: error.message });
  } else if (error && status < 500 && status !== 429) {
    // Not to be had at all, as with an inspection of another firm: kept here, and said.
    return set({ error: `${error.message} What you typed is kept on this device.`, line: "offline" });
  }
  set({ line: "offline" });
  retry = setTimeout(flush, RETRY[Math.min(attempts++, RETRY.length - 1)]);
}

async function setAside(pending: Pending, reason: string): Promise<void> {
  const now = get().model;
  if (now) {
    const marked = now.pending.map((p) => (p.change.id === pending.change.id ? { ...p, refused: reason } : p));
    set({ model: { ...now, pending: marked } });
  }
  await settle([pending], new Map([[pending.change.id, { state: "refused", reason }]]));
}

/** Let go of what the server has; write down why the rest was refused. */
async function settle(sent: Pending[], fates: Map<string, { state: string; reason: string | null }>): Promise<void> {
  try {
    for (const p of sent) {
      const fate = fates.get(p.change.id);
      // The key is known once the device has kept it, which may be after the answer.
      const key = p.n ?? (await device.pending.filter((q) => q.change.id === p.change.id).primaryKeys())[0];
      if (key === undefined || !fate) continue;
      if (fate.state === "refused") await device.pending.update(key, { refused: fate.reason ?? "" });
      else await device.pending.delete(key);
    }
  } catch {
    set({ deviceFailed: true });
  }
}

async function listen(): Promise<void> {
  const current = get().model;
  if (!current || current.seq === 0) return;
  try {
    const news = await answer(
      api.GET("/api/inspections/{inspection_id}/changes", {
        // Where the verdicts here are not known to be the latest, one entry more brings them.
        params: {
          path: { inspection_id: current.id },
          query: { since: current.judgedSeq === null ? Math.max(0, current.seq - 1) : current.seq },
        },
      }),
    );
    const now = get().model;
    if (now?.id !== current.id) return;
    if (news.entries.length) {
      const title = (e: { entity_id: string; field: string }) => {
        const values = now.entities[e.entity_id]?.values ?? {};
        return [values.way, values.designation ?? values.name, e.field].filter(Boolean).join(" ");
      };
      set({ model: model.hear(now, news, me.id, title) });
    }
    if (get().line === "offline") {
      set({ line: "ok" });
      flush();
    }
  } catch (error) {
    set({ line: error instanceof Refused && error.status === 401 ? "signed-out" : "offline" });
  }
}

/** How many of a person's changes wait on this device, over all inspections. */
export async function waitingElsewhere(author: string): Promise<number> {
  return device.pending
    .filter((p) => !p.refused && p.author === author)
    .count()
    .catch(() => 0);
}

/** Send what this person left waiting on this device, when the home screen opens. */
export async function flushAll(author: string): Promise<void> {
  const all = await device.pending
    .orderBy("n")
    .toArray()
    .catch(() => []);
  const mine = all.filter((p) => p.author === author && !p.refused);
  for (const id of new Set(mine.map((p) => p.inspectionId))) {
    for (let left = mine.filter((p) => p.inspectionId === id); left.length;) {
      const part = batch(left, BATCH.changes);
      try {
        await post(id, part, null);
      } catch {
        break;
      }
      left = left.slice(part.length);
    }
  }
}
