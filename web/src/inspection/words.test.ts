import { describe, expect, it } from "vitest";
import type { Entity, Kind } from "./types";
import type { Note } from "../api/client";
import { cableAndDevice, nameOf, say, stageOfField, standing, whereOf } from "./words";

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

describe("the stage of a figure", () => {
  it.each([
    ["inspection", "ze_ohm", "intake"],
    ["board", "zdb_ohm", "live"],
    ["board", "conditional_ka", "boards"],
    ["circuit", "r1_ohm", "dead"],
    ["circuit", "zs_ohm", "live"],
    ["circuit", "device_rating_a", "boards"],
    ["circuit", "insulation_le_mohm", "dead"],
    ["board", "insulation_lne_mohm", "dead"],
    ["point", "line_cpc_ohm", "dead"],
    ["point", "line_neutral_v", "live"],
    ["bond", "at_pipe_ohm", "intake"],
  ] as const)("%s %s stands at %s", (kind, field, stage) => {
    expect(stageOfField(kind, field)).toBe(stage);
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
    expect(say(text, irish)).toBe(meant);
    expect(say(text, {})).toBe(text);
  });

  it("a verdict overruled counts as the inspector sees it", () => {
    const note = { status: "fail", overruled: { status: "pass", reason: "wrong socket" } } as Note;
    expect(standing(note)).toBe("pass");
    expect(standing({ ...note, overruled: null })).toBe("fail");
  });
});
