/** A repair of one's own: begun, kept as found, taken back. What its work undoes is judged; here it is carried out. */
import type { Schemas } from "../api/client";
import { children } from "./model";
import { add, setField, useInspection } from "./open";
import { type Entity, type Value, placeOf, valueIn } from "./types";

export type Repair = Schemas["RepairView"];

/** A repair of what an observation is about; returns its id. */
export function beginRepair(observation: Entity, work: Schemas["WorkOut"], by: string): string {
  const inspection = useInspection.getState().model?.id ?? "";
  const v = observation.values;
  return add("repair", inspection, {
    observation_id: observation.id,
    about_entity: v.about_entity ?? "inspection",
    about_id: v.about_id ?? inspection,
    ...(v.place != null && { place: v.place }),
    ...(v.text != null && { found: String(v.text).slice(0, 500) }),
    work: work.key,
    done: work.label,
    by,
  });
}

/** The work begins: what it undoes is kept as found, and its fields are free for what is read afterwards. */
export function keepAsFound(repair: Repair): void {
  const known = new Set(asFounds(repair.id).map(({ values: v }) => `${String(v.about_id)} ${String(v.field)}`));
  const keep = (kind: string, id: string, field: string, value: string) => {
    if (known.has(`${id} ${field}`)) return;
    add("as_found", repair.id, { about_entity: kind, about_id: id, field, ...(value && { value }) });
  };
  for (const thenNow of repair.marks) keep(thenNow.entity, thenNow.entity_id, thenNow.field, thenNow.then);
  for (const retest of repair.tests) keep(retest.entity, retest.entity_id, retest.field, retest.found);
  setField({ kind: "repair", id: repair.id, field: "begun_at" }, new Date().toISOString());
  for (const retest of repair.tests) {
    if (retest.found) setField(placeOf(retest.entity, retest.entity_id, retest.field), null);
  }
}

const asFounds = (id: string): Entity[] => {
  const { model } = useInspection.getState();
  return model ? children(model, "as_found", id) : [];
};

/** Nothing was done after all: what was found stands again where nothing was read since. */
export function takeBack(repair: Repair): void {
  const { model } = useInspection.getState();
  if (!model) return;
  const marks = new Set(repair.marks.map((thenNow) => `${thenNow.entity_id} ${thenNow.field}`));
  for (const { values: v } of asFounds(repair.id)) {
    const place = placeOf(String(v.about_entity), String(v.about_id), String(v.field));
    const now = valueIn(model.entities[place.id], place.field) ?? null;
    const then = v.value == null ? null : String(v.value);
    if (then !== null && (now === null || marks.has(`${place.id} ${place.field}`))) setField(place, was(now, then));
  }
  setField({ kind: "repair", id: repair.id, field: "removed" }, true);
}

/** As it is kept: a rating is a number, a reading the words of the instrument. */
const was = (now: unknown, then: string): Value => (typeof now === "number" ? Number(then) : then);
