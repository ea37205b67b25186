import { describe, expect, it } from "vitest";
import type { Entity, Kind } from "../inspection/types";
import { front, movedTo, nextWay } from "./ways";

const entity = (kind: Kind, id: string, parentId: string, values: Entity["values"]): Entity => ({
  kind,
  id,
  parentId,
  values,
});
const circuit = (id: string, way: string, more: Entity["values"] = {}) =>
  entity("circuit", id, "b", { way, position: Number(way), ...more });
const board = (values: Entity["values"] = {}) => entity("board", "b", "i", values);
const after = (steps: ReturnType<typeof movedTo>) => steps.map(({ place, value }) => [place.id, place.field, value]);

describe("the front of a board", () => {
  it("has every way in its place, empty ones too", () => {
    const { slots, others } = front(board({ ways: 4 }), [circuit("a", "1"), circuit("c", "3")], false);
    expect(slots.map((slot) => slot.circuit?.id ?? null)).toEqual(["a", null, "c", null]);
    expect(others).toEqual([]);
  });

  it("puts what has no place of its own behind", () => {
    const { others } = front(
      board({ ways: 2 }),
      [circuit("a", "1"), circuit("twice", "1"), circuit("x", "garage")],
      false,
    );
    expect(others.map((other) => other.id)).toEqual(["twice", "x"]);
  });

  it("has three places a way on three phases, and a three-phase circuit takes all of them", () => {
    const { slots, others } = front(
      board({ ways: 2 }),
      [circuit("a", "1", { phase: "L2" }), circuit("m", "2", { phase: "all three" })],
      true,
    );
    expect(slots.map((slot) => slot.circuit?.id ?? null)).toEqual([null, "a", null, "m", "m", "m"]);
    expect(others).toEqual([]);
  });

  it("counts the next way on", () => {
    expect(nextWay([])).toBe(1);
    expect(nextWay([circuit("a", "2"), circuit("b", "7"), circuit("c", "x")])).toBe(8);
  });
});

describe("moving a circuit", () => {
  const all = [circuit("a", "1"), circuit("b", "2")];

  it("changes places with whoever is there", () => {
    expect(after(movedTo(all, all[0]!, 2))).toEqual([
      ["a", "way", "2"],
      ["a", "position", 2],
      ["b", "way", "1"],
      ["b", "position", 1],
    ]);
  });

  it("takes an empty way, and stays where it is", () => {
    expect(after(movedTo(all, all[0]!, 5))).toEqual([
      ["a", "way", "5"],
      ["a", "position", 5],
    ]);
    expect(movedTo(all, all[0]!, 1)).toEqual([]);
  });
});
