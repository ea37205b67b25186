/** How large a picture is by what its file says at its head, before anything unfolds it. */

/** More than this is no photo of a camera (pixels): the server takes no more either. */
const MOST_PIXELS = 60_000_000;

/** Does the head of a file promise more picture than any camera takes? What it does not say is not guessed. */
export function isBomb(head: Uint8Array): boolean {
  const shape = png(head) ?? jpeg(head);
  return shape !== null && shape.width * shape.height > MOST_PIXELS;
}

interface Shape {
  width: number;
  height: number;
}

function png(head: Uint8Array): Shape | null {
  if (head.length < 24 || head[0] !== 0x89 || head[1] !== 0x50 || head[2] !== 0x4e || head[3] !== 0x47) return null;
  const view = new DataView(head.buffer, head.byteOffset);
  return { width: view.getUint32(16), height: view.getUint32(20) };
}

/** The frame header of a JPEG, after any number of other segments. */
function jpeg(head: Uint8Array): Shape | null {
  if (head.length < 4 || head[0] !== 0xff || head[1] !== 0xd8) return null;
  const view = new DataView(head.buffer, head.byteOffset, head.length);
  for (let at = 2; at + 9 < head.length;) {
    if (head[at] !== 0xff) return null;
    const marker = head[at + 1] ?? 0;
    const isFrame = marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker);
    if (isFrame) return { height: view.getUint16(at + 5), width: view.getUint16(at + 7) };
    at += 2 + view.getUint16(at + 2);
  }
  return null;
}
