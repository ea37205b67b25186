import "fake-indexeddb/auto";
import { beforeEach, describe, expect, it, vi } from "vitest";
import * as desk from "./desk";
import { add, begin, useInspection } from "./open";
import { listenTo, simulated, TYPED, useReadingSource } from "./readingSource";
import type { FieldOf, Place } from "./types";

const kept = new Map<string, string>();
vi.stubGlobal("localStorage", {
  getItem: (key: string) => kept.get(key) ?? null,
  setItem: (key: string, value: string) => kept.set(key, value),
});
vi.stubGlobal("fetch", () => new Promise(() => undefined));

const tester = simulated("practice tester");
let circuit: string;
const at = (field: FieldOf<"circuit">): Place => ({ kind: "circuit", id: circuit, field });
const stands = (field: FieldOf<"circuit">) => useInspection.getState().model?.entities[circuit]?.values[field];
const shown = () => desk.useDesk.getState();
/** What a display shows is looked at once a frame. */
const frame = () => vi.advanceTimersByTime(20);
const measure = (text: string) => {
  tester.measure(text);
  frame();
};

beforeEach(() => {
  const id = begin({ id: "ruth", firm_id: "firm" }, { reference: "K-1" });
  circuit = add("circuit", add("board", id, { name: "Board 1" }), { way: "1" });
  desk.useDesk.setState({ focus: null, draft: null, origin: null });
  desk.setOrder([at("r1_ohm"), at("rn_ohm")]);
  vi.useFakeTimers();
  listenTo(tester);
  return () => vi.useRealTimers();
});

describe("a reading from an instrument", () => {
  it("stands in front of the figure in focus with its origin, and is kept when that is left", () => {
    desk.focusOn(at("r1_ohm"));
    measure(" 0.46 ");
    expect(shown()).toMatchObject({ draft: "0.46", origin: { name: "practice tester" } });
    expect(stands("r1_ohm")).toBeUndefined();
    desk.move(1);
    expect(stands("r1_ohm")).toBe("0.46");
    expect(shown()).toMatchObject({ focus: at("rn_ohm"), draft: null, origin: null });
  });

  it("takes the place of the one before, until the figure is left", () => {
    desk.focusOn(at("r1_ohm"));
    measure("0.52");
    measure("0.46");
    desk.commit();
    expect(stands("r1_ohm")).toBe("0.46");
  });

  it("gives way to what is typed", () => {
    desk.focusOn(at("r1_ohm"));
    measure("0.46");
    desk.type("9");
    expect(shown()).toMatchObject({ draft: "9", origin: null });
  });

  it("is rubbed out figure by figure, and is then a typed one", () => {
    desk.focusOn(at("r1_ohm"));
    measure("0.46");
    desk.backspace();
    expect(shown()).toMatchObject({ draft: "0.4", origin: null });
  });

  it("goes nowhere while no figure is in focus, and that is told", () => {
    measure("0.46");
    expect(shown().draft).toBeNull();
    expect(useReadingSource.getState().told).toContain("shows 0.46: tap its figure");
    desk.focusOn(at("r1_ohm"));
    measure("0.47");
    expect(useReadingSource.getState().told).toBeNull();
  });

  it("is not heard any more once only what is typed counts", () => {
    listenTo(TYPED);
    desk.focusOn(at("r1_ohm"));
    measure("0.46");
    expect(shown().draft).toBeNull();
  });
});
