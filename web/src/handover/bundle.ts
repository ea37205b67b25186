/** What waits on this device, signed, as it goes to another: in a file with its photos, or as codes without them. */
import { v7 as uuidv7 } from "uuid";
import type { Me } from "../api/client";
import { signFor } from "../api/vault";
import { deviceId, photoStore, type WaitingPhoto } from "../inspection/device";
import { useOutbox } from "../inspection/waiting";
import type { Change, Pending } from "../inspection/types";

/** A signed part: the text is what was signed, and goes to the server as it is. */
export interface Signed {
  bundle: string;
  signature: string;
}

/** What is read of a part here; the server reads it for itself. */
export interface Bundle {
  version: 1;
  id: string;
  person: string;
  person_name: string;
  firm: string;
  device: string;
  made_at: string;
  inspections: { inspection_id: string; changes: { changes: Change[] } }[];
  photos: { sha256: string; inspection_id: string }[];
}

/** The most in one part: entries, and characters of them. */
const MOST = { entries: 500, characters: 1_200_000 };
const MAGIC = new TextEncoder().encode("DORRIK1\n");

export class NotHandedOver extends Error {}

/** What of this person waits here, in the order in which it was made; what was refused stays to be mended here. */
const waitingOf = (me: Me): Pending[] =>
  useOutbox.getState().changes.filter((p) => p.author === me.id && (!p.refused || p.waits));

/** What would go, in numbers. */
export async function countWaiting(me: Me): Promise<{ entries: number; photos: number }> {
  return { entries: waitingOf(me).length, photos: (await photosOf(me)).length };
}

async function photosOf(me: Me): Promise<Omit<WaitingPhoto, "content">[]> {
  return (await photoStore.all()).filter((photo) => photo.author === me.id && !photo.after);
}

/** Sign what waits, in parts that the server takes. Photos are named with the last part. */
export async function pack(me: Me, withPhotos: boolean): Promise<Signed[]> {
  const photos = withPhotos ? await photosOf(me) : [];
  const parts = split(waitingOf(me));
  if (!parts.length && photos.length) parts.push([]);
  return Promise.all(
    parts.map((part, at) => {
      const named = at === parts.length - 1 ? photos : [];
      return sign(me, {
        version: 1,
        id: uuidv7(),
        person: me.id,
        person_name: me.name,
        firm: me.firm_id,
        device: deviceId(),
        made_at: new Date().toISOString(),
        inspections: byInspection(part),
        photos: named.map(({ sha256, inspectionId }) => ({ sha256, inspection_id: inspectionId })),
      });
    }),
  );
}

function split(waiting: Pending[]): Pending[][] {
  const parts: Pending[][] = [];
  let characters = 0;
  for (const pending of waiting) {
    const { length } = JSON.stringify(pending.change);
    const last = parts.at(-1);
    if (!last || last.length >= MOST.entries || characters + length > MOST.characters) {
      parts.push([pending]);
      characters = length;
    } else {
      last.push(pending);
      characters += length;
    }
  }
  return parts;
}

/** In their order; entries of one inspection side by side. */
function byInspection(part: Pending[]): Bundle["inspections"] {
  const changesOf = new Map<string, Change[]>();
  for (const { inspectionId, change } of part)
    changesOf.set(inspectionId, [...(changesOf.get(inspectionId) ?? []), change]);
  return [...changesOf].map(([inspection_id, changes]) => ({ inspection_id, changes: { changes } }));
}

async function sign(me: Me, whole: Bundle): Promise<Signed> {
  const bundle = JSON.stringify(whole);
  const signature = await signFor(me.id, new TextEncoder().encode(bundle)).catch(() => undefined);
  if (!signature)
    throw new NotHandedOver("This device is not known to the server yet. It has to be in touch with it once.");
  return { bundle, signature };
}

/** One file: a mark, the length of what describes it, that, and the photos one after the other. */
export async function fileOf(me: Me): Promise<Blob> {
  const parts = await pack(me, true);
  const photos: { sha256: string; inspection_id: string; bytes: number }[] = [];
  const contents: Blob[] = [];
  for (const { sha256, inspectionId } of await photosOf(me)) {
    const photo = await photoStore.get(sha256);
    if (!photo) continue;
    photos.push({ sha256, inspection_id: inspectionId, bytes: photo.content.byteLength });
    contents.push(new Blob([photo.content]));
  }
  const head = await packed(new TextEncoder().encode(JSON.stringify({ parts, photos })));
  const length = new Uint8Array(4);
  new DataView(length.buffer).setUint32(0, head.byteLength);
  return new Blob([MAGIC, length, head, ...contents], { type: "application/octet-stream" });
}

export interface Received {
  parts: Signed[];
  photos: { sha256: string; inspectionId: string; content: Uint8Array<ArrayBuffer> }[];
}

/** What a file has in it. Throws NotHandedOver, with what is wrong with it. */
export async function readFile(file: Blob): Promise<Received> {
  const begin = new Uint8Array(await file.slice(0, MAGIC.length + 4).arrayBuffer());
  if (begin.length < MAGIC.length + 4 || MAGIC.some((byte, at) => begin[at] !== byte))
    throw new NotHandedOver("This is no file that another device handed over.");
  const length = new DataView(begin.buffer).getUint32(MAGIC.length);
  let at = begin.length + length;
  const cut = () => new NotHandedOver("The file is cut off: take it from the other device again.");
  if (at > file.size) throw cut();
  const head = await file
    .slice(begin.length, at)
    .arrayBuffer()
    .then((bytes) => unpacked(new Uint8Array(bytes)))
    .then((bytes) => JSON.parse(new TextDecoder().decode(bytes)) as ReadHead)
    .catch(() => undefined);
  if (!head || !Array.isArray(head.parts) || !Array.isArray(head.photos))
    throw new NotHandedOver("The file is damaged: take it from the other device again.");
  const photos: Received["photos"] = [];
  for (const { sha256, inspection_id, bytes } of head.photos) {
    if (at + bytes > file.size) throw cut();
    const content = new Uint8Array(await file.slice(at, (at += bytes)).arrayBuffer());
    photos.push({ sha256, inspectionId: inspection_id, content });
  }
  return { parts: head.parts, photos };
}

interface ReadHead {
  parts: Signed[];
  photos: { sha256: string; inspection_id: string; bytes: number }[];
}

/** What goes as codes: the signed parts, packed. */
export async function bytesOf(me: Me): Promise<Uint8Array> {
  return packed(new TextEncoder().encode(JSON.stringify(await pack(me, false))));
}

export async function readBytes(bytes: Uint8Array): Promise<Received> {
  try {
    return { parts: JSON.parse(new TextDecoder().decode(await unpacked(bytes.slice()))) as Signed[], photos: [] };
  } catch {
    throw new NotHandedOver("What was read is damaged: begin again.");
  }
}

async function packed(bytes: Uint8Array<ArrayBuffer>): Promise<Uint8Array<ArrayBuffer>> {
  return through(bytes, new CompressionStream("deflate-raw"));
}

async function unpacked(bytes: Uint8Array<ArrayBuffer>): Promise<Uint8Array<ArrayBuffer>> {
  return through(bytes, new DecompressionStream("deflate-raw"));
}

async function through(
  bytes: Uint8Array<ArrayBuffer>,
  by: CompressionStream | DecompressionStream,
): Promise<Uint8Array<ArrayBuffer>> {
  const stream = new Blob([bytes]).stream().pipeThrough(by);
  return new Uint8Array(await new Response(stream).arrayBuffer());
}
