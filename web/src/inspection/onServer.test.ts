import { describe, expect, it } from "vitest";
import type { Schemas } from "../api/client";
import { blank, type Model, open, receive, takeNews, write } from "./model";
import { entitiesOnServer } from "./onServer";
import type { Kind, Pending, Value } from "./types";

let n = 0;
const pending = (entity: Kind, id: string, field: string, value: Value): Pending => ({
  inspectionId: "i",
  author: "ruth",
  change: { id: `c${++n}`, entity, entity_id: id, field, value, based_on: 0, made_at: "2026-12-01", device: "d" },
});

function cottage(waits: Pending[] = []): Model {
  const entities: Schemas["EntityOut"][] = [
    { kind: "inspection", id: "i", parent_id: "f", values: {} },
    { kind: "board", id: "b", parent_id: "i", values: { name: "Board 1" } },
    { kind: "circuit", id: "c", parent_id: "b", values: { zs_ohm: "0.31" } },
  ];
  return open({ id: "i", seq: 10, may: [], entities, judgement: { blind: [] } as never }, waits);
}

const byId = (model: Model) => Object.fromEntries(entitiesOnServer(model).map((e) => [e.id, e]));
const result = (p: Pending, state: "kept" | "refused") =>
  ({ id: p.change.id, state, seq: null, reason: null, overtook: null }) as Schemas["ResultOut"];
const receipt = (seq: number, ...results: Schemas["ResultOut"][]): Schemas["Receipt"] => ({
  seq,
  issue: 0,
  results,
  may: [],
  judgement: null,
  change: null,
});
const entry = (value: Value): Schemas["EntryOut"] =>
  ({ seq: 11, id: "e", entity: "circuit", entity_id: "c", field: "zs_ohm", value, made_at: "2026-12-02" }) as never;

describe("what the server has, from what stands here", () => {
  it("is without what waits, also after a reload", () => {
    const first = pending("circuit", "c", "zs_ohm", "0.50");
    const typed = write(cottage(), first);
    expect(byId(typed).c?.values.zs_ohm).toBe("0.31");
    expect(byId(write(typed, pending("circuit", "c", "zs_ohm", "0.60"))).c?.values.zs_ohm).toBe("0.31");
    expect(byId(cottage([first])).c?.values.zs_ohm).toBe("0.31");
    expect(byId(write(cottage(), pending("circuit", "c", "r1_r2_ohm", "0.2"))).c?.values.r1_r2_ohm).toBeNull();
  });

  it("has nothing of what was made here, until the server has taken it", () => {
    const [made, named] = [pending("circuit", "new", "board", "b"), pending("circuit", "new", "designation", "Hob")];
    const here = write(write(cottage(), made), named);
    expect(byId(here).new).toBeUndefined();
    const half = receive(here, receipt(11, result(made, "kept")), [made.change]).model;
    expect(byId(half).new).toMatchObject({ parent_id: "b", values: { designation: null } });
    const whole = receive(half, receipt(12, result(named, "kept")), [named.change]).model;
    expect(byId(whole).new?.values.designation).toBe("Hob");
  });

  it("keeps what stood there where the server refused, and takes what others wrote under it", () => {
    const wrong = pending("circuit", "c", "zs_ohm", "1..4");
    const refused = receive(write(cottage(), wrong), receipt(10, result(wrong, "refused")), [wrong.change]).model;
    expect([refused.entities.c?.values.zs_ohm, byId(refused).c?.values.zs_ohm]).toEqual(["1..4", "0.31"]);
    const news = { seq: 11, entries: [entry("0.44")], judgement: null };
    const under = takeNews(write(cottage(), pending("circuit", "c", "zs_ohm", "0.50")), news);
    expect([under.entities.c?.values.zs_ohm, byId(under).c?.values.zs_ohm]).toEqual(["0.50", "0.44"]);
  });

  it("is nothing of an inspection that so far is only here", () => {
    expect(entitiesOnServer(blank("i", [pending("inspection", "i", "firm", "f")]))).toEqual([]);
  });

  it("remembers what the rules ask the journal for, of what was taken and heard", () => {
    const mine = pending("circuit", "c", "zs_ohm", "0.50");
    mine.change.read_by = "piet";
    const taken = receive(write(cottage(), mine), receipt(11, result(mine, "kept")), [mine.change]).model;
    expect(taken.entered).toEqual([{ id: "c", field: "zs_ohm", value: "0.50", at: "2026-12-01", read_by: "piet" }]);
    const heard = takeNews(cottage(), { seq: 11, entries: [entry("0.44")], judgement: null });
    expect(heard.entered.map((e) => e.at)).toEqual(["2026-12-02"]);
  });
});
