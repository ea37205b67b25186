/** Where a photo was taken, and whose camera it was, is nobody's business.
 *
 * A photo that this browser can open is redrawn, and nothing of its own data is left. Of an HEIC that it cannot open only
 * what makes the picture stays: everything else is overwritten with zeroes where it stands. What is kept is what is known
 * (ISO/IEC 23008-12), so that it makes no difference what else a camera writes; the server looks after it
 * (dorrik/pictures/harmless.py).
 */

/** Boxes that tell how the picture is put together. */
const TOP = new Set(["ftyp", "meta", "mdat"]);
const META = new Set(["hdlr", "pitm", "iinf", "iloc", "iref", "iprp", "idat", "dinf", "grpl"]);
const PROPERTIES = new Set(
  "ispe pixi colr hvcC av1C avcC jpgC irot imir auxC clap pasp clli mdcv rloc lsel a1op a1lx cclv amve".split(" "),
);
/** Items that are pictures, or say how pictures make one. */
const PICTURES = new Set("hvc1 hev1 av01 avc1 jpeg grid iovl iden tmap".split(" "));
/** A box that readers pass over, and a kind of item that they do not know. */
const FREE = "free";
const NONE = "none";

interface Box {
  name: string;
  /** Where the box itself begins, where what it holds begins, and where it ends. */
  at: number;
  start: number;
  end: number;
}

type Span = [start: number, end: number];

/** The structure cannot be followed. */
class Lost extends Error {}

/** Leaves of an HEIC its picture and nothing else, in the bytes given. Returns whether it could be followed. */
export function keepPicture(content: Uint8Array): boolean {
  try {
    clean(content);
    return true;
  } catch (error) {
    if (error instanceof Lost || error instanceof RangeError) return false;
    throw error;
  }
}

function clean(content: Uint8Array): void {
  const view = new DataView(content.buffer, content.byteOffset, content.length);
  const top = boxes(view, 0, content.length);
  const whole = top.filter((box) => box.name === "meta")[0];
  if (!whole || top.filter((box) => box.name === "meta").length > 1) throw new Lost();
  const meta = boxes(view, whole.start + 4, whole.end);
  const of = (name: string) => meta.find((box) => box.name === name);
  const [items, places, properties, inside] = [of("iinf"), of("iloc"), of("iprp"), of("idat")];
  if (!items || !places || !properties) throw new Lost();
  const named = itemsOf(view, items);
  const pictures = new Set(named.filter(({ kind }) => PICTURES.has(kind)).map(({ number }) => number));
  const kept = extents(view, places, inside?.start)
    .filter(({ item }) => pictures.has(item))
    .map(({ span }) => span);
  const boxesWithin = boxes(view, properties.start, properties.end);
  const described = boxesWithin.filter((box) => box.name === "ipco").flatMap((box) => boxes(view, box.start, box.end));
  // Everything was followed to its end: only now anything is written.
  for (const itemName of named) unname(content, itemName);
  const stored = top.filter((box) => box.name === "mdat");
  for (const box of inside ? [...stored, inside] : stored) zeroBetween(content, [box.start, box.end], kept);
  for (const box of top) if (!TOP.has(box.name)) free(content, box);
  for (const box of meta) if (!META.has(box.name)) free(content, box);
  const handler = of("hdlr");
  if (handler) content.fill(0, handler.start + 24, handler.end);
  for (const box of boxesWithin) if (box.name !== "ipco" && box.name !== "ipma") free(content, box);
  for (const box of described) {
    const foreign = box.name === "auxC" && text(view, box.start + 4, 4) !== "urn:";
    if (foreign || !PROPERTIES.has(box.name)) free(content, box);
  }
}

/** What stands in a box is gone, and readers pass over it; the others keep their places. */
function free(content: Uint8Array, box: Box): void {
  for (let i = 0; i < 4; i++) content[box.at + 4 + i] = FREE.charCodeAt(i);
  content.fill(0, box.start, box.end);
}

function zeroBetween(content: Uint8Array, [start, end]: Span, kept: readonly Span[]): void {
  let at = start;
  for (const [from, to] of [...kept].sort((a, b) => a[0] - b[0])) {
    if (to <= at || from >= end) continue;
    if (from > at) content.fill(0, at, from);
    at = Math.max(at, Math.min(to, end));
  }
  content.fill(0, at, Math.max(at, end));
}

function boxes(view: DataView, start: number, end: number): Box[] {
  const boxesHere: Box[] = [];
  let at = start;
  while (at < end) {
    let size = view.getUint32(at);
    let head = 8;
    if (size === 1) {
      size = Number(view.getBigUint64(at + 8));
      head = 16;
    } else if (size === 0) size = end - at;
    if (size < head || at + size > end) throw new Lost();
    boxesHere.push({ name: text(view, at + 4, 4), at, start: at + head, end: at + size });
    at += size;
  }
  return boxesHere;
}

const text = (view: DataView, at: number, length: number): string =>
  Array.from({ length }, (_, i) => String.fromCharCode(view.getUint8(at + i))).join("");

interface Item {
  number: number;
  kind: string;
  /** Where the kind stands, and where what the item is called ends. */
  at: number;
  end: number;
}

function itemsOf(view: DataView, items: Box): Item[] {
  return boxes(view, items.start + (view.getUint8(items.start) === 0 ? 6 : 8), items.end).map((box) => {
    const version = view.getUint8(box.start);
    if (box.name !== "infe" || (version !== 2 && version !== 3)) throw new Lost();
    const wide = version === 3;
    const number = wide ? view.getUint32(box.start + 4) : view.getUint16(box.start + 4);
    const at = box.start + (wide ? 10 : 8);
    return { number, kind: text(view, at, 4), at, end: box.end };
  });
}

/** What an item is called is gone; what is no picture is of no kind that a reader looks into. */
function unname(content: Uint8Array, { kind, at, end }: Item): void {
  if (!PICTURES.has(kind)) for (let i = 0; i < 4; i++) content[at + i] = NONE.charCodeAt(i);
  content.fill(0, at + 4, end);
}

/** Which parts of the file belong to which item. inside: where `idat` begins. */
function extents(view: DataView, places: Box, inside: number | undefined): { item: number; span: Span }[] {
  const version = view.getUint8(places.start);
  let at = places.start + 4;
  const take = (size: number): number => {
    let value = 0;
    for (let i = 0; i < size; i++) value = value * 256 + view.getUint8(at++);
    return value;
  };
  const [sizes, more] = [take(1), take(1)];
  const indexed = version === 1 || version === 2;
  const spans: { item: number; span: Span }[] = [];
  const count = take(version === 2 ? 4 : 2);
  for (let i = 0; i < count; i++) {
    const item = take(version === 2 ? 4 : 2);
    const method = indexed ? take(2) & 15 : 0;
    take(2);
    const base = take(more >> 4);
    if (method > 1 || (method === 1 && inside === undefined)) throw new Lost();
    const parts = take(2);
    for (let part = 0; part < parts; part++) {
      if (indexed) take(more & 15);
      const start = base + take(sizes >> 4) + (method === 1 ? (inside ?? 0) : 0);
      const length = take(sizes & 15);
      if (start + length > view.byteLength) throw new Lost();
      spans.push({ item, span: [start, length ? start + length : view.byteLength] });
    }
  }
  return spans;
}
