import "fake-indexeddb/auto";
import { beforeEach, describe, expect, it, vi } from "vitest";
import * as desk from "./desk";
import { add, begin, useInspection } from "./open";
import { type Block, cellsOf, isBlock, meant, paste } from "./paste";
import type { Place } from "./types";

const told: { said: string; undo?: () => void }[] = [];
vi.mock("../ui/tell", () => ({ tell: (said: string, undo?: () => void) => told.push({ said, undo }) }));
const kept = new Map<string, string>();
vi.stubGlobal("localStorage", {
  getItem: (key: string) => kept.get(key) ?? null,
  setItem: (key: string, value: string) => kept.set(key, value),
});
vi.stubGlobal("fetch", () => new Promise(() => undefined));

const FIELDS = ["r1_r2_ohm", "insulation_lne_mohm", "polarity"] as const;
const CHECKS = new Set(["polarity"]);
let ids: string[];
let block: Block;
const at = (row: number, column: number): Place => ({ kind: "circuit", id: ids[row]!, field: FIELDS[column]! });
const stands = (row: number) =>
  FIELDS.map((field) => useInspection.getState().model?.entities[ids[row]!]?.values[field]);

beforeEach(() => {
  told.length = 0;
  const id = begin({ id: "ruth", firm_id: "firm" }, { reference: "K-1" });
  const board = add("board", id, { name: "Board 1" });
  ids = ["1", "2", "3"].map((way) => add("circuit", board, { way }));
  // The second way is spare: nothing is tested there.
  block = ids.map((_, row) => FIELDS.map((_, column) => (row === 1 ? null : at(row, column))));
  desk.useDesk.setState({ focus: null, draft: null, origin: null });
});

describe("the cells of a block", () => {
  it("are parted by tabs and lines, and quotes hold both", () => {
    expect(cellsOf("0.31\t>200\r\n0.4\t\n")).toEqual([
      ["0.31", ">200"],
      ["0.4", ""],
    ]);
    expect(cellsOf('"LIM no\naccess"\t"say ""no"""')).toEqual([["LIM no access", 'say "no"']]);
  });
  it("are a block where they are more than one", () => {
    expect([isBlock("0.31"), isBlock("0.31\n"), isBlock("0.31\t0.4"), isBlock("0.31\n0.4")]).toEqual([
      false,
      false,
      true,
      true,
    ]);
  });
  it.each([
    ["✓", true, "correct"],
    ["OK", true, "correct"],
    ["fail", true, "incorrect"],
    ["LIM no access", true, "LIM no access"],
    ["OK", false, "OK"],
    ["–", false, ""],
  ])("mean what they say: %s", (cell, check, words) => expect(meant(cell, check)).toBe(words));
});

describe("a block that is pasted", () => {
  it("fills figures from the one in focus on, leaves gaps, and says what no figure takes", () => {
    paste("0.31\t>200\t✓\t9\n0.5\t1\t✓\n\t>299\tno\n0.1", block, at(0, 0), CHECKS);
    expect(stands(0)).toEqual(["0.31", ">200", "correct"]);
    expect(stands(1)).toEqual([undefined, undefined, undefined]);
    expect(stands(2)).toEqual([undefined, ">299", "incorrect"]);
    expect(told[0]?.said).toBe(
      "5 figures pasted; 3 left out: that test does not apply there; 2 left out: beyond the table.",
    );
  });

  it("can be taken back as a whole, with what stood before", () => {
    paste("0.31\t>200", block, at(0, 0), CHECKS);
    paste("0.99\n\n0.98", block, at(0, 0), CHECKS);
    expect(told[1]?.said).toBe("2 figures pasted; 1 of them over others.");
    told[1]?.undo?.();
    expect([stands(0), stands(2)]).toEqual([
      ["0.31", ">200", undefined],
      [null, undefined, undefined],
    ]);
  });

  it("begins at the column in focus, and is not taken where it is far too large", () => {
    paste(">200\n\n>150", block, at(0, 1), CHECKS);
    expect([stands(0)[1], stands(2)[1]]).toEqual([">200", ">150"]);
    paste(`${"1\t".repeat(99)}\n`.repeat(99), block, at(0, 0), CHECKS);
    expect(told.at(-1)?.said).toContain("nothing was taken");
    expect(stands(0)[0]).toBeUndefined();
  });

  it("are a trainee's where one reads", () => {
    desk.readBy("piet");
    paste("0.31\t>200", block, at(0, 0), CHECKS);
    desk.readBy(null);
    paste("0.4", block, at(2, 0), CHECKS);
    const sent =
      useInspection
        .getState()
        .model?.pending.filter(({ change }) => (FIELDS as readonly string[]).includes(change.field)) ?? [];
    expect(sent.map(({ change }) => [change.value, change.read_by])).toEqual([
      ["0.31", "piet"],
      [">200", "piet"],
      ["0.4", undefined],
    ]);
  });
});
