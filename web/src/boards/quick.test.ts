import { describe, expect, it } from "vitest";
import { carriedOn, offers, type Usual } from "./quick";

const circuit = (name: string, fields: Usual["fields"], also: string[] = []): Usual => ({
  name,
  fields: { designation: name, ...fields },
  also,
  button: "",
  at: 0,
});
const USUAL: Usual[] = [
  circuit("Sockets down", { form: "ring" }, ["plugs"]),
  circuit("Sockets up", { form: "ring" }, ["plugs"]),
  circuit("Kitchen ring", { form: "ring", line_csa_mm2: 2.5, device_rating_a: 32 }, ["worktop"]),
  circuit("Lights", { line_csa_mm2: 1.5, device_rating_a: 6 }, ["lamps"]),
  circuit("Cooker", { line_csa_mm2: 6, device_rating_a: 32 }),
  circuit("Shower", { line_csa_mm2: 10, cpc_csa_mm2: 4, device_type: "B", device_rating_a: 40 }),
  circuit("Spare", { spare: true }, ["blank"]),
];

const first = (text: string) => offers(text, null, USUAL)[0];

describe("the board builder's short form", () => {
  it("knows a usual circuit by a few letters", () => {
    expect(first("kit")).toMatchObject({
      name: "Kitchen ring",
      fields: { form: "ring", line_csa_mm2: 2.5, device_rating_a: 32 },
    });
    expect(first("so u")?.name).toBe("Sockets up");
    expect(first("sp")).toMatchObject({ fields: { spare: true } });
  });

  it("takes cable, device, RCD and points from the same line", () => {
    expect(first("sho 16/6 c45 30ma 1p")?.fields).toMatchObject({
      designation: "Shower",
      line_csa_mm2: 16,
      cpc_csa_mm2: 6,
      device_type: "C",
      device_rating_a: 45,
      rcd_rated_ma: 30,
      points_served: 1,
    });
    expect(first("cook 2,5/1,5")?.fields).toMatchObject({ line_csa_mm2: 2.5, cpc_csa_mm2: 1.5 });
  });

  it("offers a name of one's own last, with the cable of what it speaks of", () => {
    const offer = offers("lights net loft", null, USUAL).at(-1);
    expect(offer).toMatchObject({
      name: "Lights net loft",
      fields: { designation: "Lights net loft", line_csa_mm2: 1.5, device_rating_a: 6 },
    });
    expect(offers("capstan motor", null, USUAL)).toEqual([
      { name: "Capstan motor", fields: { designation: "Capstan motor" } },
    ]);
  });

  it("repeats the last, and has nothing to repeat at first", () => {
    const last = { name: "Cooker", fields: { designation: "Cooker" } };
    expect(offers("=", last, USUAL)).toEqual([last]);
    expect(offers("=", null, USUAL)).toEqual([]);
    expect(offers("  ", last, USUAL)).toEqual([]);
  });

  it("carries RCD protection on, but not to a spare way, and not over what was typed", () => {
    const before = { rcd_rated_ma: 30, rcd_standard: "BS EN 61009", device_rating_a: 6 };
    expect(carriedOn(before, { designation: "Oven" })).toEqual({ rcd_rated_ma: 30, rcd_standard: "BS EN 61009" });
    expect(carriedOn(before, { rcd_rated_ma: 100 })).toEqual({ rcd_standard: "BS EN 61009" });
    expect(carriedOn(before, { spare: true })).toEqual({});
  });
});
