/** Photos on this device: shrunk, named by their content, kept here until the server has them. */
import { device } from "../inspection/device";
import { putPhoto } from "../inspection/outbox";

/** Longest side and quality that a photo is shrunk to: small writing on a chart stays legible. */
const LONGEST = 2000;
const QUALITY = 0.82;
/** Beyond this a device's browser gives up on decoding. */
const LARGEST_FILE = 80_000_000;

export class Unusable extends Error {}

/** A photo from the camera or a file, as it is kept. Throws Unusable with the words to show. */
export async function shrink(file: File): Promise<Blob> {
  if (file.size > LARGEST_FILE)
    throw new Unusable(`${file.name} has ${Math.round(file.size / 1e6)} MB: that is no photo a tablet can open.`);
  let image: ImageBitmap;
  try {
    image = await createImageBitmap(file, { imageOrientation: "from-image" });
  } catch {
    const heic = /\.hei[cf]$/i.test(file.name) || /hei[cf]/.test(file.type);
    throw new Unusable(
      heic
        ? `${file.name} is an HEIC photo, which this browser cannot open: set the camera to JPEG.`
        : `${file.name} cannot be opened as a photo.`,
    );
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

async function digest(content: ArrayBuffer): Promise<string> {
  const bytes = new Uint8Array(await crypto.subtle.digest("SHA-256", content));
  return [...bytes].map((byte) => byte.toString(16).padStart(2, "0")).join("");
}

/** Keep a photo on the device until the server has it; returns the name of its content. */
export async function keep(inspectionId: string, photo: Blob): Promise<string> {
  if (!globalThis.crypto?.subtle) throw new Unusable("Photos need a secure address (https).");
  const content = await photo.arrayBuffer();
  const sha256 = await digest(content);
  await putPhoto({ sha256, inspectionId, content });
  return sha256;
}

/** Where to show a photo from: this device while it waits, then the server. */
export async function source(inspectionId: string, sha256: string): Promise<string> {
  const here = await device.photos.get(sha256).catch(() => undefined);
  return here
    ? URL.createObjectURL(new Blob([here.content], { type: "image/jpeg" }))
    : `/api/inspections/${inspectionId}/photos/${sha256}`;
}
