/** What other devices handed to this one: kept here, sealed, and sent as it is as soon as the server answers. */
import { create } from "zustand";
import { api, answer, Refused } from "../api/client";
import { courier } from "../inspection/courier";
import { photoStore, type TakenAlong, takenAlong } from "../inspection/device";
import { putPhoto, releasePhotos } from "../inspection/outbox";
import { reach, useReach } from "../inspection/transport";
import { type Bundle, NotHandedOver, type Received } from "./bundle";

export const useTaken = create<{ taken: readonly TakenAlong[] }>(() => ({ taken: [] }));

const set = (taken: readonly TakenAlong[]) => useTaken.setState({ taken });
const sending = courier(sendNext);

/** Read what is here, and send it when that can be. */
export async function openTaken(): Promise<void> {
  set(await takenAlong.all().catch(() => []));
  sending.wake();
}

useReach.subscribe((now, before) => {
  if (now.reach === "ok" && before.reach !== "ok") sending.wake();
});

/** Take in what another device handed over. Returns what came, in numbers; throws NotHandedOver. firm: of whoever takes
 * it. */
export async function takeIn(
  { parts, photos }: Received,
  firm: string,
): Promise<{ author: string; entries: number; photos: number }> {
  const read = parts.map(({ bundle, signature }) => ({ bundle, signature, of: readBundle(bundle) }));
  const last = read.at(-1);
  if (!last) throw new NotHandedOver("Nothing waits there.");
  if (read.some(({ of }) => of.firm !== firm)) throw new NotHandedOver("This is of another firm.");
  // Photos first: what names them is there when they are.
  for (const photo of photos) await putPhoto({ ...photo, after: last.of.id });
  const made = read.map(({ bundle, signature, of }): TakenAlong => ({
    id: of.id,
    author: of.person_name || "a colleague",
    entries: of.inspections.reduce((sum, { changes }) => sum + changes.changes.length, 0),
    bundle,
    signature,
    takenAt: new Date().toISOString(),
  }));
  for (const change of made) await takenAlong.put(change);
  const ids = new Set(made.map(({ id }) => id));
  set([...useTaken.getState().taken.filter(({ id }) => !ids.has(id)), ...made]);
  sending.wake();
  const entries = made.reduce((sum, one) => sum + one.entries, 0);
  return { author: made[0]?.author ?? "", entries, photos: photos.length };
}

function readBundle(bundle: string): Bundle {
  try {
    const parsed = JSON.parse(bundle) as Bundle;
    if (parsed.version === 1 && parsed.id && Array.isArray(parsed.inspections)) return parsed;
  } catch {
    // Said below.
  }
  throw new NotHandedOver("This was handed over by another version of Dorrik: load the newest one on both devices.");
}

/** Let go of one that arrived, or that the server will not take. */
export async function letGo(id: string): Promise<void> {
  await takenAlong.remove(id);
  for (const photo of await photoStore.all()) if (photo.after === id) await photoStore.remove(photo.sha256);
  set(useTaken.getState().taken.filter((one) => one.id !== id));
}

async function keep(one: TakenAlong): Promise<void> {
  await takenAlong.put(one);
  set(useTaken.getState().taken.map((other) => (other.id === one.id ? one : other)));
}

async function sendNext(): Promise<"sent" | "nothing" | "later"> {
  const next = useTaken.getState().taken.find((one) => !one.arrived && !one.refused);
  if (!next || reach() === "signed-out") return "nothing";
  try {
    const body = { bundle: next.bundle, signature: next.signature };
    const arrived = await answer(api.POST("/api/handovers", { body }));
    await keep({ ...next, arrived });
    await releasePhotos(next.id);
    return "sent";
  } catch (error) {
    if (!(error instanceof Refused) || error.status >= 500 || [401, 408, 429].includes(error.status)) return "later";
    await keep({ ...next, refused: error.message });
    return "sent";
  }
}
