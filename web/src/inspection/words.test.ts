import { describe, expect, it } from "vitest";
import type { Entity, Kind } from "./types";
import { cableAndDevice, nameOf, translate, whereOf } from "./words";

const entity = (kind: Kind, values: Entity["values"]): Entity => ({ kind, id: "x", parentId: "p", values });

describe("names as people say them", () => {
  it("of circuits by way and designation", () => {
    expect(nameOf(entity("circuit", { way: "3", designation: "Kitchen ring" }))).toBe("3 Kitchen ring");
    expect(nameOf(entity("circuit", {}))).toBe("Unnamed circuit");
  });

  it("of the inspection as the origin, where a place is asked for", () => {
    const home = entity("inspection", { property_address: "3 Lookout Row" });
    expect(nameOf(home)).toBe("3 Lookout Row");
    expect(whereOf(home)).toBe("the origin");
    expect(whereOf(undefined)).toBe("");
  });

  it("of device and cable in short", () => {
    const values = { device_type: "B", device_rating_a: 32, line_csa_mm2: 2.5, cpc_csa_mm2: 1.5 };
    expect(cableAndDevice(values)).toBe("B32 · 2.5/1.5");
    expect(cableAndDevice({ device_rating_a: 6 })).toBe("6");
    expect(cableAndDevice({})).toBe("");
  });
});

describe("words of the rule book in use", () => {
  const irish = { "R1+R2": "RP+RE", cpc: "protective conductor", "consumer unit": "distribution board" };

  it.each([
    ["R1+R2", "RP+RE"],
    ["Cpc", "Protective conductor"],
    ["cpc", "protective conductor"],
    ["Line", "Line"],
    ["Cpc end to end", "Protective conductor end to end"],
    ["Zdb + R1+R2", "Zdb + RP+RE"],
    ["r1+r2", "r1+r2"],
  ])("%s is %s", (text, meant) => {
    expect(translate(text, irish)).toBe(meant);
    expect(translate(text, {})).toBe(text);
  });
});
