/** Everything that waits on this device: changes and photos, kept here first and sent whichever screen is open.
 *
 * A thing leaves the device only when the server has acknowledged it. A lost connection or an ended session stops
 * nothing: what waits is sent when it can be, in the order in which it was made, under the name of who made it.
 */
import { Refused, type Schemas } from "../api/client";
import { untilOpen } from "../api/vault";
import { courier } from "./courier";
import { asCorrection, outOf } from "./model";
import { pendings, photoStore, type WaitingPhoto } from "./device";
import * as slips from "./slips";
import { reach, sendChanges, sendPhoto, signedIn } from "./transport";
import { keyOf, type Pending } from "./types";
import { authorHere, changesOf, mine, setAuthor, useOutbox } from "./waiting";

/** What an open inspection wants to know of its changes on their way. */
interface Reader {
  /** The sequence number that the verdicts shown of it are of. */
  judged(inspectionId: string): number | null;
  taken(inspectionId: string, receipt: Schemas["Receipt"], sent: Pending[], judged: number | null): Promise<void>;
  refused(pending: Pending, reason: string): void;
}

/** The most that goes in one batch: changes, and characters of their values. */
const BATCH = { changes: 200, characters: 400_000 };
/** So often the server may fail on one entry alone before that is set aside and the rest goes on. */
const FAILURES = 3;

const { getState: get, setState: set } = useOutbox;
let reader: Reader | null = null;
/** Fewer at a time after the server has failed on a batch, until it takes one again. */
let atOnce = BATCH.changes;
let failures = 0;
/** When the device has each change, or has failed to keep it; and where in its database each one is. */
const stored = new Map<string, Promise<unknown>>();
const places = new Map<string, number>();
/** Ids of what was made while the server answered, and was sent at once; and whether what was sent last got through. */
const inTouch = new Set<string>();
let gotThrough = true;
/** Was this made, and sent, in touch with the server? Whoever made it is told at once what came in between. */
export const wasInTouch = (id: string): boolean => inTouch.has(id);
/** Ids of what the server has acknowledged since this page began. */
const acknowledged = new Set<string>();
const placeOf = (p: Pending): number | undefined => p.n ?? places.get(p.change.id);

globalThis.addEventListener?.("online", () => wake());

const changes = courier(sendNext);
const photos = courier(sendNextPhoto);

/** Who reads along, as the open inspection does. */
export function readAlong(one: Reader): void {
  reader = one;
}

/** Somebody is signed in: what they left waiting on this device goes, whichever screen is open. */
export async function open(who: string): Promise<void> {
  setAuthor(who);
  set({ barred: {} });
  // What was written down in the last moment of a page before is sealed too.
  await untilOpen();
  const [left, pictures] = await Promise.all([pendings.all(), photoStore.all()]).catch(
    (): [Pending[], Awaited<ReturnType<typeof photoStore.all>>] => [[], []],
  );
  // What the server has said that it has may still be on its way out of the database.
  const here = new Set([...get().changes.map((p) => p.change.id), ...acknowledged]);
  const fromSlips = withSlips(left.filter((p) => !here.has(p.change.id)));
  set({
    changes: [...fromSlips, ...get().changes],
    photos: Object.fromEntries(
      pictures
        .filter((one) => mine(one) && !one.after)
        .map((waitingPhoto) => [waitingPhoto.sha256, waitingPhoto.refused ?? ""]),
    ),
  });
  wake();
}

/** What the device has, with what it was still at keeping when the page went; that is kept now. */
function withSlips(kept: Pending[]): Pending[] {
  const written = slips.left();
  const ids = new Set(written.map(({ pending }) => pending.change.id));
  const gone = new Set(written.flatMap(({ replaces }) => replaces));
  // What was entered since this page began is in hand, even where it was acknowledged before its slip was torn up.
  const there = new Set([...[...kept, ...get().changes].map((p) => p.change.id), ...stored.keys()]);
  const replaced = kept.filter((p) => gone.has(p.change.id));
  const late = written.map(({ pending }) => pending).filter((p) => !there.has(p.change.id) && !gone.has(p.change.id));
  for (const pending of late) stored.set(pending.change.id, store(pending, replaced));
  // What the database has, or what gave way, is only still to be torn up.
  for (const id of ids) if (gone.has(id) || (there.has(id) && !stored.has(id))) slips.drop(id);
  return [...kept.filter((p) => !gone.has(p.change.id)), ...late];
}

/** Nobody is signed in any more: what waits stays here, and nothing is sent. */
export function close(): void {
  setAuthor("");
}

/** Try now: somebody is back, or the connection is. */
export function wake(): void {
  changes.wake();
  photos.wake();
}

/** Signed in again. */
export function resume(): void {
  signedIn();
  wake();
}

/** The server may be asked for this one again. */
export function unbar(inspectionId: string): void {
  set({ barred: without(get().barred, inspectionId) });
  changes.wake();
}

/** Keep changes on the device and send them. A refused change of the same field gives way to its correction. judged: by
 * this device itself, so that the server is not waited for. */
export function put(made: readonly Pending[], judged = false): void {
  let waiting = get().changes;
  let written = true;
  for (const pending of made) {
    const key = keyOf(pending.change.entity_id, pending.change.field);
    const givesWay = (p: Pending) => p.refused !== undefined && keyOf(p.change.entity_id, p.change.field) === key;
    const replaced = waiting.filter(givesWay);
    waiting = [...waiting.filter((p) => !givesWay(p)), pending];
    const replaces = replaced.map((p) => p.change.id);
    written = slips.keep({ pending, replaces }) && written;
    replaces.forEach(slips.drop);
    stored.set(pending.change.id, store(pending, replaced));
    if (gotThrough && reach() === "ok") inTouch.add(pending.change.id);
  }
  // On its way before the page is drawn with it: before whoever looks on is told. Where the verdict comes from here, the
  // page is drawn first.
  const send = () => changes.wake();
  if (written && judged) setTimeout(send);
  else if (written) queueMicrotask(send);
  set({ changes: waiting });
}

/** Into the database of the device, which takes it from the slip. */
async function store(pending: Pending, replaced: Pending[]): Promise<void> {
  // What gives way may itself be on its way in: only then is it known where it is.
  await Promise.all(replaced.map((p) => stored.get(p.change.id)));
  try {
    places.set(
      pending.change.id,
      await pendings.add(
        pending,
        replaced.flatMap((p) => placeOf(p) ?? []),
      ),
    );
    slips.drop(pending.change.id);
    if (get().deviceFailed) set({ deviceFailed: false });
  } catch {
    // Still in memory, and on its way to the server: said plainly in the kept line.
    set({ deviceFailed: true });
  }
  changes.wake();
}

/** What waits of an inspection, since its report was issued before it arrived, is meant for a correction: it goes now. */
export async function sendAsCorrection(
  inspectionId: string,
  issue: number,
  only: (id: string) => boolean = () => true,
): Promise<void> {
  const meant = changesOf(inspectionId).filter((p) => p.waits && only(p.change.id));
  const ids = new Set(meant.map((p) => p.change.id));
  const marked = (p: Pending) => asCorrection(p, issue);
  set({ changes: get().changes.map((p) => (ids.has(p.change.id) ? marked(p) : p)) });
  for (const p of meant) {
    const at = placeOf(p);
    if (at !== undefined) await pendings.put({ ...marked(p), n: at }).catch(() => set({ deviceFailed: true }));
  }
  changes.wake();
}

/** It is not: the report stands as it was issued, and what waits is let go. */
export async function letGoOfWaiting(inspectionId: string): Promise<void> {
  const gone = changesOf(inspectionId).filter((p) => p.waits);
  const ids = new Set(gone.map((p) => p.change.id));
  set({ changes: get().changes.filter((p) => !ids.has(p.change.id)) });
  for (const p of gone) slips.drop(p.change.id);
  await pendings.remove(gone.flatMap((p) => placeOf(p) ?? [])).catch(() => undefined);
}

/** Keep a photo until the server has it. Throws where the device cannot. */
export async function putPhoto(photo: Omit<WaitingPhoto, "author" | "refused">): Promise<void> {
  await photoStore.put({ ...photo, author: authorHere() });
  if (photo.after) return;
  set({ photos: { ...get().photos, [photo.sha256]: "" } });
  photos.wake();
}

/** What photos came with has arrived: they go next. */
export async function releasePhotos(after: string): Promise<void> {
  const here = (await photoStore.all()).filter((photo) => photo.after === after);
  await photoStore.release(after);
  set({ photos: { ...get().photos, ...Object.fromEntries(here.map(({ sha256 }) => [sha256, ""])) } });
  photos.wake();
}

/** Wait until the server has every change of an inspection; false where that takes longer. */
export async function settled(inspectionId: string, milliseconds = 10_000): Promise<boolean> {
  const until = Date.now() + milliseconds;
  const waits = () => changesOf(inspectionId).some((p) => !p.refused);
  while (waits() && Date.now() < until) await new Promise((done) => setTimeout(done, 60));
  return !waits();
}

/** What goes next: changes of one inspection, the oldest first, as many as fit. */
function batch(most: number): Pending[] {
  const ready = get().changes.filter((p) => !p.refused && mine(p) && !(p.inspectionId in get().barred));
  const of = ready.filter((p) => p.inspectionId === ready[0]?.inspectionId);
  let characters = 0;
  const fits = of.slice(0, most).findIndex((p) => {
    characters += JSON.stringify(p.change.value).length + 300;
    return characters > BATCH.characters;
  });
  return of.slice(0, fits < 0 ? most : Math.max(1, fits));
}

async function sendNext(): Promise<"sent" | "nothing" | "later"> {
  const sent = batch(atOnce);
  const id = sent[0]?.inspectionId;
  if (!id || reach() === "signed-out") return "nothing";
  const judged = reader?.judged(id) ?? null;
  try {
    const receipt = await sendChanges(
      id,
      sent.map((p) => p.change),
      judged,
    );
    failures = 0;
    gotThrough = true;
    atOnce = BATCH.changes;
    set({ keptAt: Date.now() });
    try {
      // Shown before it is let go here: nothing is ever seen to vanish.
      await reader?.taken(id, receipt, sent, judged);
    } finally {
      // The server has it, whatever becomes of showing it: it is not sent for ever.
      await settle(sent, new Map(receipt.results.map((r) => [r.id, r])));
    }
    return "sent";
  } catch (error) {
    return await failed(error, sent, id);
  }
}

/** The batch did not get through: wait and try again, in smaller parts where the server itself failed on it. */
async function failed(error: unknown, sent: Pending[], id: string): Promise<"sent" | "nothing" | "later"> {
  const status = error instanceof Refused ? error.status : 0;
  // What was entered beside it, before anybody knew, was no more in touch than it was.
  inTouch.clear();
  gotThrough = false;
  if (status === 401) return "nothing";
  if (status === 500 || status === 413) {
    atOnce = 1;
    const [first] = sent;
    if (sent.length === 1 && first && ++failures >= FAILURES) {
      failures = 0;
      await setAside(first, "The server fails on this entry: it is kept on this device. The rest goes on.");
    }
  } else if (error instanceof Refused && status === 507) {
    // Said as it is, and tried again: somebody makes room.
    set({ barred: { ...get().barred, [id]: error.message } });
    setTimeout(() => unbar(id), 5000);
  } else if (error instanceof Refused && status < 500 && status !== 429) {
    // Not to be had at all, as with an inspection of another firm: kept here, and said. The others go on.
    set({ barred: { ...get().barred, [id]: `${error.message} What you typed is kept on this device.` } });
    return "sent";
  }
  return "later";
}

async function setAside(pending: Pending, reason: string): Promise<void> {
  reader?.refused(pending, reason);
  await settle([pending], new Map([[pending.change.id, { state: "refused", reason }]]));
}

type Fate = { state: string; reason: string | null; waits?: boolean };

/** Let go of what the server has; write down why the rest was refused. */
async function settle(sent: Pending[], fates: Map<string, Fate>): Promise<void> {
  const fateOf = (p: Pending) => fates.get(p.change.id);
  for (const [id, { state }] of fates) if (state !== "refused") acknowledged.add(id);
  for (const { change } of sent) if (acknowledged.has(change.id)) inTouch.delete(change.id);
  set({
    changes: get().changes.flatMap((p) => {
      const fate = fateOf(p);
      if (!fate) return [p];
      return fate.state === "refused" ? [outOf(p, fate)] : [];
    }),
  });
  // The device may still be at keeping it as the answer comes.
  await Promise.all(sent.map((p) => stored.get(p.change.id)));
  try {
    for (const p of sent) {
      const fate = fateOf(p);
      if (fate) slips.drop(p.change.id);
      const at = placeOf(p);
      if (at === undefined || !fate) continue;
      if (fate.state === "refused") await pendings.put({ ...outOf(p, fate), n: at });
      else {
        await pendings.remove([at]);
        places.delete(p.change.id);
      }
      stored.delete(p.change.id);
    }
  } catch {
    set({ deviceFailed: true });
  }
}

/** One photo; changes do not wait for it. */
async function sendNextPhoto(): Promise<"sent" | "nothing" | "later"> {
  if (reach() === "signed-out") return "nothing";
  const next = Object.entries(get().photos).find(([, refused]) => !refused)?.[0];
  if (!next) return "nothing";
  const photo = await photoStore.get(next).catch(() => undefined);
  if (!photo) {
    if (await photoStore.isHere(next).catch(() => false)) await refusePhoto(next, UNREADABLE);
    else forget(next);
    return "sent";
  }
  // The inspection itself may still be on its way.
  if (changesOf(photo.inspectionId).some((p) => !p.refused)) return "later";
  try {
    await sendPhoto(photo.inspectionId, photo.sha256, photo.content);
    await photoStore.remove(photo.sha256);
    forget(next);
    return "sent";
  } catch (error) {
    if (!(error instanceof Refused) || error.status >= 500 || [401, 408, 429].includes(error.status)) return "later";
    await refusePhoto(next, error.message);
    return "sent";
  }
}

const UNREADABLE = "This photo cannot be read any more: the browser lost the key to it. Take it again.";

/** It stays here with the reason, and the others go on. */
async function refusePhoto(sha256: string, reason: string): Promise<void> {
  await photoStore.refuse(sha256, reason).catch(() => undefined);
  set({ photos: { ...get().photos, [sha256]: reason } });
}

function forget(sha256: string): void {
  set({ photos: without(get().photos, sha256) });
}

const without = (all: Readonly<Record<string, string>>, key: string): Record<string, string> =>
  Object.fromEntries(Object.entries(all).filter(([name]) => name !== key));
