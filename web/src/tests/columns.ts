/** Which tests stand in the grid, in the order of the work. */
import type { Entity, Place } from "../inspection/types";

export interface Column {
  field: string;
  head: [string, string];
  /** Only rings have it. */
  ring?: boolean;
  /** Only circuits behind an RCD have it. */
  rcd?: boolean;
  check?: boolean;
  width: number;
}

export const DEAD: Column[] = [
  { field: "r1_ohm", head: ["Line", "end–end Ω"], ring: true, width: 86 },
  { field: "rn_ohm", head: ["Neutral", "end–end Ω"], ring: true, width: 86 },
  { field: "r2_ohm", head: ["Cpc", "end–end Ω"], ring: true, width: 86 },
  { field: "r1_r2_ohm", head: ["R1+R2", "Ω"], width: 86 },
  { field: "insulation_ln_mohm", head: ["L–N", "MΩ"], width: 86 },
  { field: "insulation_lne_mohm", head: ["L+N–E", "MΩ"], width: 86 },
  { field: "polarity", head: ["Polarity", ""], check: true, width: 72 },
];

export const LIVE: Column[] = [
  { field: "zs_ohm", head: ["Zs", "Ω"], width: 110 },
  { field: "rcd_trip_ms", head: ["RCD trip", "ms"], rcd: true, width: 110 },
  { field: "rcd_button", head: ["RCD", "button"], rcd: true, check: true, width: 92 },
];

export function applies(column: Column, circuit: Entity): boolean {
  const v = circuit.values;
  if (v.spare) return false;
  if (column.ring && v.form !== "ring") return false;
  return !(column.rcd && v.rcd_rated_ma == null);
}

const PAIRS: Column[] = [
  { field: "insulation_le_mohm", head: ["L–E", "MΩ"], width: 86 },
  { field: "insulation_ne_mohm", head: ["N–E", "MΩ"], width: 86 },
];
const MORE_TRIPS: Column[] = [
  { field: "rcd_half", head: ["Holds at", "½ × IΔn"], rcd: true, check: true, width: 92 },
  { field: "rcd_five_ms", head: ["At 5 ×", "ms"], rcd: true, width: 96 },
];

/** The tests that the house rules of this inspection ask for. */
export function columnsFor(live: boolean, rules: Record<string, unknown>): Column[] {
  if (live) {
    if (!rules.rcd_tests || rules.rcd_tests === "1 × IΔn") return LIVE;
    return LIVE.flatMap((column) => (column.field === "rcd_button" ? [...MORE_TRIPS, column] : [column]));
  }
  const byBoard = rules.insulation_by === "by board";
  const apart = rules.insulation_pairings === "all three";
  return DEAD.flatMap((column) => {
    if (byBoard && column.field.startsWith("insulation")) return [];
    return apart && column.field === "insulation_lne_mohm" ? PAIRS : [column];
  });
}

/** The figures in the order of the work: circuit by circuit, or test by test. */
export function order(columns: Column[], circuits: Entity[], byTest: boolean): Place[] {
  const place = (circuit: Entity, column: Column): Place[] =>
    applies(column, circuit) ? [{ kind: "circuit", id: circuit.id, field: column.field }] : [];
  return byTest
    ? columns.flatMap((column) => circuits.flatMap((circuit) => place(circuit, column)))
    : circuits.flatMap((circuit) => columns.flatMap((column) => place(circuit, column)));
}
