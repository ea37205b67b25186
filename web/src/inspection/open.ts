/** The inspection that is open: what the screens read of it and write to it.
 *
 * What is written is shown at once and goes to the outbox; what the server says is taken in here.
 */
import { v7 as uuidv7 } from "uuid";
import { create } from "zustand";
import { explain } from "../api/errors";
import { sinceForgotten } from "../api/forgotten";
import { Refused, type Schemas } from "../api/client";
import { deviceId } from "./device";
import { hear } from "./hearing";
import { keepOpened, opened } from "./lastOpened";
import * as model from "./model";
import * as outbox from "./outbox";
import * as own from "./ownVerdicts";
import { tell } from "../ui/tell";
import { fetchInspection, fetchNews, reach, tellDifference } from "./transport";
import {
  type Change,
  isParent,
  keyOf,
  type Kind,
  PARENTS,
  type Pending,
  type Place,
  type Value,
  valueIn,
  type Making,
  placeOf,
} from "./types";
import { changesOf, isOnlyHere } from "./waiting";

interface State {
  model: model.Model | null;
  /** Where the server could not be asked: when what stands here was kept on this device, milliseconds. */
  asOf: number | null;
  error: string | null;
  /** Parts of the judgement that this device and the server see otherwise. */
  differs: readonly string[];
  undoable: { place: Place | Making; before: Value }[];
}

export const useInspection = create<State>(() => ({
  model: null,
  asOf: null,
  error: null,
  differs: [],
  undoable: [],
}));

/** An entry longer than this is kept here and not sent: it would never be taken. */
const LONGEST = 100_000;
/** So long the server may take where what was open last is at hand, milliseconds. */
const PATIENCE = 4000;
/** So long after the last change what is open is kept on the device, milliseconds. */
const CALM = 800;

interface Person {
  id: string;
  firm_id: string;
}

const { getState: get, setState: set } = useInspection;
let me: Person = { id: "", firm_id: "" };
let stopHearing: (() => void) | undefined;
/** Counts what was opened and left: what was left while it was being opened is not listened to. */
let turn = 0;
let calm: ReturnType<typeof setTimeout> | undefined;

own.connect({ model: () => get().model, set: (model) => set({ model }), firm: () => me.firm_id });

outbox.readAlong({
  judged: (id) => {
    const current = get().model;
    return current?.id === id ? current.judgedSeq : null;
  },
  async taken(id, receipt, sent, judged) {
    const now = get().model;
    if (now?.id !== id) return;
    const changes = sent.map((p) => p.change);
    const { model: received, gap } = model.receive(now, receipt, changes, judged);
    // The report was issued a moment ago: whoever goes on in touch with the server is told so, and works on a correction.
    const goesOn = (p: Pending) => !!p.waits && outbox.wasInTouch(p.change.id);
    const meant = new Set(received.pending.filter(goesOn).map((p) => p.change.id));
    const pending = received.pending.map((p) => (meant.has(p.change.id) ? model.asCorrection(p, receipt.issue) : p));
    const next = { ...received, pending };
    set({ model: next, asOf: null, error: null });
    if (meant.size) {
      const notice = `Issue ${receipt.issue} was signed a moment ago. What you enter now is for a correction.`;
      tell(notice);
      setTimeout(() => void outbox.sendAsCorrection(id, receipt.issue, (change) => meant.has(change)), 0);
    }
    own.settled(id, receipt.results);
    if (isLifted(now, next)) await load(id, me);
    // What had arrived before may have been written over since, and was laid on top here: what stands is asked for.
    else if (receipt.results.some((r) => r.state === "already")) setTimeout(() => void againOf(id), 0);
    else if (gap) await listen();
  },
  refused(pending, reason) {
    const now = get().model;
    if (now?.id !== pending.inspectionId) return;
    const marked = now.pending.map((p) => (p.change.id === pending.change.id ? { ...p, refused: reason } : p));
    set({ model: { ...now, pending: marked } });
    own.settled(pending.inspectionId, [{ id: pending.change.id, state: "refused" }]);
  },
});

// What stands is kept on the device in a calm moment, so that a reload in a cellar shows it and goes on.
useInspection.subscribe((now, before) => {
  if (!now.model || now.model === before.model) return;
  clearTimeout(calm);
  const stillHere = sinceForgotten();
  calm = setTimeout(() => {
    if (stillHere()) void keepNow();
    compare();
  }, CALM);
});

/** Only what the server has just said: what is kept says of itself when that was. */
async function keepNow(): Promise<void> {
  const { model: current, asOf } = get();
  if (current && me.id && asOf === null && reach() === "ok") await keepOpened(me.id, current);
}

/** The same inspection anew, where it is still open. */
async function againOf(id: string): Promise<void> {
  if (get().model?.id === id) await load(id, me);
}

/** The verdicts of this device against the server's of the same state: a difference is told, here and there. */
function compare(): void {
  const { model: current } = get();
  const parts = own.difference();
  if (!current || !parts.length) return;
  set({ differs: parts });
  void tellDifference(current.id, current.seq, parts).catch(() => undefined);
}

/** May this person do that with the open inspection? Where nothing is known yet, the server decides once it hears of it. */
export function useMay(action: NonNullable<model.Model["may"]>[number]): boolean {
  return useInspection((s) => s.model?.may?.includes(action) ?? true);
}

/** Where the open inspection stands, after it was submitted, sent back or issued here; issue: the number of that issue. */
export function noteState(state: NonNullable<model.Model["state"]>, issue?: number): void {
  const { model: current } = get();
  if (current) set({ model: { ...current, state, issue: issue ?? current.issue } });
}

/** What waits here since the report was issued before it arrived: sent as a correction, or let go. */
export async function decideWaiting(correct: boolean): Promise<void> {
  const { model: current } = get();
  if (!current) return;
  await (correct ? outbox.sendAsCorrection(current.id, current.issue) : outbox.letGoOfWaiting(current.id));
  await load(current.id, me);
}

/** Open an inspection, or the one that so far is only on this device. Without a server: as it was open here last. */
export async function load(id: string, who: Person): Promise<void> {
  me = who;
  const mine = ++turn;
  if (get().model?.id !== id) {
    own.letGo();
    set({ model: null, asOf: null, error: null, differs: [], undoable: [] });
  }
  await outbox.open(who.id);
  outbox.unbar(id);
  const kept = get().model?.id === id ? undefined : await opened(who.id, id);
  const onTheWay = changesOf(id).length > 0;
  try {
    take(await fetchInspection(id, kept && PATIENCE));
    // What was on its way may have arrived after the server looked and before its answer came.
    if (onTheWay) await listen();
  } catch (error) {
    const status = error instanceof Refused ? error.status : 0;
    const waiting = changesOf(id);
    // The same, of the very entries that make it: the server has it by now.
    if (status === 404 && onTheWay && !waiting.length && !get().model) return load(id, who);
    if (get().model?.id === id || status === 401) return listenOn(mine);
    const away = status === 0 || status >= 500;
    if ((status === 404 || (away && isOnlyHere(id))) && waiting.length) show(model.blank(id, waiting), null);
    else if (kept && away) show(model.open(kept.found, waiting), kept.at);
    else set({ error: explain(error, "What you entered is saved on this device.") });
  }
  listenOn(mine);
}

/** What the server has of it, with what waits here laid on top. */
function take(inspection: Schemas["InspectionOut"]): void {
  const now = get().model;
  // An answer that was overtaken on its way says less than what stands here.
  if (now?.id === inspection.id && now.seq > inspection.seq) return;
  show(model.open(inspection, changesOf(inspection.id)), null);
}

/** Another inspection, or the same one anew. */
function show(opened: model.Model, asOf: number | null): void {
  set({ model: opened, asOf, error: null });
  own.beginAnew();
}

function listenOn(mine: number): void {
  if (mine !== turn) return;
  stopHearing?.();
  const id = get().model?.id;
  stopHearing = id === undefined ? undefined : hear(id, { seq: () => get().model?.seq ?? 0, ask: () => void listen() });
}

export function leave(): void {
  turn++;
  stopHearing?.();
  stopHearing = undefined;
}

/** remember: for undo; origin: the instrument that showed it and when, and the trainee who read it. */
interface Kept {
  remember?: boolean;
  origin?: { instrumentId?: string; at?: string; readBy?: string } | null;
}

/** Set one field; it is kept on the device, then sent. */
export function setField(place: Place | Making, value: Value, { remember = true, origin = null }: Kept = {}): void {
  const current = get().model;
  if (!current) return;
  const entity = current.entities[place.id];
  const before = (isParent(place.kind, place.field) ? entity?.parentId : valueIn(entity, place.field)) ?? null;
  const refused = model.refusal(current, place.id, place.field);
  if (before === value && !refused) return;
  append(place.kind, place.id, [[place.field, value]], origin);
  if (remember && current.entities[place.id]) {
    set({ undoable: [...get().undoable.slice(-99), { place, before: before as Value }] });
  }
}

/** Enter several things as they are, also where the same stands already: who enters it has seen what stands.
 * seen: the sequence number of what they looked at. */
export function enter(
  written: readonly { entity: string; entity_id: string; field: string; value?: unknown }[],
  seen: number,
): void {
  for (const { entity, entity_id: id, field, value } of written)
    append(entity as Kind, id, [[field, (value ?? null) as Value]], null, seen);
}

/** Make an entity in its parent, with its first fields; returns its id. */
export function add(
  kind: Exclude<Kind, "inspection">,
  parentId: string,
  fields: Record<string, Value>,
  id: string = uuidv7(),
): string {
  // What can hang on several kinds says on which of them.
  const on = get().model?.entities[parentId]?.kind;
  const parent = PARENTS[kind].find((one) => one === on) ?? PARENTS[kind][0] ?? "inspection";
  append(kind, id, [[parent, parentId], ...Object.entries(fields)]);
  return id;
}

/** Begin a new inspection on this device; returns its id. id: the one that the server named, so that two devices begin one. */
export function begin(who: Person, fields: Record<string, Value>, id: string = uuidv7()): string {
  me = who;
  void outbox.open(who.id);
  set({ undoable: [], differs: [] });
  show(model.blank(id, []), null);
  append("inspection", id, [["firm", who.firm_id], ...Object.entries(fields)]);
  return id;
}

/** Wait until the server has everything that was entered; false where it cannot be reached in time. */
export async function settled(milliseconds?: number): Promise<boolean> {
  const id = get().model?.id;
  return !id || outbox.settled(id, milliseconds);
}

/** Wait until everything that was entered is judged; false where that takes too long, as without a server. */
export async function isJudged(milliseconds = 5000): Promise<boolean> {
  const until = Date.now() + milliseconds;
  const stands = () => {
    const current = get().model;
    return !!current && model.isAllJudged(current);
  };
  const comes = () => reach() === "ok" || reach() === "slow" || get().model?.own?.trusted;
  while (!stands() && comes() && Date.now() < until) await new Promise((done) => setTimeout(done, 40));
  return stands();
}

/** Take in what the server did to this inspection by itself. */
export async function refresh(): Promise<void> {
  await listen();
}

/** Put back what stood before the last entry. Returns the place, so that the eye can follow; of a thing that went back
 * to where it hung there is none. */
export function undo(): Place | null {
  const last = get().undoable.at(-1);
  if (!last) return null;
  set({ undoable: get().undoable.slice(0, -1) });
  setField(last.place, last.before, { remember: false });
  const { kind, id, field } = last.place;
  return isParent(kind, field) ? null : placeOf(kind, id, field);
}

/** Signed in again: send what waits, and hear what came. */
export function resume(): void {
  outbox.resume();
  const current = get().model;
  if (current) void listen();
}

/** Fields of one entity, shown together and kept one by one, in their order. */
function append(
  kind: Kind,
  id: string,
  fields: readonly (readonly [field: string, value: Value])[],
  origin: Kept["origin"] = null,
  seen = Number.POSITIVE_INFINITY,
): void {
  const current = get().model;
  if (!current) return;
  const based_on = Math.min(current.seq, seen);
  const from = {
    ...(origin?.instrumentId && { instrument_id: origin.instrumentId, read_at: origin.at ?? null }),
    ...(origin?.readBy && { read_by: origin.readBy }),
    based_on,
  };
  const made = fields.map(([field, value]) => pendingOf(current, kind, id, field, value, from));
  // On its way before it is drawn: the server is at it while the page draws.
  outbox.put(made, own.isInHand(current.id));
  set({ model: made.reduce(model.write, current) });
  own.wrote(made);
}

function pendingOf(
  current: model.Model,
  kind: Kind,
  id: string,
  field: string,
  value: Value,
  from: Pick<Change, "instrument_id" | "read_at" | "read_by" | "based_on">,
): Pending {
  const change = {
    id: uuidv7(),
    entity: kind,
    entity_id: id,
    field,
    value,
    made_at: new Date().toISOString(),
    device: deviceId(),
    issue: current.issue,
    ...from,
  };
  const { length } = JSON.stringify(value);
  const refused =
    length > LONGEST ? `That is ${length} characters long: it is kept on this device, but cannot be sent.` : undefined;
  return { inspectionId: current.id, author: me.id, change, ...(refused && { refused }) };
}

/** A code that was kept back may be seen now: what it said before did not come along. */
const isLifted = (before: model.Model, now: model.Model): boolean =>
  !!before.judgement?.blind.some((id) => !now.judgement?.blind.includes(id));

async function listen(): Promise<void> {
  const current = get().model;
  if (!current || current.seq === 0) return;
  const before = reach();
  try {
    // Where the verdicts here are not known to be the latest, one entry more brings them.
    const since = current.judgedSeq === null ? Math.max(0, current.seq - 1) : current.seq;
    const news = await fetchNews(current.id, since);
    const now = get().model;
    if (now?.id !== current.id) return;
    if (news.entries.length) {
      const next = model.takeNews(now, news);
      set({ model: next });
      const waits = new Set(now.pending.map((p) => keyOf(p.change.entity_id, p.change.field)));
      const fresh = news.entries.filter((e) => e.seq > now.seq);
      own.heard(now.id, fresh, (e) => waits.has(keyOf(e.entity_id, e.field)));
      if (isLifted(now, next)) return await load(now.id, me);
    }
    if (get().asOf !== null) set({ asOf: null });
    if (before !== "ok") outbox.wake();
  } catch {
    // How far the server can be reached is known to the transport; the next time comes by itself.
  }
}
