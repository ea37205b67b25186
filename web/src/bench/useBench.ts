/** The bench of one circuit as it is served, and the order in which its figures are measured. */
import { useEffect, useMemo } from "react";
import type { Schemas } from "../api/client";
import { useReference } from "../api/reference";
import { columnsOf } from "../measurements/columns";
import { focusOn, same, setOrder, useDesk, value } from "../inspection/desk";
import { setField, useInspection } from "../inspection/open";
import { type Entity, type Place, placeOf, valueIn } from "../inspection/types";

export type Bench = Schemas["BenchView"];
export type BenchPoint = Schemas["BenchPoint"];

export const useBench = (circuitId: string): Bench | undefined =>
  useInspection((s) => s.model?.judgement?.benches.find((bench) => bench.circuit_id === circuitId));

/** A figure with its unit; what is over range, or limited, has none. */
export const inOhm = (text: string): string => (/\d/.test(text) ? `${text} Ω` : text);

/** The ends of a ring, by their fields. */
const ENDS = ["r1_ohm", "rn_ohm", "r2_ohm"];

export interface Figures {
  ends: readonly { field: string; label: string }[];
  points: readonly BenchPoint[];
  fields: readonly string[];
}

const NONE: never[] = [];
const NO_GANGS: Record<string, string> = {};

/** What is measured here, set as the order of next: the ends, then point by point as people walk. */
export function useFigures(circuit: Entity, bench: Bench | undefined): Figures {
  const reference = useReference();
  const ring = circuit.values.form === "ring";
  const ends = useMemo(
    () =>
      ring && reference
        ? columnsOf(reference, "circuit", "dead")
            .filter(({ field }) => ENDS.includes(field))
            .map(({ field, head }) => ({ field, label: head[0] }))
        : NONE,
    [ring, reference],
  );
  const points = bench?.points ?? NONE;
  const fields = bench?.fields ?? NONE;
  usePointOrder(ends, points, fields, circuit.id, bench?.second);
  return { ends, points, fields };
}

/** The order of next: the ends of a ring, then point by point as people walk. */
export function usePointOrder(
  ends: Figures["ends"],
  points: readonly BenchPoint[],
  fields: readonly string[],
  circuitId: string,
  second: Readonly<Record<string, string>> = NO_GANGS,
): void {
  const gangs = useTwoGangs(points);
  // As one text: judged anew, the points are others each time, and the order is the same.
  const asked = points
    .flatMap(({ id }) => {
      const gang = gangs.has(id) ? fields.flatMap((field) => second[field] ?? []) : [];
      return [...fields, ...gang].map((field) => `${id} ${field}`);
    })
    .join();
  useEffect(() => {
    const places: Place[] = [
      ...ends.map(({ field }) => placeOf("circuit", circuitId, field)),
      ...(asked ? asked.split(",") : []).map((one): Place => {
        const [id = "", field = ""] = one.split(" ");
        return placeOf("point", id, field);
      }),
    ];
    setOrder(places);
    // Whoever comes to a bench begins where nothing stands yet.
    if (!useDesk.getState().focus) focusOn(places.find((place) => value(place) == null) ?? null);
    // A ring that turns out to be open asks for other figures at the same point.
    const { focus, draft } = useDesk.getState();
    const gone = focus?.kind === "point" && !places.some((place) => same(place, focus));
    if (gone && draft === null) focusOn(places.find((place) => place.id === focus.id) ?? null);
  }, [circuitId, ends, asked]);
}

/** Points whose gangs are each tested, as said here already or as served. */
export function useTwoGangs(points: readonly BenchPoint[]): ReadonlySet<string> {
  const ids = useInspection((s) =>
    points
      .filter(({ id, two_gangs }) => two_gangs || !!s.model?.entities[id]?.values.two_gangs)
      .map(({ id }) => id)
      .join(),
  );
  return useMemo(() => new Set(ids.split(",")), [ids]);
}

/** Put a point's readings beside, so that it is tested anew and both stay. */
export function testAgain(point: Entity, bench: Bench): void {
  const at = (field: string) => placeOf("point", point.id, field);
  for (const [field, first] of Object.entries(bench.first)) {
    const stood = valueIn(point, field);
    if (stood == null) continue;
    if (valueIn(point, first) == null) setField(at(first), stood);
    setField(at(field), null);
  }
  setField(at("retested"), true);
}
