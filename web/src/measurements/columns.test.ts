import { describe, expect, it } from "vitest";
import type { Judgement } from "../api/client";
import type { Entity } from "../inspection/types";
import { applies, askedIn, columnsFor, columnsOf, order } from "./columns";
import { reference } from "./columns.fixture";

const DEAD = columnsOf(reference, "circuit", "dead");
const LIVE = columnsOf(reference, "circuit", "live");

const circuit = (id: string, values: Entity["values"] = {}): Entity => ({ kind: "circuit", id, parentId: "b", values });
const ring = circuit("ring");
const lights = circuit("lights");
const spare = circuit("spare", { spare: true });
const fresh = circuit("fresh");

const one = (id: string, stage: string, fields: string[], more: string[] = []) => ({
  entity: "circuit",
  id,
  stage,
  fields,
  done: 0,
  more,
});
const judgement = {
  asked: [
    one(
      "ring",
      "dead",
      ["r1_ohm", "rn_ohm", "r2_ohm", "r1_r2_ohm", "insulation_lne_mohm", "polarity"],
      ["insulation_ln_mohm"],
    ),
    one("lights", "dead", ["r1_r2_ohm", "insulation_lne_mohm", "polarity"], ["insulation_ln_mohm"]),
    one("ring", "live", ["zs_ohm", "rcd_trip_ms", "rcd_button"]),
    one("lights", "live", ["zs_ohm"]),
  ],
} as unknown as Judgement;
const dead = askedIn(judgement, "dead");
const live = askedIn(judgement, "live");

describe("which tests apply", () => {
  const fields = (entity: Entity) =>
    DEAD.filter((column) => applies(column, entity, dead)).map((column) => column.field);

  it("is what the judgement asks, and what may stand beside it", () => {
    expect(fields(ring)).toContain("rn_ohm");
    expect(fields(lights)).toEqual(["r1_r2_ohm", "insulation_ln_mohm", "insulation_lne_mohm", "polarity"]);
    expect(fields(spare)).toEqual([]);
  });

  it("never hides a figure that stands there already", () => {
    expect(fields({ ...lights, values: { insulation_le_mohm: "40" } })).toContain("insulation_le_mohm");
  });

  it("is everything while the server has not answered", () => {
    expect(fields(fresh)).toEqual(DEAD.map((column) => column.field));
  });
});

describe("the columns of a board", () => {
  it("are those that any of its circuits has a use for", () => {
    const found = columnsFor(DEAD, [ring, lights, spare], dead).map((column) => column.field);
    expect(found).toEqual([
      "r1_ohm",
      "rn_ohm",
      "r2_ohm",
      "r1_r2_ohm",
      "insulation_ln_mohm",
      "insulation_lne_mohm",
      "polarity",
    ]);
    expect(columnsFor(LIVE, [lights], live).map((column) => column.field)).toEqual(["zs_ohm"]);
  });

  it("are not widened by a circuit that was added just now", () => {
    expect(columnsFor(LIVE, [lights, fresh], live).map((column) => column.field)).toEqual(["zs_ohm"]);
  });
});

describe("the order of next", () => {
  const steps = (byTest: boolean) =>
    order("circuit", LIVE, [ring, lights, spare], live, byTest).map((p) => `${p.id} ${p.field}`);

  it("follows the circuit", () => {
    expect(steps(false)).toEqual(["ring zs_ohm", "ring rcd_trip_ms", "ring rcd_button", "lights zs_ohm"]);
  });

  it("or the test", () => {
    expect(steps(true)).toEqual(["ring zs_ohm", "lights zs_ohm", "ring rcd_trip_ms", "ring rcd_button"]);
  });
});
