/** A logo as it is sent: an SVG as it is, a picture over white and no larger than paper needs. */
import { Unusable } from "../photos/photos";
import { isBomb } from "../photos/shape";

export const LOGO_FILES = { "image/*": [".svg", ".png", ".jpg", ".jpeg", ".webp"] };
const LONGEST = 1200;
const HEAD = 65_536;

/** Throws Unusable with the words to show. */
export async function logoFile(file: File): Promise<Blob> {
  if (file.type === "image/svg+xml" || /\.svg$/i.test(file.name)) return file;
  if (isBomb(new Uint8Array(await file.slice(0, HEAD).arrayBuffer())))
    throw new Unusable("That file unfolds to more picture than any logo needs.");
  let image: ImageBitmap;
  try {
    image = await createImageBitmap(file, { imageOrientation: "from-image" });
  } catch {
    throw new Unusable("That file cannot be opened as a picture.");
  }
  const scale = Math.min(1, LONGEST / Math.max(image.width, image.height));
  const canvas = document.createElement("canvas");
  canvas.width = Math.max(1, Math.round(image.width * scale));
  canvas.height = Math.max(1, Math.round(image.height * scale));
  const paper = canvas.getContext("2d");
  if (paper) {
    paper.fillStyle = "white";
    paper.fillRect(0, 0, canvas.width, canvas.height);
    paper.drawImage(image, 0, 0, canvas.width, canvas.height);
  }
  image.close();
  const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, "image/jpeg", 0.92));
  if (!blob) throw new Unusable("That picture is too large for this device to shrink.");
  return blob;
}
