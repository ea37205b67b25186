import { describe, expect, it } from "vitest";
import { keepPicture } from "./harmless";

const bytes = (text: string) => [...text].map((sign) => sign.charCodeAt(0));
const u16 = (n: number) => [n >> 8, n & 255];
const u32 = (n: number) => [(n >>> 24) & 255, (n >> 16) & 255, (n >> 8) & 255, n & 255];
const box = (name: string, ...parts: number[][]) => {
  const inside = parts.flat();
  return [...u32(inside.length + 8), ...bytes(name), ...inside];
};
const full = (name: string, version: number, ...parts: number[][]) => box(name, [version, 0, 0, 0], ...parts);

const PICTURE = bytes("the coded picture");
const PLACE = bytes("54.5N 1.2W");
const WORDS = bytes("Merryn Tregear");

/** An HEIC as a camera writes it, by the book: three items, the last two of them words, and words everywhere else. */
function heic(): Uint8Array {
  const item = (n: number, kind: string, name: string) =>
    full("infe", 2, u16(n), u16(0), bytes(kind), bytes(`${name}\0`), kind === "mime" ? bytes("text/plain\0") : []);
  const stored = [PICTURE, PLACE, WORDS];
  const meta = (at: number) => {
    let start = at;
    const places = stored.map((one, n) => {
      const place = [...u16(n + 1), ...u16(0), ...u16(1), ...u32(start), ...u32(one.length)];
      start += one.length;
      return place;
    });
    const properties = box("ipco", full("ispe", 0, u32(64), u32(48)), box("udes", bytes("Merryn")));
    return full(
      "meta",
      0,
      full("hdlr", 0, u32(0), bytes("pict"), u32(0), u32(0), u32(0), bytes("Merryn\0")),
      full("pitm", 0, u16(1)),
      full("iinf", 0, u16(3), item(1, "hvc1", ""), item(2, "Exif", ""), item(3, "mime", "Merryn")),
      full("iloc", 0, [0x44, 0x00], u16(3), ...places),
      box("iprp", properties, full("ipma", 0, u32(0))),
      box("uuid", WORDS),
    );
  };
  const front = box("ftyp", bytes("heic"), u32(0), bytes("mif1heic"));
  const at = front.length + meta(0).length + 8;
  return new Uint8Array([...front, ...meta(at), ...box("mdat", ...stored, bytes("Merryn")), ...box("moov", WORDS)]);
}

const said = (content: Uint8Array) => String.fromCharCode(...content);

describe("of an HEIC", () => {
  it("its picture stays and nothing else, wherever it stands", () => {
    const content = heic();
    const before = content.length;
    expect(said(content)).toMatch(/Merryn[^]*54\.5N/);
    expect(keepPicture(content)).toBe(true);
    const after = said(content);
    expect(content.length).toBe(before);
    expect(after).toContain("the coded picture");
    expect(after).not.toMatch(/Merryn|Tregear|54\.5N|udes|uuid|moov|Exif|mime/);
    // What tells how the picture is put together stands as it did.
    for (const name of ["ftyp", "meta", "iinf", "iloc", "ispe", "mdat", "hvc1"]) expect(after).toContain(name);
    const again = content.slice();
    expect(keepPicture(again)).toBe(true);
    expect(again).toEqual(content);
  });

  it.each([
    ["cut off", (content: Uint8Array) => content.slice(0, content.length - 60)],
    ["without a picture's structure", () => new Uint8Array(box("ftyp", bytes("heic")))],
    ["with a box that leads out of it", (content: Uint8Array) => content.fill(255, 24, 28)],
    ["of zeroes", () => new Uint8Array(200)],
  ])("one that is %s cannot be followed, and is left alone", (_, spoil) => {
    const content = spoil(heic());
    const before = content.slice();
    expect(keepPicture(content)).toBe(false);
    expect(content).toEqual(before);
  });
});
