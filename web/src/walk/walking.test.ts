import "fake-indexeddb/auto";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { CatalogueEntry, Judgement } from "../api/client";
import { children, type Model } from "../inspection/model";
import { add, begin, leave, setField, useInspection } from "../inspection/open";
import type { Entity, Value } from "../inspection/types";
import { nameWithin, pointsOf, unlooked } from "./points";
import {
  addPoint,
  addRoom,
  answer,
  likelyNext,
  link,
  mark,
  nextRoom,
  openRoom,
  recordDefect,
  restFine,
  roomsOf,
  takeOutPoint,
  takeOutRoom,
  useWalking,
  type UsualRoom,
} from "./walking";

/** What was told in passing, and how each is taken back. */
const told = vi.hoisted(() => [] as { said: string; undo: (() => void) | undefined }[]);
vi.mock("../ui/tell", () => ({ tell: (said: string, undo?: () => void) => told.push({ said, undo }) }));

const USUAL = [
  { name: "Hall", kind: "escape route", floor: "ground", points: ["light"] },
  { name: "Kitchen", kind: "kitchen", floor: "ground", points: ["socket"] },
  { name: "Bathroom", kind: "bath or shower", floor: "first", points: ["light"] },
] as unknown as UsualRoom[];

const model = (): Model => useInspection.getState().model!;
const rooms = () => roomsOf(model());
const here = () => openRoom(model(), useWalking.getState().room)!;
const points = (room: Entity = here()) => pointsOf(model(), room.id);
const now = (entity: Entity): Entity["values"] => model().entities[entity.id]!.values;
const last = () => told.at(-1)!;

function count(...kinds: string[]): Entity[] {
  for (const kind of kinds) addPoint(here(), kind);
  return points();
}

/** What the server says of the open room: which looks it asks for. */
function judged(...open: string[]): void {
  const checks = open.map((key) => ({ key, label: key, state: null, check_id: null, observation: null }));
  const judgement = { rooms: [{ id: here().id, checks }], points: [], notes: [] } as unknown as Judgement;
  useInspection.setState({ model: { ...model(), judgement } });
}
const checks = () => model().judgement!.rooms[0]!.checks;

beforeEach(() => {
  told.length = 0;
  vi.stubGlobal("localStorage", { getItem: () => null, setItem: () => undefined });
  vi.stubGlobal("document", { visibilityState: "hidden" });
  vi.stubGlobal("fetch", () => Promise.reject(new TypeError("Failed to fetch")));
  begin({ id: "ruth", firm_id: "firm" }, { reference: "K-1" });
  addRoom({ name: "Hall", kind: "escape route", floor: "ground" });
});
afterEach(() => {
  leave();
  vi.unstubAllGlobals();
});

describe("counting", () => {
  it("hangs points in the open room, in order, on no circuit, and numbers those of one kind", () => {
    const found = count("socket", "light", "socket");
    expect(found.map((entity) => nameWithin(model(), entity))).toEqual(["socket 1", "light", "socket 2"]);
    expect(new Set(found.map((entity) => entity.parentId))).toEqual(new Set([model().id]));
    expect(useWalking.getState().point).toBe(found[2]!.id);
  });

  it("goes on where the walk is, and what was taken out does not count", () => {
    count("socket", "socket");
    nextRoom(here(), USUAL[1]);
    expect(here().values.name).toBe("Kitchen");
    const [socket] = count("socket", "light");
    takeOutPoint(socket!, "socket");
    expect(points().map((point) => point.values.kind)).toEqual(["light"]);
    last().undo!();
    expect(points()).toHaveLength(2);
    expect(points(rooms()[0]!)).toHaveLength(2);
  });
});

describe("one tap at a point", () => {
  it("says it is fine, and the same tap takes that back", () => {
    const [socket] = count("socket");
    mark(points()[0]!, "looked", "fine");
    expect(now(socket!).looked).toBe("fine");
    mark(points()[0]!, "looked", "fine");
    expect(now(socket!).looked).toBeNull();
  });

  it("never leaves a point both fine and not reached", () => {
    const [socket] = count("socket");
    mark(points()[0]!, "looked", "fine");
    mark(points()[0]!, "not_reached", "furniture in the way");
    expect(now(socket!)).toMatchObject({ looked: null, not_reached: "furniture in the way" });
    mark(points()[0]!, "looked", "fine");
    expect(now(socket!)).toMatchObject({ looked: "fine", not_reached: null });
  });
});

describe("the rest is fine", () => {
  it("speaks for what nobody spoke of, and leaves a defect and what was not reached as they are", () => {
    const [bad, shut, open] = count("socket", "socket", "light");
    mark(bad!, "looked", "defect");
    mark(points()[1]!, "not_reached", "furniture in the way");
    judged("cables", "bonding");
    answer(here(), "bonding", "not good");
    restFine(here(), checks());
    expect(now(bad!).looked).toBe("defect");
    expect(now(shut!)).toMatchObject({ not_reached: "furniture in the way" });
    expect(now(shut!).looked ?? null).toBeNull();
    expect(now(open!).looked).toBe("fine");
    const answers = Object.fromEntries(
      children(model(), "check", here().id).map((c) => [c.values.item, c.values.state]),
    );
    expect(answers).toEqual({ bonding: "not good", cables: "good" });
    expect(here().values.walked_at).toBeTruthy();
    expect(last().said).toBe("Hall: 2 marked fine.");
  });

  it("is taken back to exactly what stood before", () => {
    const [bad] = count("socket", "light", "switch");
    mark(bad!, "looked", "defect");
    judged("cables");
    restFine(here(), checks());
    expect(unlooked(points())).toEqual([]);
    last().undo!();
    expect(unlooked(points()).map((entity) => entity.values.kind)).toEqual(["light", "switch"]);
    expect(now(bad!).looked).toBe("defect");
    expect(here().values.walked_at).toBeNull();
    expect(children(model(), "check", here().id).map((check) => check.values.state)).toEqual([null]);
  });

  it("is remembered for looks that are not known yet, and answered once they are", () => {
    const hall = here();
    count("light");
    restFine(hall, []);
    expect(children(model(), "check", hall.id)).toEqual([]);
    judged("cables");
    expect(children(model(), "check", hall.id).map((check) => [check.values.item, check.values.state])).toEqual([
      ["cables", "good"],
    ]);
  });

  it("taken back before they are known, it answers nothing later", () => {
    const hall = here();
    count("light");
    restFine(hall, []);
    last().undo!();
    judged("cables");
    expect(children(model(), "check", hall.id)).toEqual([]);
  });
});

describe("rooms", () => {
  it("the usual one after the last that is there is offered, and none twice", () => {
    expect(likelyNext(model(), USUAL)?.name).toBe("Kitchen");
    addRoom({ name: "Bathroom" });
    expect(likelyNext(model(), USUAL)?.name).toBe("Kitchen");
    addRoom({ name: "Kitchen" });
    expect(likelyNext(model(), USUAL)).toBeUndefined();
  });

  it("the first that nobody walked round opens by itself", () => {
    addRoom({ name: "Kitchen" });
    restFine(rooms()[0]!, []);
    expect(openRoom(model(), null)?.values.name).toBe("Kitchen");
  });

  it("one that goes leaves its points on the wall, and comes back with them", () => {
    const hall = here();
    count("socket", "light");
    takeOutRoom(hall);
    expect(rooms()).toEqual([]);
    expect(last().said).toBe("Hall is taken out. Its 2 points stay, without a room.");
    expect(pointsOf(model(), "")).toHaveLength(2);
    last().undo!();
    expect(pointsOf(model(), "")).toEqual([]);
    expect(points(hall)).toHaveLength(2);
  });
});

describe("hanging points on circuits", () => {
  let ring = "";
  let lights = "";
  const circuit = (id: string): Entity => model().entities[id]!;

  beforeEach(() => {
    const board = add("board", model().id, { name: "Board 1", position: 1 });
    ring = add("circuit", board, { way: "1", designation: "Sockets", position: 1 });
    lights = add("circuit", board, { way: "2", designation: "Lights", position: 2 });
  });

  it("takes several at once, and says which hung elsewhere before", () => {
    link(count("socket", "socket"), circuit(ring));
    expect(children(model(), "point", ring)).toHaveLength(2);
    expect(last().said).toBe("2 points on 1 Sockets.");
    addPoint(here(), "light");
    link(points(), circuit(lights));
    expect(last().said).toBe("3 points on 2 Lights. 2 assigned to 1 Sockets before.");
  });

  it("goes back to where each one hung", () => {
    const [first] = count("socket", "light");
    link([first!], circuit(ring));
    link(points(), circuit(lights));
    last().undo!();
    expect(points().map((point) => point.parentId)).toEqual([ring, model().id]);
  });

  it("off a circuit, a point hangs on the inspection and stays in its room", () => {
    link(count("socket"), circuit(ring));
    link(points(), null);
    expect(points().map((point) => point.parentId)).toEqual([model().id]);
    expect(last().said).toBe("1 point on no circuit.");
  });

  it("a circuit that was taken out is not said to have held it", () => {
    link(count("socket"), circuit(ring));
    setField({ kind: "circuit", id: ring, field: "removed" }, true);
    link(points(), circuit(lights));
    expect(last().said).toBe("1 point on 2 Lights.");
  });
});

describe("a defect in one tap", () => {
  const entry = { key: "accessory-cracked", title: "Cracked plate" } as CatalogueEntry;
  const observations = () => children(model(), "observation", model().id);

  it("stands at its place with its code and why, and the next photo shows it", () => {
    const [socket] = count("socket");
    recordDefect(socket!, "socket", here(), entry, { code: "C2", why: "Children reach it." });
    expect(observations().map((observation) => observation.values)).toMatchObject([
      {
        about_entity: "point",
        about_id: socket!.id,
        place: "Hall, socket",
        text: "Cracked plate",
        catalogue_key: "accessory-cracked",
        code: "C2",
        code_reason: "Children reach it.",
      },
    ]);
    expect(now(socket!).looked).toBe("defect");
    expect(useWalking.getState().recorded).toBe(observations()[0]!.id);
    expect(last().said).toBe("C2: Cracked plate. The next photo is pinned to it.");
  });

  it("without an opinion on its code it has none: nobody decided", () => {
    const [socket] = count("socket");
    recordDefect(socket!, "socket", undefined, entry, null);
    expect(observations()[0]!.values).not.toHaveProperty("code");
    expect(observations()[0]!.values.place).toBe("socket");
  });

  it("is taken back whole", () => {
    const [socket] = count("socket");
    recordDefect(socket!, "socket", here(), entry, { code: "C3", why: "" });
    last().undo!();
    expect(observations()).toEqual([]);
    expect(now(socket!).looked satisfies Value | undefined).toBeNull();
    expect(useWalking.getState().recorded).toBeNull();
  });
});
