/** Photos on this device: shrunk, named by their content, kept here until the server has them. */
import { room } from "../api/application";
import { keptPicture } from "../api/kept";
import { photoStore } from "../inspection/device";
import { keepPicture } from "./harmless";
import { isBomb } from "./shape";
import { add } from "../inspection/open";
import { putPhoto } from "../inspection/outbox";
import type { Kind } from "../inspection/types";

/** Longest side and quality that a photo is shrunk to: small writing on a chart stays legible. */
const LONGEST = 2000;
const QUALITY = 0.82;
/** Beyond this a device's browser gives up on decoding. */
const LARGEST_FILE = 80_000_000;

/** So much of a file says how large its picture is. */
const HEAD = 256_000;
/** What cannot be shrunk here is sent as it is, up to this. */
const LARGEST_SENT = 12_000_000;
/** What a file field offers; HEIC by its ending too, which many systems have no media type for. */
export const PHOTO_FILES = { "image/*": [".heic", ".heif"] };

export class Unusable extends Error {}

/** A photo from the camera or a file, as it is kept: turned, shrunk, and without the place where it was taken.
 *
 * Of an HEIC that this browser cannot open its picture is kept and nothing else; the server shows it.
 * Throws Unusable with the words to show.
 */
export async function shrink(file: File): Promise<Blob> {
  if (file.size > LARGEST_FILE)
    throw new Unusable(`${shortName(file)} has ${Math.round(file.size / 1e6)} MB: that is no photo a tablet can open.`);
  if (isBomb(new Uint8Array(await file.slice(0, HEAD).arrayBuffer())))
    throw new Unusable(`${shortName(file)} unfolds to more picture than any camera takes.`);
  let image: ImageBitmap;
  try {
    image = await createImageBitmap(file, { imageOrientation: "from-image" });
  } catch {
    const content = new Uint8Array(await file.arrayBuffer());
    if (!isHeic(content)) throw new Unusable(`${shortName(file)} cannot be opened as a photo.`);
    if (content.length > LARGEST_SENT)
      throw new Unusable(`${shortName(file)} has ${Math.round(content.length / 1e6)} MB: set the camera to JPEG.`);
    if (!keepPicture(content)) throw new Unusable(`${shortName(file)} cannot be followed: set the camera to JPEG.`);
    return new Blob([content], { type: "image/heic" });
  }
  const scale = Math.min(1, LONGEST / Math.max(image.width, image.height));
  const canvas = document.createElement("canvas");
  canvas.width = Math.max(1, Math.round(image.width * scale));
  canvas.height = Math.max(1, Math.round(image.height * scale));
  canvas.getContext("2d")?.drawImage(image, 0, 0, canvas.width, canvas.height);
  image.close();
  const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, "image/jpeg", QUALITY));
  if (!blob) throw new Unusable(`${file.name} is too large for this device to shrink.`);
  return blob;
}

/** A file's name as it is told: one that is far too long is cut. */
const shortName = ({ name }: File): string => (name.length > 60 ? `${name.slice(0, 57)}…` : name);

/** By what it holds: files lose their ending and their type on the way. */
function isHeic(content: Uint8Array): boolean {
  const brand = String.fromCharCode(...content.subarray(4, 12));
  return /^ftyp(heic|heix|hevc|hevx|mif1|msf1|heif)$/.test(brand);
}

async function digest(content: Uint8Array<ArrayBuffer>): Promise<string> {
  const bytes = new Uint8Array(await crypto.subtle.digest("SHA-256", content));
  return [...bytes].map((byte) => byte.toString(16).padStart(2, "0")).join("");
}

/** Keep a photo on the device until the server has it; returns the name of its content. */
export async function keep(inspectionId: string, photo: Blob): Promise<string> {
  if (!globalThis.crypto?.subtle) throw new Unusable("Photos need a secure address (https).");
  const content = new Uint8Array(await photo.arrayBuffer());
  const sha256 = await digest(content);
  await putPhoto({ sha256, inspectionId, content });
  return sha256;
}

/** Take photos in, one after the other, each pinned to what it shows. Returns what could not be taken, in words. */
export async function takeIn(
  inspectionId: string,
  files: File[],
  about: Pinned,
  left?: (count: number) => void,
): Promise<string[]> {
  const troubles: string[] = [];
  for (const [at, file] of files.entries()) {
    left?.(files.length - at);
    try {
      const sha256 = await keep(inspectionId, await shrink(file));
      const { kind, id, shows } = about;
      const taken_at = new Date().toISOString();
      add("photo", inspectionId, { about_entity: kind, about_id: id, shows, sha256, taken_at });
    } catch (error) {
      troubles.push(error instanceof Unusable ? error.message : "This device has no room to keep the photo.");
    }
  }
  const little = await littleRoom();
  return little ? [...troubles, little] : troubles;
}

/** So much room is left for photos before it is said, bytes; and what one weighs. */
const LITTLE = 300_000_000;
const ONE = 600_000;

/** That room is short on this device, in photos; nothing while there is enough. */
async function littleRoom(): Promise<string | null> {
  const space = await room().catch(() => null);
  const left = space ? space.whole - space.used : Number.POSITIVE_INFINITY;
  if (left > LITTLE) return null;
  return `This device has room for about ${Math.max(0, Math.floor(left / ONE))} more photos. Let them be sent, or make room.`;
}

/** What a photo is pinned to, and what it shows of that: a defect, an overview. */
export interface Pinned {
  kind: Kind;
  id: string;
  shows: string;
}

/** Where to show a photo from: this device while it waits, then the server. */
export async function source(inspectionId: string, sha256: string, size: "small" | "large"): Promise<string> {
  const here = await photoStore.get(sha256).catch(() => undefined);
  return here
    ? URL.createObjectURL(new Blob([here.content], { type: "image/jpeg" }))
    : `/api/inspections/${inspectionId}/photos/${sha256}?size=${size}`;
}

/** The small picture of what the server cannot show now, as the day's bag has it. */
export async function fromBag(inspectionId: string, sha256: string): Promise<string | undefined> {
  const kept = await keptPicture(`/api/inspections/${inspectionId}/photos/${sha256}?size=small`);
  return kept && URL.createObjectURL(kept);
}
