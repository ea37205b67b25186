/** What comes after the last point of a circuit: its highest reading recorded, polarity where every point read right, and
 * on to the next circuit, by the same key that went from point to point. */
import { useCallback, useEffect, useMemo } from "react";
import type { Judgement } from "../api/client";
import { setThen } from "../inspection/desk";
import { isJudged, setField, useInspection } from "../inspection/open";
import { type Entity, placeOf, valueIn } from "../inspection/types";
import { nameOf, useTranslate } from "../inspection/words";
import { useFieldSpec } from "../api/reference";
import { tell } from "../ui/tell";
import { type Bench, inOhm } from "./useBench";

/** The highest of the dead tests, or of the live ones. */
const highestOf = (bench: Bench | undefined, live: boolean) => (live ? bench?.highest_zs : bench?.highest);

/** What a bench leads to that is not recorded yet: field and value of its circuit. */
function leadsTo(bench: Bench | undefined, circuit: Entity, live: boolean): [field: string, value: string][] {
  const unrecorded: [string, string][] = [];
  const highest = highestOf(bench, live);
  if (highest && valueIn(circuit, highest.to) !== highest.text) unrecorded.push([highest.to, highest.text]);
  if (!live && bench?.polarity_offered) unrecorded.push(["polarity", "correct"]);
  return unrecorded;
}

const benchOf = (judgement: Judgement | null | undefined, id: string): Bench | undefined =>
  judgement?.benches.find((bench) => bench.circuit_id === id);

export function useFinish(
  circuit: Entity,
  bench: Bench | undefined,
  live: boolean,
  go: (circuitId: string | null) => void,
): void {
  const translate = useTranslate();
  const carried = useFieldSpec("circuit", highestOf(bench, live)?.to ?? "");
  const following = useInspection((s) => {
    const all = s.model?.judgement?.benches ?? [];
    return all[all.findIndex((one) => one.circuit_id === circuit.id) + 1]?.circuit_id ?? null;
  });
  const name = useInspection((s) => (following ? nameOf(s.model?.entities[following]) : ""));
  const sentence = useMemo(() => {
    const recorded = leadsTo(bench, circuit, live).map(([field, value]) =>
      field === "polarity" ? "polarity correct" : `${translate(carried?.label ?? "")} ${inOhm(value)}`,
    );
    return [...recorded, following ? `on to ${name}` : "back to the grid"].join(", ");
  }, [bench, circuit, live, carried, following, name, translate]);
  const act = useCallback(async () => {
    // The last reading counts before what follows from it is recorded.
    const judged = await isJudged();
    const { model } = useInspection.getState();
    const now = model?.entities[circuit.id];
    if (judged && now) {
      const before = leadsTo(benchOf(model.judgement, circuit.id), now, live).map(([field, value]) => {
        const place = placeOf("circuit", circuit.id, field);
        const stood = valueIn(now, field) ?? null;
        setField(place, value);
        return [place, stood] as const;
      });
      if (before.length)
        tell(`${nameOf(now)}: recorded.`, () => before.forEach(([place, stood]) => setField(place, stood)));
    } else tell(`${nameOf(now)}: nothing was recorded, since it is not judged yet.`);
    go(following);
  }, [circuit.id, live, following, go]);
  useEffect(() => {
    setThen({ says: sentence, act: () => void act() });
    return () => setThen(null);
  }, [sentence, act]);
}
