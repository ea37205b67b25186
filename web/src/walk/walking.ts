/** Going round: which room and which point the hands are at, and what a tap does there. */
import { create } from "zustand";
import type { CatalogueEntry, Schemas } from "../api/client";
import { focusOn } from "../inspection/desk";
import { children, type Model } from "../inspection/model";
import { add, setField, useInspection } from "../inspection/open";
import type { Entity, Value, FieldOf, Place } from "../inspection/types";
import { nameOf } from "../inspection/words";
import { tell } from "../ui/tell";
import { pointsOf, unlooked } from "./points";

export type UsualRoom = Schemas["UsualRoomOut"];

interface Walking {
  /** The room that is open; null for the first that is not walked round. */
  room: string | null;
  point: string | null;
  /** The point whose defect is being chosen. */
  choosing: string | null;
  /** What the next photo shows: the observation that was recorded last, until something else is tapped. */
  recorded: string | null;
  /** A room is being added. */
  adding: boolean;
  /** The number that was pressed while a defect is being chosen: keys come faster than what they choose from is drawn. */
  pressed: number | null;
}

export const useWalking = create<Walking>(() => ({
  room: null,
  point: null,
  choosing: null,
  recorded: null,
  adding: false,
  pressed: null,
}));
const { setState: set } = useWalking;

const model = (): Model | null => useInspection.getState().model;

export const roomsOf = (of: Model): Entity[] => children(of, "room", of.id);

/** The room that is open, or the first that nobody has walked round. */
export function openRoom(of: Model, chosen: string | null): Entity | undefined {
  const rooms = roomsOf(of);
  return rooms.find((room) => room.id === chosen) ?? rooms.find((room) => !room.values.walked_at) ?? rooms[0];
}

export function goTo(room: string): void {
  set({ room, point: null, choosing: null, recorded: null });
  focusOn({ kind: "room", id: room, field: "name" });
}

export function select(point: string | null): void {
  set({ point, recorded: null });
  focusOn(point ? { kind: "point", id: point, field: "looked" } : null);
}

export function addRoom(fields: { name: string; kind?: string; floor?: string }): void {
  const now = model();
  if (!now) return;
  const last = roomsOf(now).at(-1);
  const position = Number(last?.values.position ?? 0) + 1;
  const given = Object.entries({ position, ...fields }).filter(([, value]) => value !== undefined);
  goTo(add("room", now.id, Object.fromEntries(given)));
}

/** The usual room that comes after those that are there: what the next tap most likely makes. */
export function likelyNext(of: Model, usual: readonly UsualRoom[]): UsualRoom | undefined {
  const there = new Set(roomsOf(of).map((room) => String(room.values.name)));
  const last = usual.reduce((at, usualRoom, index) => (there.has(usualRoom.name) ? index : at), -1);
  const later = usual.slice(last + 1).find((usualRoom) => !there.has(usualRoom.name));
  return later ?? usual.find((usualRoom) => !there.has(usualRoom.name));
}

export function addPoint(room: Entity, kind: string): void {
  const now = model();
  if (!now) return;
  select(add("point", now.id, { room_id: room.id, kind }));
}

/** One tap says it, the same tap takes it back. */
export function mark(point: Entity, field: FieldOf<"point">, value: Value): void {
  select(point.id);
  const next = point.values[field] === value ? null : value;
  setField({ kind: "point", id: point.id, field }, next);
  // Fine and not reached cannot both be so.
  if (next !== null && field === "looked" && point.values.not_reached) {
    setField({ kind: "point", id: point.id, field: "not_reached" }, null);
  }
  if (next !== null && field === "not_reached" && point.values.looked) {
    setField({ kind: "point", id: point.id, field: "looked" }, null);
  }
}

export function answer(room: Entity, item: string, state: string): void {
  const now = model();
  const existing = now && children(now, "check", room.id).find((check) => check.values.item === item);
  if (!existing) add("check", room.id, { item, state });
  else setField({ kind: "check", id: existing.id, field: "state" }, existing.values.state === state ? null : state);
}

/** Rooms whose rest was called fine before it was known here what is looked at in them: answered once it is. */
const awaitingAnswer = new Set<string>();

useInspection.subscribe(({ model: now }) => {
  for (const id of awaitingAnswer) {
    const view = now?.judgement?.rooms.find((one) => one.id === id);
    const room = now?.entities[id];
    if (!view || !room) continue;
    awaitingAnswer.delete(id);
    for (const check of view.checks) if (!check.state) answer(room, check.key, "good");
  }
});

/** Everything in the room that nobody has spoken of is fine, and the room is walked round. Can be taken back. */
export function restFine(room: Entity, checks: readonly Schemas["CheckView"][]): void {
  const now = model();
  if (!now) return;
  const points = unlooked(pointsOf(now, room.id));
  const answered = children(now, "check", room.id);
  const open = checks.filter((one) => !answered.some((check) => check.values.item === one.key && check.values.state));
  for (const point of points) setField({ kind: "point", id: point.id, field: "looked" }, "fine");
  for (const check of open) answer(room, check.key, "good");
  if (!now.judgement?.rooms.some((one) => one.id === room.id)) awaitingAnswer.add(room.id);
  const walked: Place = { kind: "room", id: room.id, field: "walked_at" };
  setField(walked, new Date().toISOString());
  const count = points.length + open.length;
  if (!count) return;
  tell(
    `${nameOf(room)}: ${count} marked fine.`,
    () => {
      awaitingAnswer.delete(room.id);
      for (const point of points) setField({ kind: "point", id: point.id, field: "looked" }, null);
      for (const check of open) answer(room, check.key, "good");
      setField(walked, null);
      goTo(room.id);
    },
    "walk",
  );
}

/** On to the next room; where there is none yet, to the one that usually comes next. */
export function nextRoom(room: Entity, usual: UsualRoom | undefined): void {
  const now = model();
  if (!now) return;
  const rooms = roomsOf(now);
  const next = rooms[rooms.findIndex((entity) => entity.id === room.id) + 1];
  if (next) goTo(next.id);
  else if (usual) addRoom({ name: usual.name, kind: usual.kind, floor: usual.floor });
}

/** The room goes, what hangs in it stays: its points wait without a room. Can be taken back. */
export function takeOutRoom(room: Entity): void {
  const now = model();
  if (!now) return;
  const count = pointsOf(now, room.id).length;
  const removed: Place = { kind: "room", id: room.id, field: "removed" };
  setField(removed, true);
  set({ room: null, point: null });
  const left = count === 0 ? "" : ` Its ${count === 1 ? "point stays" : `${count} points stay`}, without a room.`;
  tell(`${nameOf(room)} is taken out.${left}`, () => {
    setField(removed, null);
    goTo(room.id);
  });
}

export function takeOutPoint(point: Entity, name: string): void {
  const removed: Place = { kind: "point", id: point.id, field: "removed" };
  setField(removed, true);
  select(null);
  tell(`${name} is taken out.`, () => setField(removed, null));
}

/** Hang points on a circuit, or on none; says where one hung on another before. Can be taken back. */
export function link(points: readonly Entity[], circuit: Entity | null): void {
  const now = model();
  if (!now) return;
  const before = points.map((point) => [point, point.parentId] as const);
  const hang = (point: Entity, parentId: string) => {
    const field = parentId === now.id ? "inspection" : "circuit";
    setField({ kind: "point", id: point.id, field }, parentId, { remember: false });
  };
  for (const point of points) hang(point, circuit?.id ?? now.id);
  const elsewhere = before.filter(([, parentId]) => {
    const other = now.entities[parentId];
    return other?.kind === "circuit" && !other.values.removed && other.id !== circuit?.id;
  });
  const names = [...new Set(elsewhere.map(([, parentId]) => nameOf(now.entities[parentId])))];
  const count = points.length === 1 ? "1 point" : `${points.length} points`;
  const from = circuit && names.length > 0 ? ` ${elsewhere.length} assigned to ${names.join(", ")} before.` : "";
  const undo = () => before.forEach(([point, parentId]) => hang(point, parentId));
  tell(circuit ? `${count} on ${nameOf(circuit)}.${from}` : `${count} on no circuit.`, undo);
}

/** A defect of the catalogue at a point, recorded in one tap with the code that its place leads to. */
export function recordDefect(
  point: Entity,
  name: string,
  room: Entity | undefined,
  entry: CatalogueEntry,
  code: { code: string; why: string } | null,
): void {
  const now = model();
  if (!now) return;
  if (point.values.looked !== "defect") setField({ kind: "point", id: point.id, field: "looked" }, "defect");
  const place = room ? `${nameOf(room)}, ${name}` : name;
  const fields: Record<string, Value> = {
    about_entity: "point",
    about_id: point.id,
    place,
    text: entry.title,
    catalogue_key: entry.key,
  };
  if (code) fields.code = code.code;
  if (code?.why) fields.code_reason = code.why;
  const id = add("observation", now.id, fields);
  set({ point: point.id, choosing: null, pressed: null, recorded: id });
  const removed: Place = { kind: "observation", id, field: "removed" };
  tell(
    `${code ? `${code.code}: ` : ""}${entry.title}. The next photo is pinned to it.`,
    () => {
      setField(removed, true);
      setField({ kind: "point", id: point.id, field: "looked" }, null);
      set({ recorded: null });
    },
    "walk",
  );
}

export function press(number: number): void {
  set({ pressed: number });
}

export function adding(open: boolean): void {
  set({ adding: open });
}

/** Choose what is wrong with a point. */
export function choose(point: string | null): void {
  if (point) select(point);
  set({ choosing: point, pressed: null });
}
