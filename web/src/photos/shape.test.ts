import { expect, it } from "vitest";
import { isBomb } from "./shape";

function png(width: number, height: number): Uint8Array {
  const head = new Uint8Array(33);
  head.set([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 0, 0, 0, 13, 0x49, 0x48, 0x44, 0x52]);
  new DataView(head.buffer).setUint32(16, width);
  new DataView(head.buffer).setUint32(20, height);
  return head;
}

/** An application segment of some bytes, then the frame header. */
function jpeg(width: number, height: number): Uint8Array {
  const head = new Uint8Array(80);
  head.set([0xff, 0xd8, 0xff, 0xe1, 0, 40], 0);
  head.set([0xff, 0xc0, 0, 17, 8], 44);
  new DataView(head.buffer).setUint16(49, height);
  new DataView(head.buffer).setUint16(51, width);
  return head;
}

it("a picture that unfolds beyond any camera is known by its head", () => {
  expect(isBomb(png(20_000, 20_000))).toBe(true);
  expect(isBomb(jpeg(30_000, 30_000))).toBe(true);
});

it("what cameras take passes, and what says nothing is left to whoever opens it", () => {
  expect(isBomb(png(8000, 6000))).toBe(false);
  expect(isBomb(jpeg(8160, 6120))).toBe(false);
  expect(isBomb(new Uint8Array([0xff, 0xd8, 0xff, 0xe0, 0xff, 0xff]))).toBe(false);
  expect(isBomb(new TextEncoder().encode("not a picture at all, only words"))).toBe(false);
});
