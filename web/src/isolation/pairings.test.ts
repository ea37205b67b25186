import { describe, expect, it } from "vitest";
import { nameOf, rows } from "./pairings";

const names = (found: ReturnType<typeof rows>) => found.flatMap((row) => row.pairings.map((pairing) => nameOf(row, pairing)));

describe("pairings to be proved dead", () => {
  it("are three at the busbar and at each way on one phase", () => {
    expect(names(rows(false, [{ name: "1", phase: null }]))).toEqual(["busbar L–N", "busbar L–E", "busbar N–E", "way 1 L–N", "way 1 L–E", "way 1 N–E"]);
  });

  it("are ten on three phases, fewer on a way with one of them", () => {
    const found = rows(true, [{ name: "4", phase: "L2" }, { name: "5", phase: "all three" }]);
    expect(found.map((row) => row.pairings.length)).toEqual([10, 3, 10]);
    expect(names(found).slice(0, 3)).toEqual(["busbar L1–L2", "busbar L1–L3", "busbar L2–L3"]);
    expect(found[1]?.pairings).toEqual(["L2–N", "L2–E", "N–E"]);
  });
});
