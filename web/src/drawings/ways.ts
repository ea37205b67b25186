/** A board's ways in their places, and moving circuits between them. */
import type { Entity, Place, Value, FieldOf } from "../inspection/types";

export const PHASES = ["L1", "L2", "L3"] as const;

/** One place on the front: the way's number, the phase on a three-phase board, and what is on it. */
export interface Slot {
  way: number;
  phase: string | null;
  circuit: Entity | null;
}

const numberOf = (circuit: Entity) => Number.parseInt(String(circuit.values.way ?? ""), 10) || 0;

/** The next free way: one more than the highest number in use. */
export const nextWay = (circuits: Entity[]): number => Math.max(0, ...circuits.map(numberOf)) + 1;

/** The front from the first way to the last; circuits whose way is no number, or is taken already, follow. */
export function front(board: Entity, circuits: Entity[], three: boolean): { slots: Slot[]; others: Entity[] } {
  const most = Math.max(Number(board.values.ways ?? 0), ...circuits.map(numberOf));
  const ways = Math.min(most, 72);
  const slots: Slot[] = [];
  for (let way = 1; way <= ways; way++) {
    for (const phase of three ? PHASES : [null]) slots.push({ way, phase, circuit: null });
  }
  const others: Entity[] = [];
  for (const circuit of circuits) {
    const own = slots.filter(
      (slot) =>
        slot.way === numberOf(circuit) &&
        (!three || circuit.values.phase === "all three" || slot.phase === circuit.values.phase),
    );
    const free = own.filter((slot) => slot.circuit === null);
    if (!own.length || free.length < own.length) others.push(circuit);
    else for (const slot of own) slot.circuit = circuit;
  }
  return { slots, others };
}

export interface Step {
  place: Place;
  value: Value;
}

/** What has to be set so that a circuit stands on another way of its board; whoever is there takes its old one. */
export function movedTo(circuits: Entity[], circuit: Entity, way: number): Step[] {
  const set = (entity: Entity, field: FieldOf<"circuit">, value: Value): Step => ({
    place: { kind: "circuit", id: entity.id, field },
    value,
  });
  const from = { way: circuit.values.way ?? null, position: circuit.values.position ?? null };
  if (String(way) === from.way) return [];
  const there = circuits.find(
    (entity) =>
      entity.id !== circuit.id &&
      numberOf(entity) === way &&
      (entity.values.phase ?? null) === (circuit.values.phase ?? null),
  );
  const steps = [
    set(circuit, "way", String(way)),
    set(circuit, "position", (there?.values.position as number | undefined) ?? way),
  ];
  return there ? [...steps, set(there, "way", from.way), set(there, "position", from.position)] : steps;
}
