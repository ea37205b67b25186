import { describe, expect, it } from "vitest";
import type { Judgement, Note, Status } from "../api/client";
import { arrange, waveKey } from "./arrange";
import type { Place, FieldOf } from "./types";

function note(id: string, field: string, standing: Status, title: string, more: Partial<Note> = {}): Note {
  return {
    entity: "circuit", id, field, title, of: title.split(": ")[0] ?? "", words: field, status: standing, reason: "", limit: null, margin: null, next_step: null,
    observation: null, source: "rule 7.1", stage: "live", standing, touches: [], because_of: null, actions: [],
    on_record: false, asks: false, overruled: null, ...more,
  }; // prettier-ignore
}

const judged = (...notes: Note[]) => ({ notes }) as unknown as Judgement;
const at = (id: string, field: FieldOf<"circuit">): Place => ({ kind: "circuit", id, field });
const hands = (more: Partial<Parameters<typeof arrange>[1]> = {}) => ({
  stage: "live" as const, focus: null, left: [], waved: {}, ...more,
}); // prettier-ignore

describe("the margin", () => {
  const bad = note("a", "zs_ohm", "fail", "1 Cooker: Zs 2.10 Ω");
  const good = note("b", "zs_ohm", "pass", "2 Hob: Zs 0.40 Ω");

  it("keeps what was just left on top, a pass too, while the next figure is in focus", () => {
    const arrangement = arrange(judged(bad, good), hands({ left: [at("b", "zs_ohm")], focus: at("a", "zs_ohm") }));
    expect(arrangement.left).toEqual([good]);
    expect(arrangement.focused).toEqual([bad]);
  });

  it("keeps what does not pass until it is answered, also behind figures that were left later", () => {
    const arrangement = arrange(judged(bad, good), hands({ left: [at("b", "zs_ohm"), at("a", "zs_ohm")] }));
    expect(arrangement.left).toEqual([good]);
    expect(arrangement.unanswered).toEqual([bad]);
    expect(arrangement.rest.fail).toEqual([]);
    for (const answer of [{ on_record: true }, { overruled: { status: "pass" as const, reason: "old leads" } }]) {
      const answered = { ...bad, ...answer };
      const after = arrange(judged(answered, good), hands({ left: [at("b", "zs_ohm"), at("a", "zs_ohm")] }));
      expect(after.unanswered).toEqual([]);
    }
  });

  it("waves a note on until its figure changes", () => {
    const left = [at("b", "zs_ohm"), at("a", "zs_ohm")];
    const waved = { [waveKey(bad)]: true as const };
    expect(arrange(judged(bad, good), hands({ left, waved })).unanswered).toEqual([]);
    expect(arrange(judged(bad, good), hands({ left, waved })).rest.fail).toEqual([[bad]]);
    const other = note("a", "zs_ohm", "fail", "1 Cooker: Zs 3.00 Ω");
    expect(arrange(judged(other, good), hands({ left, waved })).unanswered).toEqual([other]);
  });

  it("says equal things once, with all whom they speak of, and other things apart", () => {
    const second = note("c", "zs_ohm", "fail", "3 Shower: Zs 1.90 Ω");
    const third = note("d", "zs_ohm", "fail", "4 Oven: Zs 1.90 Ω", { next_step: "Tighten the cpc." });
    const arrangement = arrange(judged(bad, second, third), hands());
    expect(arrangement.rest.fail.map((group) => group.map((one) => one.id))).toEqual([["a", "c"], ["d"]]);
    expect(arrangement.pressing).toBe(3);
  });

  it("leaves out what follows from another, passes, and other stages, except before the report", () => {
    const follows = note("e", "zs_ohm", "fail", "5 Oven: Zs", { because_of: { id: "a", field: "zs_ohm" } });
    const dead = note("f", "r1_r2_ohm", "attention", "6 Hob: R1+R2 0.9 Ω", { stage: "dead" });
    expect(arrange(judged(follows, good, dead), hands()).pressing).toBe(0);
    expect(arrange(judged(follows, good, dead), hands({ stage: "report" })).rest.attention).toEqual([[dead]]);
  });

  it("finds a statement about several circuits at each of them", () => {
    const both = note("a", "rcd_trip_ms", "fail", "RCD 1: 340 ms", { touches: ["b", "c"] });
    expect(arrange(judged(both), hands({ focus: at("c", "rcd_trip_ms") })).focused).toEqual([both]);
  });
});
