import { describe, expect, it } from "vitest";
import { wipePlace } from "./place";

/** An Exif block as cameras write it, by the book: a header, one directory with a GPS pointer, the GPS directory. */
function exif(little: boolean): Uint8Array {
  const bytes = new Uint8Array(220);
  bytes.set([0xff, 0xd8, 0xff, 0xe1, 0, 200], 0);
  bytes.set(new TextEncoder().encode("Exif"), 6);
  const start = 12;
  const view = new DataView(bytes.buffer, start);
  const short = (at: number, value: number) => view.setUint16(at, value, little);
  const long = (at: number, value: number) => view.setUint32(at, value, little);
  bytes.set(new TextEncoder().encode(little ? "II" : "MM"), start);
  short(2, 42);
  long(4, 8);
  short(8, 2);
  // Orientation: turned by a quarter.
  short(10, 0x0112);
  short(12, 3);
  long(14, 1);
  short(18, 6);
  // GPS directory at 60.
  short(22, 0x8825);
  short(24, 4);
  long(26, 1);
  long(30, 60);
  short(60, 2);
  short(62, 2);
  short(64, 5);
  long(66, 3);
  long(70, 100);
  short(74, 1);
  short(76, 2);
  long(78, 2);
  bytes.set(new TextEncoder().encode("N"), start + 82);
  for (let i = 0; i < 6; i++) long(100 + i * 4, 54 + i);
  return bytes;
}

describe.each([true, false])("Exif, little endian %s", (little) => {
  it("loses its place and nothing else", () => {
    const bytes = exif(little);
    const before = bytes.slice();
    expect(wipePlace(bytes)).toBe(true);
    expect([...bytes.subarray(12 + 60, 12 + 124)].every((byte) => byte === 0)).toBe(true);
    // How it is turned still stands, byte for byte, as does everything in front of the directory.
    expect(bytes.subarray(0, 12 + 60)).toEqual(before.subarray(0, 12 + 60));
    expect(wipePlace(bytes)).toBe(false);
  });
});

it("what XMP says of the place is blanked, as attribute and as element", () => {
  const text = `<x exif:GPSLatitude="54,32.1N" exif:GPSAltitude="3"><exif:GPSLongitude>1,2W</exif:GPSLongitude></x>`;
  const bytes = new TextEncoder().encode(text);
  expect(wipePlace(bytes)).toBe(true);
  const after = new TextDecoder().decode(bytes);
  expect(after).not.toMatch(/54|32|1,2W/);
  expect(after).toContain('exif:GPSAltitude="3"');
  expect(after.length).toBe(text.length);
});

it("a block that leads out of its file is left alone", () => {
  const bytes = exif(true);
  new DataView(bytes.buffer, 12).setUint32(4, 0xfffffff0, true);
  const before = bytes.slice();
  expect(wipePlace(bytes)).toBe(false);
  expect(bytes).toEqual(before);
});
