/** Lines of the alternatives: an option is taken into one and out of it again; what it costs is worked out by the server. */
import type { Schemas } from "../api/client";
import { children } from "../inspection/model";
import { add, setField, useInspection } from "../inspection/open";
import type { Entity, Place } from "../inspection/types";

export type Price = Schemas["PriceOut"];
export type Option = Schemas["OptionOut"];
export type Alternative = Schemas["AlternativeOut"];

/** Work that is not on the list. */
export const OWN = "own";

/** Lines of one alternative as they stand on this device. */
export function linesOf(alternative: number, model = useInspection.getState().model): Entity[] {
  if (!model) return [];
  return children(model, "offer_line", model.id).filter((offerLine) => offerLine.values.alternative === alternative);
}

export const isOf = (line: Entity, option: Option): boolean =>
  line.values.remedy === option.remedy && line.values.about_id === option.entity_id;

/** Taken into the alternative, or out of it where it is there: a second tap is the way back. */
export function toggle(alternative: number, option: Option): void {
  const there = linesOf(alternative).filter((line) => isOf(line, option));
  if (there.length === 0) take(alternative, option);
  for (const entity of there) remove(entity.id);
}

export function take(alternative: number, option: Option): string {
  const inspection = useInspection.getState().model?.id ?? "";
  const { remedy, entity: about_entity, entity_id: about_id } = option;
  return add("offer_line", inspection, { alternative, remedy, about_entity, about_id });
}

export const addOwn = (alternative: number): string =>
  add("offer_line", useInspection.getState().model?.id ?? "", { alternative, remedy: OWN });

const removed = (id: string): Place => ({ kind: "offer_line", id, field: "removed" });

/** Taken out; returns how to undo it. */
export function remove(id: string): () => void {
  setField(removed(id), true);
  return () => setField(removed(id), null);
}

/** A price with its currency, as paper has it. */
export const money = (currency: string, value: number): string =>
  `${currency}${value.toLocaleString("en-GB", { minimumFractionDigits: value % 1 ? 2 : 0, maximumFractionDigits: 2 })}`;
