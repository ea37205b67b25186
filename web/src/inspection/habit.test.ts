import { describe, expect, it } from "vitest";
import { followed, type Habit, learnt } from "./habit";
import type { Place, FieldOf } from "./types";

const RING = ["line_neutral_ohm", "line_cpc_ohm"] as const;
const at = (id: string, field: FieldOf<"point">): Place => ({ kind: "point", id, field });
const sockets = ["a", "b", "c"].flatMap((id) => RING.map((field) => at(id, field)));

/** What somebody does, reading after reading. */
const after = (order: readonly Place[], ...kept: Place[]): Habit =>
  kept.reduce<Habit>((habit, to, n) => learnt(habit, order, kept[n - 1] ?? null, to), {});
const empty = () => true;

describe("the order that this person takes", () => {
  it("goes round with one pair first where that was done once", () => {
    const habit = after(sockets, at("a", "line_neutral_ohm"), at("b", "line_neutral_ohm"));
    expect(followed(habit, sockets, at("b", "line_neutral_ohm"), empty)).toEqual(at("c", "line_neutral_ohm"));
  });

  it("begins with what is left once it has been all round", () => {
    const habit = after(sockets, at("a", "line_neutral_ohm"), at("b", "line_neutral_ohm"));
    const left = (place: Place) => place.field === "line_cpc_ohm";
    expect(followed(habit, sockets, at("c", "line_neutral_ohm"), left)).toEqual(at("a", "line_cpc_ohm"));
  });

  it("is followed at the next circuit: insulation before continuity", () => {
    const of = (id: string, field: FieldOf<"circuit">): Place => ({ kind: "circuit", id, field });
    const order = ["1", "2"].flatMap((id) =>
      (["r1_r2_ohm", "insulation_lne_mohm", "polarity"] as const).map((f) => of(id, f)),
    );
    const habit = after(order, of("1", "insulation_lne_mohm"), of("1", "r1_r2_ohm"), of("1", "polarity"));
    expect(followed(habit, order, of("2", "insulation_lne_mohm"), empty)).toEqual(of("2", "r1_r2_ohm"));
    expect(followed(habit, order, of("2", "r1_r2_ohm"), empty)).toEqual(of("2", "polarity"));
  });

  it("leads to nothing that is filled in, and nowhere from what was never left", () => {
    const habit = after(sockets, at("a", "line_neutral_ohm"), at("b", "line_neutral_ohm"));
    const filled = (place: Place) => place.id !== "c";
    expect(followed(habit, sockets, at("b", "line_neutral_ohm"), filled)).toBeNull();
    expect(followed(habit, sockets, at("b", "line_cpc_ohm"), empty)).toBeNull();
  });

  it("does not learn from a jump to somewhere else", () => {
    expect(after(sockets, at("c", "line_cpc_ohm"), at("a", "line_neutral_ohm"))).toEqual({});
    expect(after(sockets, at("a", "line_cpc_ohm"), { kind: "board", id: "x", field: "zdb_ohm" })).toEqual({});
    expect(after(sockets, at("a", "line_cpc_ohm"), at("a", "line_cpc_ohm"))).toEqual({});
  });
});
