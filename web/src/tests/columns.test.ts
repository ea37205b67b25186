import { describe, expect, it } from "vitest";
import type { Entity } from "../inspection/types";
import { applies, columnsFor, DEAD, LIVE, order } from "./columns";

const circuit = (id: string, values: Entity["values"]): Entity => ({ kind: "circuit", id, parentId: "b", values });
const ring = circuit("ring", { form: "ring", rcd_rated_ma: 30 });
const lights = circuit("lights", { form: "radial" });
const spare = circuit("spare", { spare: true });

describe("which tests apply", () => {
  it("asks the ends of a ring only", () => {
    const asked = (c: Entity) => DEAD.filter((column) => applies(column, c)).map((column) => column.field);
    expect(asked(ring)).toContain("rn_ohm");
    expect(asked(lights)).toEqual(["r1_r2_ohm", "insulation_ln_mohm", "insulation_lne_mohm", "polarity"]);
    expect(asked(spare)).toEqual([]);
  });

  it("asks an RCD's time only where there is one", () => {
    const asked = (c: Entity) => LIVE.filter((column) => applies(column, c)).map((column) => column.field);
    expect(asked(ring)).toEqual(["zs_ohm", "rcd_trip_ms", "rcd_button"]);
    expect(asked(lights)).toEqual(["zs_ohm"]);
  });
});

describe("the order of next", () => {
  const steps = (byTest: boolean) => order(LIVE, [ring, lights, spare], byTest).map((p) => `${p.id} ${p.field}`);

  it("follows the circuit", () => {
    expect(steps(false)).toEqual(["ring zs_ohm", "ring rcd_trip_ms", "ring rcd_button", "lights zs_ohm"]);
  });

  it("or the test", () => {
    expect(steps(true)).toEqual(["ring zs_ohm", "lights zs_ohm", "ring rcd_trip_ms", "ring rcd_button"]);
  });
});

describe("the columns that the house rules ask for", () => {
  const fields = (live: boolean, rules: Record<string, unknown>) => columnsFor(live, rules).map((column) => column.field);

  it("are the usual ones without any", () => {
    expect(fields(false, {})).toEqual(DEAD.map((column) => column.field));
    expect(fields(true, {})).toEqual(LIVE.map((column) => column.field));
  });

  it("test line and neutral to earth apart", () => {
    const asked = fields(false, { insulation_pairings: "all three" });
    expect(asked.filter((field) => field.startsWith("insulation"))).toEqual(["insulation_ln_mohm", "insulation_le_mohm", "insulation_ne_mohm"]);
  });

  it("leave insulation to the board", () => {
    expect(fields(false, { insulation_by: "by board" }).some((field) => field.startsWith("insulation"))).toBe(false);
  });

  it("time an RCD at every multiple, its button last", () => {
    expect(fields(true, { rcd_tests: "½, 1 and 5 × IΔn" })).toEqual(["zs_ohm", "rcd_trip_ms", "rcd_half", "rcd_five_ms", "rcd_button"]);
  });
});
