/** How tests are laid out in the grid, in the order of the work. Which of them apply to what comes with the judgement. */
import type { Judgement, Schemas, Stage } from "../api/client";
import type { Entity, Kind, Place } from "../inspection/types";

export interface Column {
  field: string;
  head: [string, string];
  check?: boolean;
  width: number;
}

/** Every test of a circuit that has a column, by stage. */
export const COLUMNS: Record<"dead" | "live", Column[]> = {
  dead: [
    { field: "r1_ohm", head: ["Line", "end–end Ω"], width: 86 },
    { field: "rn_ohm", head: ["Neutral", "end–end Ω"], width: 86 },
    { field: "r2_ohm", head: ["Cpc", "end–end Ω"], width: 86 },
    { field: "r1_r2_ohm", head: ["R1+R2", "Ω"], width: 86 },
    { field: "long_lead_r2_ohm", head: ["R2", "long lead Ω"], width: 86 },
    { field: "insulation_ln_mohm", head: ["L–N", "MΩ"], width: 86 },
    { field: "insulation_lne_mohm", head: ["L+N–E", "MΩ"], width: 86 },
    { field: "insulation_le_mohm", head: ["L–E", "MΩ"], width: 86 },
    { field: "insulation_ne_mohm", head: ["N–E", "MΩ"], width: 86 },
    { field: "polarity", head: ["Polarity", ""], check: true, width: 72 },
  ],
  live: [
    { field: "zs_ohm", head: ["Zs", "Ω"], width: 110 },
    { field: "rcd_trip_ms", head: ["RCD trip", "ms"], width: 110 },
    { field: "rcd_half", head: ["Holds at", "½ × IΔn"], check: true, width: 92 },
    { field: "rcd_five_ms", head: ["At 5 ×", "ms"], width: 96 },
    { field: "rcd_button", head: ["RCD", "button"], check: true, width: 92 },
  ],
};

/** The tests of a residual current device. */
export const DEVICE_COLUMNS: Column[] = [
  { field: "trip_ms", head: ["Trip", "ms"], width: 110 },
  { field: "half", head: ["Holds at", "½ × IΔn"], check: true, width: 92 },
  { field: "five_ms", head: ["At 5 ×", "ms"], width: 96 },
  { field: "button", head: ["Test", "button"], check: true, width: 92 },
];

export type Asked = Schemas["AskedOut"];

/** What is asked in a stage, by entity. */
export function askedIn(judgement: Judgement | null | undefined, stage: Stage): Map<string, Asked> {
  return new Map((judgement?.asked ?? []).filter((one) => one.stage === stage).map((one) => [one.id, one]));
}

/** Does a test apply to an entity? What was not judged yet, since the server has not answered, takes any figure. */
export function applies(column: Column, entity: Entity, asked: Map<string, Asked>): boolean {
  if (entity.values.spare) return false;
  const one = asked.get(entity.id);
  return (
    !one || one.fields.includes(column.field) || one.more.includes(column.field) || entity.values[column.field] != null
  );
}

/** The columns that any of the entities has a use for. */
export function columnsFor(columns: Column[], entities: Entity[], asked: Map<string, Asked>): Column[] {
  const known = entities.filter((entity) => asked.has(entity.id));
  return known.length ? columns.filter((column) => known.some((entity) => applies(column, entity, asked))) : columns;
}

/** The figures in the order of the work: one after another, or test by test. */
export function order(
  kind: Kind,
  columns: Column[],
  entities: Entity[],
  asked: Map<string, Asked>,
  byTest: boolean,
): Place[] {
  const place = (entity: Entity, column: Column): Place[] =>
    applies(column, entity, asked) ? [{ kind, id: entity.id, field: column.field }] : [];
  return byTest
    ? columns.flatMap((column) => entities.flatMap((entity) => place(entity, column)))
    : entities.flatMap((entity) => columns.flatMap((column) => place(entity, column)));
}
