/** Taking an observation as the verdicts raise it, with a way back. */
import type { Schemas } from "../api/client";
import { add, isJudged, setField, useInspection } from "../inspection/open";
import type { Value } from "../inspection/types";
import { whereOf } from "../inspection/words";
import { tell } from "../ui/toaster";

/** decides: whoever takes it may code it; else it stands without a code. */
export function record(one: Schemas["Suggestion"], decides: boolean): void {
  const { model } = useInspection.getState();
  if (!model) return;
  const subject = model.entities[one.entity_id];
  const place = whereOf(subject?.kind === "check" ? model.entities[subject.parentId] : subject);
  const fields: Record<string, Value> = {
    about_entity: one.entity,
    about_id: one.entity_id,
    place,
    text: one.title,
    catalogue_key: one.key,
  };
  if (decides) fields.code = one.code;
  if (decides && one.moved) fields.code_reason = one.moved;
  const id = add("observation", model.id, fields);
  tell(`${one.code}: ${one.title}.`, () => setField({ kind: "observation", id, field: "removed" }, true));
}

/** Take what an entry raises of a thing, once what was entered last is judged. False where it is not raised (yet). */
export async function recordRaised(key: string, entityId: string, decides: boolean): Promise<boolean> {
  await isJudged();
  const raised = useInspection
    .getState()
    .model?.judgement?.suggested.find((one) => one.key === key && one.entity_id === entityId);
  if (!raised || raised.declined) return false;
  if (!raised.recorded) record(raised, decides);
  return true;
}
