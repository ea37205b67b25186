import { expect, it } from "vitest";
import { placeOf } from "../inspection/types";
import { FIELDS, isPart, partOf } from "./parts";

it("a part is found again by each of its figures, so that the pad can go on to it", () => {
  for (const [part, fields] of Object.entries(FIELDS))
    for (const field of fields) expect(partOf(placeOf("inspection", "i", field))).toBe(part);
  expect(partOf({ kind: "bond", id: "w", field: "at_clamp_ohm" })).toBe("w");
  expect(partOf({ kind: "board", id: "b", field: "zdb_ohm" })).toBeNull();
  expect([isPart("tails"), isPart("0190-a-bond")]).toEqual([true, false]);
});
