/** Points of the walk: those of a room in their order, and what they are called. */
import { useShallow } from "zustand/react/shallow";
import type { Schemas } from "../api/client";
import type { Model } from "../inspection/model";
import { useInspection } from "../inspection/open";
import type { Entity } from "../inspection/types";

type Entities = Model["entities"];
type View = Schemas["PointView"];

const inRooms = new WeakMap<Entities, Map<string, Entity[]>>();
const NONE: Entity[] = [];

/** Points by the room they hang in, in the order in which they were counted; '' for those that hang in none. */
export function pointsByRoom(entities: Entities): Map<string, Entity[]> {
  const known = inRooms.get(entities);
  if (known) return known;
  const byRoom = new Map<string, Entity[]>();
  for (const entity of Object.values(entities)) {
    if (entity.kind !== "point" || entity.values.removed) continue;
    const room = entities[String(entity.values.room_id ?? "")];
    const key = room && !room.values.removed ? room.id : "";
    const there = byRoom.get(key);
    if (there) there.push(entity);
    else byRoom.set(key, [entity]);
  }
  const position = (e: Entity) => Number(e.values.position ?? 0);
  for (const points of byRoom.values()) points.sort((a, b) => position(a) - position(b) || (a.id < b.id ? -1 : 1));
  inRooms.set(entities, byRoom);
  return byRoom;
}

export const pointsOf = (model: Model, roomId: string): Entity[] => pointsByRoom(model.entities).get(roomId) ?? NONE;

/** Points of a room, drawn anew where one of them changed. */
export function usePoints(roomId: string): Entity[] {
  return useInspection(useShallow((s) => (s.model ? pointsOf(s.model, roomId) : NONE)));
}

const viewsOf = new WeakMap<View[], Map<string, View>>();

/** What is said of a point: every row asks at every change, so it is looked up rather than searched for. */
export function usePointView(id: string): View | undefined {
  return useInspection((s) => {
    const views = s.model?.judgement?.points;
    if (!views) return undefined;
    let byId = viewsOf.get(views);
    if (!byId) viewsOf.set(views, (byId = new Map(views.map((point) => [point.id, point]))));
    return byId.get(id);
  });
}

const codesAt = new WeakMap<Entities, Map<string, string>>();

/** The codes of what was observed at a thing, with a space between; empty where nothing was. */
export function useCodesAt(id: string): string {
  return useInspection((s) => {
    const entities = s.model?.entities;
    if (!entities) return "";
    let codes = codesAt.get(entities);
    if (!codes) {
      codesAt.set(entities, (codes = new Map()));
      for (const { kind, values } of Object.values(entities)) {
        if (kind !== "observation" || values.removed) continue;
        const about = String(values.about_id ?? "");
        codes.set(about, [codes.get(about), String(values.code ?? "?")].filter(Boolean).join(" "));
      }
    }
    return codes.get(id) ?? "";
  });
}

export function useRoomView(id: string): Schemas["RoomView"] | undefined {
  return useInspection((s) => s.model?.judgement?.rooms.find((room) => room.id === id));
}

/** What points are called within their room until the judgement says so: their kind, numbered where it repeats. */
export function shortNames(points: readonly Entity[]): string[] {
  const kinds = points.map((point) => String(point.values.kind ?? "point"));
  const counted: Record<string, number> = {};
  return points.map((point, at) => {
    const kind = kinds[at] ?? "point";
    counted[kind] = (counted[kind] ?? 0) + 1;
    const alone = kinds.filter((other) => other === kind).length === 1;
    return String(point.values.name ?? (alone ? kind : `${kind} ${counted[kind]}`));
  });
}

/** What one point is called within its room. */
export function nameWithin(model: Model, point: Entity): string {
  const room = String(point.values.room_id ?? "");
  const points = pointsOf(model, model.entities[room]?.values.removed ? "" : room);
  return shortNames(points)[points.findIndex((entity) => entity.id === point.id)] ?? "point";
}

/** How far a room is: points and checks not looked at. Counted here, so that it is right while the verdict is on its way. */
export function unlooked(points: readonly Entity[]): Entity[] {
  return points.filter((point) => !point.values.looked && !point.values.not_reached);
}
