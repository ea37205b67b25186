import "fake-indexeddb/auto";
import { beforeEach, describe, expect, it, vi } from "vitest";
import * as desk from "./desk";
import * as sync from "./open";
import type { FieldOf, Place } from "./types";

// Nothing answers here: what is entered waits on the device, which is all that the desk needs.
const kept = new Map<string, string>();
vi.stubGlobal("localStorage", {
  getItem: (key: string) => kept.get(key) ?? null,
  setItem: (key: string, value: string) => kept.set(key, value),
});
vi.stubGlobal("fetch", () => new Promise(() => undefined));

let circuit: string;
const at = (field: FieldOf<"circuit">): Place => ({ kind: "circuit", id: circuit, field });
const stands = (field: FieldOf<"circuit">) => sync.useInspection.getState().model?.entities[circuit]?.values[field];
const focus = () => desk.useDesk.getState().focus;

beforeEach(() => {
  const id = sync.begin({ id: "ruth", firm_id: "firm" }, { reference: "K-1" });
  const board = sync.add("board", id, { name: "Board 1" });
  circuit = sync.add("circuit", board, { way: "1" });
  desk.useDesk.setState({ focus: null, draft: null, order: [], observing: null, answered: {} });
  desk.setOrder([at("r1_ohm"), at("rn_ohm"), at("r2_ohm")]);
});

describe("figures are kept as they are left", () => {
  it("on the way to the next one", () => {
    desk.focusOn(at("r1_ohm"));
    for (const key of ["0", ".", "4", "6"]) desk.type(key);
    expect(stands("r1_ohm")).toBeUndefined();
    desk.move(1);
    expect(stands("r1_ohm")).toBe("0.46");
    expect(focus()).toEqual(at("rn_ohm"));
  });

  it("when another figure is taken up", () => {
    desk.focusOn(at("r1_ohm"));
    desk.type(">299");
    desk.focusOn(at("r2_ohm"));
    expect(stands("r1_ohm")).toBe(">299");
  });

  it("before an observation is recorded", () => {
    desk.focusOn(at("r1_ohm"));
    desk.type("OL");
    desk.observe({ kind: "circuit", id: circuit });
    expect(stands("r1_ohm")).toBe("OL");
    expect(desk.useDesk.getState().observing?.id).toBe(circuit);
    desk.closeObservation();
    expect(desk.useDesk.getState().observing).toBeNull();
  });

  it("and not touched where nothing was typed", () => {
    sync.setField(at("r1_ohm"), "0.46");
    desk.focusOn(at("r1_ohm"));
    desk.move(1);
    expect(stands("r1_ohm")).toBe("0.46");
  });

  it("and emptied where everything was rubbed out", () => {
    sync.setField(at("r1_ohm"), "7");
    desk.focusOn(at("r1_ohm"));
    desk.backspace();
    desk.move(1);
    expect(stands("r1_ohm")).toBeNull();
  });
});

describe("typing", () => {
  it("begins anew over what stood, and rubs out from what stood", () => {
    sync.setField(at("r1_ohm"), "0.46");
    desk.focusOn(at("r1_ohm"));
    desk.type("1");
    expect(desk.useDesk.getState().draft).toBe("1");
    desk.draft(null);
    desk.backspace();
    expect(desk.useDesk.getState().draft).toBe("0.4");
  });
});

describe("the order of the work", () => {
  it("goes forth and back and stays at its ends", () => {
    desk.focusOn(at("r1_ohm"));
    expect(desk.neighbour(-1)).toBeNull();
    expect(desk.neighbour(1)).toEqual(at("rn_ohm"));
    desk.move(-1);
    expect(focus()).toEqual(at("r1_ohm"));
    desk.move(1);
    desk.move(1);
    desk.move(1);
    expect(focus()).toEqual(at("r2_ohm"));
  });

  it("begins at its first figure where the focus is none of its own", () => {
    desk.focusOn(at("zs_ohm"));
    expect(desk.neighbour(1)).toEqual(at("r1_ohm"));
  });
});

describe("reminders", () => {
  it("are answered one by one", () => {
    desk.answerReminder("dead.b1");
    expect(desk.useDesk.getState().answered).toEqual({ "dead.b1": true });
  });
});
