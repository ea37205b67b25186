/** An inspection as the server has it, from how it stands here: without what waits on this device. */
import type { Schemas } from "../api/client";
import type { Model } from "./model";
import { isParent, type Value } from "./types";

type EntityOut = Schemas["InspectionOut"]["entities"][number];

/** Its entities. What was made here and waits is none of them; a field that waits has what stood there before. */
export function entitiesOnServer({ entities, base }: Pick<Model, "entities" | "base">): EntityOut[] {
  const before = new Map<string, Record<string, Value | undefined>>();
  for (const [key, value] of Object.entries(base)) {
    const at = key.lastIndexOf(".");
    before.set(key.slice(0, at), { ...before.get(key.slice(0, at)), [key.slice(at + 1)]: value });
  }
  return Object.values(entities).flatMap(({ kind, id, parentId, values }) => {
    const waits = before.get(id);
    if (!waits) return [{ kind, id, parent_id: parentId, values }] as EntityOut[];
    const stood: Record<string, Value | undefined> = { ...values };
    let parent: string | undefined = parentId;
    for (const [field, value] of Object.entries(waits)) {
      if (isParent(kind, field)) parent = value as string | undefined;
      else stood[field] = value ?? null;
    }
    return parent === undefined ? [] : ([{ kind, id, parent_id: parent, values: stood }] as EntityOut[]);
  });
}
