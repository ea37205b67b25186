import { describe, expect, it } from "vitest";
import type { Judgement } from "../api/client";
import { open } from "../inspection/model";
import { absentParts, drawnBoards, drawnBonds, drawnParts, FIELDS, partOf } from "./parts";
import { placeOf } from "../inspection/types";

const home = (values: Record<string, unknown>, more: unknown[] = [], notes: unknown[] = []) =>
  open(
    {
      id: "i",
      seq: 1,
      may: ["write"],
      entities: [{ kind: "inspection", id: "i", parent_id: "f", values }, ...more] as never,
      judgement: { notes } as unknown as Judgement,
    },
    [],
  );

describe("a part of the intake", () => {
  it("is not known until somebody said something of it", () => {
    const parts = drawnParts(home({}));
    expect(Object.values(parts).some((part) => part.known)).toBe(false);
    expect(drawnParts(home({ service_fuse_a: 80 })).head).toMatchObject({ known: true, lines: ["80 A"] });
  });

  it("tells seals as seals, and what is not there as none", () => {
    const parts = drawnParts(home({ meter_number: "HM-204417-9", meter_seals: "none seen", isolator: "none" }));
    expect(parts.meter.lines).toEqual(["HM-204417", "no seals"]);
    expect(parts.isolator.lines).toEqual(["none"]);
    expect(absentParts({ isolator: "none", tails_protected: false })).toEqual(["switch-fuse", "isolator"]);
    expect(absentParts({ tails_protected: false, switch_fuse_a: 63 })).toEqual([]);
  });

  it("carries the worst mark of its own fields, and none for what follows from elsewhere", () => {
    const note = (field: string, standing: string, because_of: unknown = null) => ({
      id: "i",
      field,
      standing,
      because_of,
    });
    const said = [
      note("ze_ohm", "attention"),
      note("ze_ohm", "fail"),
      note("tails_mm2", "fail", { id: "i", field: "x" }),
    ];
    const parts = drawnParts(home({ ze_ohm: "1.4" }, [], said));
    expect(parts.ze.status).toBe("fail");
    expect(parts.tails.status).toBeUndefined();
  });

  it("is found again by each of its figures, so that the pad can go on to it", () => {
    for (const [part, fields] of Object.entries(FIELDS))
      for (const field of fields) expect(partOf(placeOf("inspection", "i", field))).toBe(part);
    expect(partOf({ kind: "bond", id: "w", field: "at_clamp_ohm" })).toBe("w");
    expect(partOf({ kind: "board", id: "b", field: "zdb_ohm" })).toBeNull();
  });
});

describe("bonds and boards", () => {
  it("a bond that is missing is known and absent; one that nobody saw is not known", () => {
    const bond = (id: string, values: Record<string, unknown>) => ({ kind: "bond", id, parent_id: "i", values });
    const model = home({}, [
      bond("a", { position: 1, service: "water", state: "present", csa_mm2: 10, at_clamp_ohm: "0.02" }),
      bond("b", { position: 2, service: "gas", state: "missing" }),
      bond("c", { position: 3, service: "oil" }),
    ]);
    expect(drawnBonds(model).map(({ service, absent, known, lines }) => [service, absent, known, ...lines])).toEqual([
      ["water", false, true, "10 mm² · 0.02 Ω"],
      ["gas", true, true, "missing"],
      ["oil", true, false, ""],
    ]);
  });

  it("a board that another feeds stands under it, with its way and without its switch", () => {
    const model = home({}, [
      { kind: "board", id: "s", parent_id: "i", values: { name: "Shed", fed_by: "c", ways: 4, main_switch_a: 63 } },
      { kind: "board", id: "m", parent_id: "i", values: { name: "House", ways: 12, main_switch_a: 100 } },
      { kind: "circuit", id: "c", parent_id: "m", values: { way: "9" } },
    ]);
    expect(drawnBoards(model).map(({ name, depth, lines }) => [name, depth, ...lines])).toEqual([
      ["House", 0, "12 ways · 100 A"],
      ["Shed", 1, "way 9 · 4 ways"],
    ]);
  });
});
