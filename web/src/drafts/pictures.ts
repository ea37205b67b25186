/** Photos as drafts show them: from this device, as large as they are printed, with what nobody is to read made so. */
import { keptPicture } from "../api/kept";
import { photoStore } from "../inspection/device";
import type { Model } from "../inspection/model";

/** Longest side in print (px), and into how many blocks across a part is made that nobody is to read: as the server does
 * it (dorrik/pictures). */
const PRINTED = { small: 640, large: 1400 } as const;
const BLOCKS = 6;
const QUALITY = 0.78;

/** A part of a picture, from corner to corner, in parts of its sides. */
interface Part {
  x: number;
  y: number;
  x2: number;
  y2: number;
}

/** A photo to be drawn: the drawing around it, and what stands in it for the picture (dorrik/report/device_papers.py). */
export interface Drawing {
  name: string;
  svg: string;
  sha256: string;
  size: "small" | "large";
  unreadable: Part[];
}
const PLACE = "data:picture";

/** Width and height of each photo whose picture is here, by the digest of its content. */
export async function sizesHere(model: Model): Promise<Record<string, [number, number]>> {
  const photos = Object.values(model.entities).filter(
    ({ kind, values }) => kind === "photo" && values.sha256 && !values.removed && values.print_size !== "not",
  );
  const sizes: Record<string, [number, number]> = {};
  for (const sha256 of new Set(photos.map(({ values }) => String(values.sha256)))) {
    const picture = await pictureHere(model.id, sha256);
    if (!picture) continue;
    sizes[sha256] = [picture.width, picture.height];
    picture.close();
  }
  return sizes;
}

/** The drawing with its picture in it. */
export async function drawn(inspectionId: string, { svg, sha256, size, unreadable }: Drawing): Promise<string> {
  const picture = await pictureHere(inspectionId, sha256);
  if (!picture) return svg.replace(PLACE, "");
  const shrunk = Math.min(1, PRINTED[size] / Math.max(picture.width, picture.height));
  const canvas = new OffscreenCanvas(Math.round(picture.width * shrunk), Math.round(picture.height * shrunk));
  const paper = canvas.getContext("2d");
  paper?.drawImage(picture, 0, 0, canvas.width, canvas.height);
  picture.close();
  if (paper) for (const part of unreadable) makeUnreadable(paper, canvas, part);
  const jpeg = await canvas.convertToBlob({ type: "image/jpeg", quality: QUALITY });
  return svg.replace(PLACE, await dataAddress(jpeg));
}

function makeUnreadable(paper: OffscreenCanvasRenderingContext2D, whole: OffscreenCanvas, part: Part): void {
  const [left, right] = [part.x, part.x2].map((x) => Math.round(x * whole.width)).sort((a, b) => a - b) as [
    number,
    number,
  ];
  const [top, bottom] = [part.y, part.y2].map((y) => Math.round(y * whole.height)).sort((a, b) => a - b) as [
    number,
    number,
  ];
  const [width, height] = [right - left, bottom - top];
  if (width < 1 || height < 1) return;
  const blocks = new OffscreenCanvas(Math.min(BLOCKS, width), Math.min(BLOCKS, height));
  blocks.getContext("2d")?.drawImage(whole, left, top, width, height, 0, 0, blocks.width, blocks.height);
  paper.imageSmoothingEnabled = false;
  paper.drawImage(blocks, left, top, width, height);
}

/** As it waits here, or as the day's bag has it. */
async function pictureHere(inspectionId: string, sha256: string): Promise<ImageBitmap | undefined> {
  const waits = await photoStore.get(sha256).catch(() => undefined);
  const blob = waits
    ? new Blob([waits.content], { type: "image/jpeg" })
    : await keptPicture(`/api/inspections/${inspectionId}/photos/${sha256}?size=small`);
  return blob && createImageBitmap(blob).catch(() => undefined);
}

const dataAddress = (blob: Blob): Promise<string> =>
  new Promise((done, fail) => {
    const reader = new FileReader();
    reader.onload = () => done(String(reader.result));
    reader.onerror = () => fail(new Error("The picture cannot be read."));
    reader.readAsDataURL(blob);
  });
