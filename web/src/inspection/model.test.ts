import { describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { blank, children, takeNews, type Model, open, receive, refusal, write } from "./model";
import type { Change, Kind, Pending, Value } from "./types";

let n = 0;

function pending(entity: Kind, id: string, field: string, value: Value, refused?: string): Pending {
  const change: Change = {
    id: `change-${++n}`,
    entity,
    entity_id: id,
    field,
    value,
    based_on: 0,
    made_at: "",
    device: "d",
  };
  return { inspectionId: "i", author: "ruth", change, refused };
}

function cottage(): Model {
  const entities: Schemas["EntityOut"][] = [
    { kind: "inspection", id: "i", parent_id: "f", values: {} },
    { kind: "board", id: "b", parent_id: "i", values: { name: "Board 1" } },
    { kind: "circuit", id: "c2", parent_id: "b", values: { position: 2, zs_ohm: "0.31" } },
    { kind: "circuit", id: "c1", parent_id: "b", values: { position: 1 } },
  ];
  return open({ id: "i", seq: 10, state: "in hand", may: ["write"], entities, judgement: null as never }, []);
}

const WHOLE = { outcome: "satisfactory", notes: [] } as unknown as Schemas["JudgementView"];

function receipt(seq: number, results: Partial<Schemas["ResultOut"]>[]): Schemas["Receipt"] {
  const whole = results.map((r) => ({
    id: "",
    state: "kept" as const,
    seq: null,
    reason: null,
    overtook: null,
    waits: false,
    as_kept: null,
    ...r,
  }));
  return { seq, issue: 0, results: whole, may: [], judgement: WHOLE, change: null };
}

function news(seq: number, ...entries: Partial<Schemas["EntryOut"]>[]): Schemas["News"] {
  const whole = entries.map((e, i) => ({
    seq: seq - entries.length + 1 + i,
    id: `e${i}`,
    entity: "circuit",
    entity_id: "c2",
    field: "zs_ohm",
    value: null,
    before: null,
    overtook: null,
    overtook_author_id: null,
    made_at: "",
    kept_at: "",
    device: "other",
    instrument_id: null,
    read_by: null,
    read_at: null,
    author_id: "idris",
    author: "Idris",
    ...e,
  }));
  return { seq, entries: whole, judgement: null };
}

describe("moving a circuit to another board", () => {
  it("takes it out of the one and into the other, here and from a colleague", () => {
    const two = write(cottage(), pending("board", "b2", "inspection", "i"));
    const moved = write(two, pending("circuit", "c1", "board", "b2"));
    expect(children(moved, "circuit", "b").map((c) => c.id)).toEqual(["c2"]);
    expect(children(moved, "circuit", "b2").map((c) => c.id)).toEqual(["c1"]);
    const takeNewsd = takeNews(two, news(11, { entity_id: "c2", field: "board", value: "b2", before: "b" }));
    expect(children(takeNewsd, "circuit", "b2").map((c) => c.id)).toEqual(["c2"]);
    expect(takeNewsd.entities.c2?.values.zs_ohm).toBe("0.31");
  });
});

describe("writing", () => {
  it("shows a figure at once and lets it wait", () => {
    const model = write(cottage(), pending("circuit", "c1", "zs_ohm", "0.4"));
    expect(model.entities.c1?.values.zs_ohm).toBe("0.4");
    expect(model.pending).toHaveLength(1);
  });

  it("makes an entity by its parent and leaves the others untouched", () => {
    const before = cottage();
    const model = write(before, pending("circuit", "c3", "board", "b"));
    expect(children(model, "circuit", "b").map((c) => c.id)).toEqual(["c3", "c1", "c2"]);
    expect(model.entities.c1).toBe(before.entities.c1);
  });

  it("lets a refused entry give way to its correction", () => {
    let model = write(cottage(), pending("circuit", "c1", "zs_ohm", "1..4", "more than one decimal mark"));
    expect(refusal(model, "c1", "zs_ohm")).toBe("more than one decimal mark");
    model = write(model, pending("circuit", "c1", "zs_ohm", "1.4"));
    expect(refusal(model, "c1", "zs_ohm")).toBeUndefined();
    expect(model.pending).toHaveLength(1);
  });
});

describe("the server's answer", () => {
  it("lets go of what is kept and holds what is refused, with the figure as typed", () => {
    const good = pending("circuit", "c1", "zs_ohm", "0.4");
    const bad = pending("circuit", "c2", "zs_ohm", "abc");
    const model = write(write(cottage(), good), bad);
    const answer = receipt(11, [
      { id: good.change.id, seq: 11 },
      { id: bad.change.id, state: "refused", reason: "not a reading" },
    ]);
    const { model: after, gap } = receive(model, answer, [good.change, bad.change]);
    expect(gap).toBe(false);
    expect(after.seq).toBe(11);
    expect(after.pending.map((p) => p.refused)).toEqual(["not a reading"]);
    expect(after.entities.c2?.values.zs_ohm).toBe("abc");
  });

  it("has what was sent as the server keeps it, but for what was entered over it since", () => {
    const blank = pending("circuit", "c1", "designation", " Pump ");
    const typed = pending("circuit", "c2", "zs_ohm", "0,40");
    const again = pending("circuit", "c2", "zs_ohm", "0.42");
    const start = write(write(cottage(), blank), typed);
    const answer = receipt(12, [
      { id: blank.change.id, seq: 11, as_kept: { value: "Pump" } },
      { id: typed.change.id, seq: 12, as_kept: { value: "0.40" } },
    ]);
    const { model: after } = receive(write(start, again), answer, [blank.change, typed.change]);
    expect(after.entities.c1?.values.designation).toBe("Pump");
    expect(after.entities.c2?.values.zs_ohm).toBe("0.42");
    expect(after.entities.c2?.values.position).toBe(2);
    expect(Object.values(after.base)).toEqual(["0.40"]);
    expect(after.entered.map((one) => one.value)).toEqual(["Pump", "0.40"]);
  });

  it("takes what became different into the judgement that it is a change of", () => {
    const note = (id: string, status: string) => ({ id, status });
    const before = {
      notes: [note("a", "pass"), note("b", "pass"), note("c", "pass")],
      sums: { a: "1", b: "2" },
      outcome: "satisfactory",
    };
    const start = { ...cottage(), judgement: before as never, byServer: before as never, judgedSeq: 10 };
    const mine = pending("circuit", "c1", "zs_ohm", "9.4");
    const change = {
      set: { outcome: "unsatisfactory" },
      lists: { notes: [{ start: 0, end: 1 }, { new: [note("b", "fail")] }, { start: 2, end: 3 }] },
      maps: { sums: { set: { c: "3" }, gone: ["a"] } },
    };
    const answer = { ...receipt(11, [{ id: mine.change.id, seq: 11 }]), judgement: null, change: change as never };
    const { model, gap } = receive(write(start, mine), answer, [mine.change], 10);
    expect(gap).toBe(false);
    expect(model.judgement).toEqual({
      notes: [note("a", "pass"), note("b", "fail"), note("c", "pass")],
      sums: { b: "2", c: "3" },
      outcome: "unsatisfactory",
    });
    expect(model.judgedSeq).toBe(11);
  });

  it("asks for the whole where a change is of another judgement than stands here", () => {
    const start = { ...cottage(), judgement: WHOLE, byServer: WHOLE, judgedSeq: 10 };
    const mine = pending("circuit", "c1", "zs_ohm", "9.4");
    const answer = {
      ...receipt(11, [{ id: mine.change.id, seq: 11 }]),
      judgement: null,
      change: { set: {}, lists: {}, maps: {} },
    };
    const { model, gap } = receive(write(start, mine), answer, [mine.change], 9);
    expect(gap).toBe(true);
    expect(model.judgement).toBe(WHOLE);
    expect(model.judgedSeq).toBeNull();
  });

  it("notices that somebody else wrote in between", () => {
    const mine = pending("circuit", "c1", "zs_ohm", "0.4");
    const { model, gap } = receive(write(cottage(), mine), receipt(13, [{ id: mine.change.id, seq: 13 }]), [
      mine.change,
    ]);
    expect(gap).toBe(true);
    expect(model.seq).toBe(10);
  });

  it("says that two devices met, so that what crossed is asked for", () => {
    const mine = pending("circuit", "c2", "zs_ohm", "0.4");
    const alone = receipt(11, [{ id: mine.change.id, seq: 11 }]);
    expect(receive(write(cottage(), mine), alone, [mine.change], 10).model.met).toBe(0);
    const answer = receipt(11, [{ id: mine.change.id, seq: 11, overtook: { seq: 9, author: "Idris", value: "0.39" } }]);
    expect(receive(write(cottage(), mine), answer, [mine.change], 10).model.met).toBe(11);
  });

  it("keeps what waits for a word, with the issue that is known from now on", () => {
    const mine = pending("circuit", "c2", "zs_ohm", "0.4");
    const fate = { id: mine.change.id, state: "refused" as const, reason: "Issue 1 was signed.", waits: true };
    const { model } = receive(write(cottage(), mine), { ...receipt(10, [fate]), issue: 1 }, [mine.change], 10);
    expect(model.pending).toMatchObject([{ refused: "Issue 1 was signed.", waits: true }]);
    expect(model.issue).toBe(1);
  });
});

describe("what others write", () => {
  it("is taken over", () => {
    const model = takeNews(cottage(), news(11, { value: "0.52" }));
    expect(model.entities.c2?.values.zs_ohm).toBe("0.52");
    expect(model.seq).toBe(11);
    expect(model.met).toBe(11);
  });

  it("does not take away what is typed here and not yet sent", () => {
    const model = write(cottage(), pending("circuit", "c2", "zs_ohm", "0.44"));
    expect(takeNews(model, news(11, { value: "0.52" })).entities.c2?.values.zs_ohm).toBe("0.44");
  });

  it("that comes late puts no earlier verdicts over later ones", () => {
    const later = { ...cottage(), seq: 14, judgement: WHOLE, byServer: WHOLE, judgedSeq: 14 };
    const stale = { ...news(12, { value: "0.52" }), judgement: { outcome: "satisfactory" } as never };
    const model = takeNews(later, stale);
    expect([model.judgement, model.judgedSeq, model.seq]).toEqual([WHOLE, 14, 14]);
    // A receipt that was overtaken by news likewise.
    const mine = pending("circuit", "c1", "zs_ohm", "9.4");
    const late = { ...receipt(13, [{ id: mine.change.id, seq: 13 }]), judgement: { outcome: "satisfactory" } as never };
    const received = receive(write(later, mine), late, [mine.change]);
    expect([received.model.judgement, received.model.judgedSeq]).toEqual([WHOLE, 14]);
  });

  it("without verdicts has them asked for", () => {
    const model = takeNews({ ...cottage(), judgement: WHOLE, byServer: WHOLE, judgedSeq: 10 }, news(11, {}));
    expect([model.judgement, model.judgedSeq]).toEqual([WHOLE, null]);
  });

  it("is not taken twice", () => {
    const once = takeNews(cottage(), news(11, { value: "0.52" }));
    const changed = write(once, pending("circuit", "c1", "zs_ohm", "0.6"));
    expect(takeNews(changed, news(11, { value: "0.31" })).entities.c2?.values.zs_ohm).toBe("0.52");
  });
});

describe("opening", () => {
  it("lays what waits on this device over what the server has", () => {
    const waiting = [pending("circuit", "c2", "zs_ohm", "0.77"), pending("board", "b2", "inspection", "i")];
    const found = {
      id: "i",
      seq: 3,
      state: "in hand" as const,
      may: [],
      entities: [
        { kind: "inspection", id: "i", parent_id: "f", values: {} },
        { kind: "board", id: "b", parent_id: "i", values: {} },
        { kind: "circuit", id: "c2", parent_id: "b", values: { zs_ohm: "0.31" } },
      ],
      judgement: null as never,
    };
    const model = open(found, waiting);
    expect(model.entities.c2?.values.zs_ohm).toBe("0.77");
    expect(children(model, "board", "i").map((b) => b.id)).toEqual(["b", "b2"]);
  });

  it("begins an inspection that only this device knows", () => {
    const model = blank("i", [pending("inspection", "i", "firm", "f"), pending("inspection", "i", "reference", "K-1")]);
    expect(model.entities.i?.values.reference).toBe("K-1");
  });
});
