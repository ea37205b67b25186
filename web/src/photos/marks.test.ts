import { describe, expect, it } from "vitest";
import { inside, moved, numberOf, type PhotoMark } from "./marks";

const mark = (kind: PhotoMark["kind"], x: number, y: number, x2 = x, y2 = y): PhotoMark => ({ kind, x, y, x2, y2 });

describe("numbers over a photo", () => {
  const marks = [mark("number", 0.1, 0.1), mark("ring", 0.2, 0.2, 0.4, 0.4), mark("number", 0.5, 0.5)];

  it("count the numbers alone, in the order in which they were set", () => {
    expect(marks.map((photoMark, at) => (photoMark.kind === "number" ? numberOf(marks, at) : null))).toEqual([
      1,
      null,
      2,
    ]);
  });

  it("close up where one goes", () => {
    expect(numberOf(marks.slice(1), 1)).toBe(1);
  });
});

describe("a mark that is moved", () => {
  it("goes as a whole", () => {
    expect(moved(mark("arrow", 0.2, 0.3, 0.4, 0.1), 0.1, 0.2)).toEqual(mark("arrow", 0.3, 0.5, 0.5, 0.3));
  });

  it.each([
    ["right", 0.9, 0, mark("ring", 0.8, 0.3, 1, 0.5)],
    ["left", -0.9, 0, mark("ring", 0, 0.3, 0.2, 0.5)],
    ["down", 0, 0.9, mark("ring", 0.2, 0.8, 0.4, 1)],
    ["up", 0, -0.9, mark("ring", 0.2, 0, 0.4, 0.2)],
  ] as const)("stops at the edge on its way %s and keeps its size", (_, dx, dy, stands) => {
    expect(moved(mark("ring", 0.2, 0.3, 0.4, 0.5), dx, dy)).toEqual(stands);
  });

  it("stops at the edge whichever of its ends is nearer", () => {
    expect(moved(mark("arrow", 0.9, 0.5, 0.7, 0.5), 0.5, 0)).toEqual(mark("arrow", 1, 0.5, 0.8, 0.5));
  });
});

it("a mark that was drawn over the edge ends there", () => {
  expect(inside(mark("blur", -0.2, 0.5, 1.3, 0.123456))).toEqual(mark("blur", 0, 0.5, 1, 0.1235));
});
