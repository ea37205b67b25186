/** Taking an observation as the verdicts raise it, with a way back. */
import type { Schemas } from "../api/client";
import { add, isJudged, setField, useInspection } from "../inspection/open";
import type { Value } from "../inspection/types";
import { whereOf } from "../inspection/words";
import { tell } from "../ui/tell";

/** decides: whoever takes it may code it; else it stands without a code. */
export function record(suggestion: Schemas["Suggestion"], decides: boolean): void {
  const { model } = useInspection.getState();
  if (!model) return;
  const subject = model.entities[suggestion.entity_id];
  const place = whereOf(subject?.kind === "check" ? model.entities[subject.parentId] : subject);
  const fields: Record<string, Value> = {
    about_entity: suggestion.entity,
    about_id: suggestion.entity_id,
    place,
    text: suggestion.title,
    catalogue_key: suggestion.key,
  };
  if (decides) fields.code = suggestion.code;
  if (decides && suggestion.moved) fields.code_reason = suggestion.moved;
  const id = add("observation", model.id, fields);
  tell(`${suggestion.code}: ${suggestion.title}.`, () => setField({ kind: "observation", id, field: "removed" }, true));
}

/** Take what an entry raises of a thing, once what was entered last is judged. False where it is not raised (yet). */
export async function recordRaised(key: string, entityId: string, decides: boolean): Promise<boolean> {
  await isJudged();
  const raised = useInspection
    .getState()
    .model?.judgement?.suggested.find((suggestion) => suggestion.key === key && suggestion.entity_id === entityId);
  if (!raised || raised.declined) return false;
  if (!raised.recorded) record(raised, decides);
  return true;
}
