/** Signatures that were given without a server: they go once everything that was signed for has arrived, and count only for
 * that. What is entered afterwards, here or elsewhere, asks for another one. */
import { Refused, type Schemas } from "../api/client";
import { untilOpen } from "../api/vault";
import { courier } from "./courier";
import { type Signed, signatures } from "./device";
import { noteState, useInspection } from "./open";
import { changesOf, useOutbox } from "./waiting";
import { useSigned } from "./signatures";
import { isAway, reach, sendSigned, useReach } from "./transport";

const { getState: get, setState: set } = useSigned;
let author = "";
const sending = courier(sendNext);

/** Of the review itself: it changes nothing that was signed for (dorrik/store/inspections/reviews.py). */
const APART: readonly string[] = ["come_back", "opinion"];
const CHANGED = "Something was entered after you signed. Look at the draft, and sign again.";

/** Somebody is signed in: what they signed goes, whichever screen is open. */
export async function open(who: string): Promise<void> {
  author = who;
  await untilOpen();
  const kept = await signatures.all().catch(() => []);
  set(Object.fromEntries(kept.filter((signed) => signed.author === who).map((s) => [s.inspectionId, s])), true);
  sending.wake();
}

useOutbox.subscribe((now, before) => {
  if (now.changes === before.changes) return;
  for (const signed of Object.values(get())) if (!signed.refused && isChanged(signed)) void refuse(signed, CHANGED);
  if (Object.keys(get()).length) sending.wake();
});
useReach.subscribe((now, before) => {
  if (isAway(before.reach) && !isAway(now.reach)) sending.wake();
});

const isChanged = ({ inspectionId, changes }: Signed): boolean => {
  const signedFor = new Set(changes);
  return changesOf(inspectionId).some((p) => !signedFor.has(p.change.id) && !APART.includes(p.change.entity));
};

/** Sign for the inspection that is open, as it stands here. Throws where the device cannot keep it. */
export async function sign(signature: Schemas["SignatureIn"]): Promise<void> {
  const { model } = useInspection.getState();
  if (!model) return;
  const changes = changesOf(model.id).map((p) => p.change.id);
  const at = new Date().toISOString();
  const signed: Signed = { inspectionId: model.id, author, signature, seq: model.seq, changes, at };
  await signatures.put(signed);
  set({ [model.id]: signed });
  sending.wake();
}

/** It is taken back, or what became of it was read. */
export async function takeBack(inspectionId: string): Promise<void> {
  await signatures.remove(inspectionId).catch(() => undefined);
  set(Object.fromEntries(Object.entries(get()).filter(([id]) => id !== inspectionId)), true);
}

async function refuse(signed: Signed, refused: string): Promise<void> {
  set({ [signed.inspectionId]: { ...signed, refused } });
  await signatures.put({ ...signed, refused }).catch(() => undefined);
}

async function sendNext(): Promise<"sent" | "nothing" | "later"> {
  if (reach() === "signed-out") return "nothing";
  const next = Object.values(get()).find((signed) => !signed.refused);
  if (!next) return "nothing";
  const { inspectionId: id, seq, changes, signature, at } = next;
  // What was signed for goes first; what the server refuses of it, the signature does not hold for.
  const left = changesOf(id);
  if (left.some((p) => !p.refused)) return "later";
  try {
    await sendSigned(id, { seen_seq: seq, with_changes: changes, signature, signed_at: at });
    await takeBack(id);
    if (useInspection.getState().model?.id === id) noteState("in review");
    return "sent";
  } catch (error) {
    if (!(error instanceof Refused) || error.status >= 500 || [401, 408, 429].includes(error.status)) return "later";
    await refuse(next, `${error.message} Look at the draft, and sign again.`);
    return "sent";
  }
}
