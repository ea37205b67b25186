import { describe, expect, it } from "vitest";
import { children } from "./model";
import { type Entity, isParent, type Place, placeOf, valueIn } from "./types";

const point: Entity = { kind: "point", id: "p", parentId: "c", values: { zs_ohm: "0.4" } };

describe("a field of the declarations", () => {
  it("does not compile where it is misspelt, or is of another kind", () => {
    const places: Place[] = [
      { kind: "circuit", id: "c", field: "zs_ohm" },
      // @ts-expect-error there is no such field
      { kind: "circuit", id: "c", field: "zs_ohms" },
      // @ts-expect-error it is a field of boards
      { kind: "circuit", id: "c", field: "zdb_ohm" },
      // @ts-expect-error there is no such kind
      { kind: "circuits", id: "c", field: "zs_ohm" },
    ];
    // @ts-expect-error there is no such field
    const nothing = point.values.zs_ohms;
    expect([places.length, nothing]).toEqual([4, undefined]);
  });

  it("holds what its declaration says", () => {
    const [circuit] = children({ entities: { p: point }, index: { "b/circuit": [] } }, "circuit", "b");
    // @ts-expect-error a choice that there is not
    const wrong = circuit?.values.form === "star";
    expect(wrong).toBe(false);
  });

  it("that is named over the line is found by its name", () => {
    expect(valueIn(point, "zs_ohm")).toBe("0.4");
    expect(placeOf("point", "p", "zs_ohm")).toEqual({ kind: "point", id: "p", field: "zs_ohm" });
    expect([isParent("point", "circuit"), isParent("point", "inspection"), isParent("point", "board")]).toEqual([
      true,
      true,
      false,
    ]);
  });
});
