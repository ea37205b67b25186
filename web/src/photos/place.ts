/** Where a photo was taken is nobody's business: taken out of a file that this browser cannot open and redraw itself.
 *
 * A photo that can be opened is redrawn, and nothing of its own data is left. Of others (HEIC) the place is wiped where
 * it stands: the GPS directory of the Exif block, and what the XMP packet says of it. Everything else stays as it is.
 */

const GPS = 0x8825;
/** Bytes of one value by its Exif type. */
const WIDTH = [0, 1, 1, 2, 4, 8, 1, 1, 2, 4, 8, 4, 8];

/** Wipes the place, in the bytes given. Returns whether there was one. */
export function wipePlace(content: Uint8Array): boolean {
  let found = false;
  for (const start of tiffBlocks(content)) found = wipeTiff(content, start) || found;
  return wipeXmp(content) || found;
}

/** Where Exif blocks begin: behind `Exif` and two zeroes comes the byte order. */
function* tiffBlocks(content: Uint8Array): Generator<number> {
  for (let at = 0; at < content.length - 14; at++) {
    const isExif =
      content[at] === 0x45 && content[at + 1] === 0x78 && content[at + 2] === 0x69 && content[at + 3] === 0x66;
    if (isExif && content[at + 4] === 0 && content[at + 5] === 0) yield at + 6;
  }
}

function wipeTiff(content: Uint8Array, start: number): boolean {
  const order = String.fromCharCode(content[start] ?? 0, content[start + 1] ?? 0);
  if (order !== "II" && order !== "MM") return false;
  const little = order === "II";
  const view = new DataView(content.buffer, content.byteOffset + start, content.length - start);
  const short = (at: number) => view.getUint16(at, little);
  const long = (at: number) => view.getUint32(at, little);
  try {
    let wiped = false;
    const first = long(4);
    for (let entry = 0; entry < short(first); entry++) {
      const at = first + 2 + entry * 12;
      if (short(at) === GPS) wiped = wipeDirectory(view, long(at + 8), short, long) || wiped;
    }
    return wiped;
  } catch {
    // A block that leads out of its file says nothing.
    return false;
  }
}

function wipeDirectory(
  view: DataView,
  directory: number,
  short: (at: number) => number,
  long: (at: number) => number,
): boolean {
  const count = short(directory);
  const zero = (from: number, bytes: number) => {
    for (let at = from; at < from + bytes; at++) view.setUint8(at, 0);
  };
  for (let entry = 0; entry < count; entry++) {
    const at = directory + 2 + entry * 12;
    const bytes = (WIDTH[short(at + 2)] ?? 0) * long(at + 4);
    if (bytes > 4) zero(long(at + 8), bytes);
  }
  zero(directory, 2 + count * 12);
  return count > 0;
}

/** `exif:GPSLatitude="54,32.1N"` and its like, as an attribute or between tags: what it says is blanked. */
function wipeXmp(content: Uint8Array): boolean {
  const word = [..."GPSL"].map((sign) => sign.charCodeAt(0));
  let found = false;
  for (let at = 0; at < content.length - word.length; at++) {
    if (!word.every((sign, i) => content[at + i] === sign)) continue;
    const name = String.fromCharCode(...content.subarray(at, at + 12));
    if (!name.startsWith("GPSLatitude") && !name.startsWith("GPSLongitude")) continue;
    let from = at + 11;
    while (from < content.length && from < at + 24 && content[from] !== 0x22 && content[from] !== 0x3e) from++;
    const end = content[from] === 0x22 ? 0x22 : 0x3c;
    for (let i = from + 1; i < content.length && i < from + 60 && content[i] !== end; i++) {
      if (content[i] !== 0x20) found = true;
      content[i] = 0x20;
    }
  }
  return found;
}
