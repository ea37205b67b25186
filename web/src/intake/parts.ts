/** What is known of each part of the intake, in the few words that the drawing has room for. */
import type { DrawnBoard, DrawnBond, DrawnPart, PartKey } from "../drawings/IntakeDrawing";
import { worst } from "../drawings/standing";
import { tree } from "../drawings/ways";
import { children, type Model } from "../inspection/model";
import type { Entity, Place } from "../inspection/types";
import { nameOf } from "../inspection/words";

/** Fields of the inspection by the part of the drawing that they belong to, the one to begin with first. */
export const FIELDS: Record<PartKey, readonly string[]> = {
  supply: ["earthing", "phases", "pscc_ka", "pefc_ka", "supply_polarity", "leakage_ma"],
  ze: ["ze_ohm", "ze_parallel_removed"],
  head: ["service_fuse_standard", "service_fuse_a", "overhead_supply"],
  tails: ["tails_mm2", "tails_length_m", "neutral_mm2"],
  meter: ["meter_number", "meter_seals"],
  isolator: ["isolator", "isolator_a"],
  "switch-fuse": ["tails_protected", "switch_fuse_a"],
  earth: ["earthing_conductor_mm2", "earth_by", "electrode"],
};

const PARTS = Object.keys(FIELDS) as PartKey[];

/** The part, or the bond, that a figure belongs to; null for what is not drawn. */
export function partOf(place: Place): string | null {
  if (place.kind === "bond") return place.id;
  return place.kind === "inspection" ? (PARTS.find((key) => FIELDS[key].includes(place.field)) ?? null) : null;
}

type Values = Entity["values"];

const withUnit = (value: unknown, unit: string) => (value == null ? null : `${String(value)} ${unit}`);
const joined = (...parts: (unknown | null)[]) =>
  parts.filter((part) => part != null && part !== "" && part !== false).join(" · ");

const SEALS: Record<string, string> = { whole: "sealed", broken: "seal broken", "none seen": "no seals" };

const LINES: Record<PartKey, (v: Values) => string[]> = {
  supply: (v) => [
    joined(
      v.earthing,
      v.phases === "3" ? "three phase" : v.phases === "1" ? "single phase" : null,
      withUnit(v.pscc_ka, "kA L–N"),
      withUnit(v.pefc_ka, "kA L–E"),
    ),
  ],
  ze: (v) => [withUnit(v.ze_ohm, "Ω") ?? ""],
  head: (v) => [joined(v.service_fuse_standard), joined(withUnit(v.service_fuse_a, "A"))],
  tails: (v) => [joined(withUnit(v.tails_mm2, "mm²"), withUnit(v.tails_length_m, "m"))],
  meter: (v) => [String(v.meter_number ?? "").slice(0, 9), SEALS[String(v.meter_seals)] ?? ""],
  isolator: (v) => [v.isolator === "none" ? "none" : (withUnit(v.isolator_a, "A") ?? String(v.isolator ?? ""))],
  "switch-fuse": (v) => [
    v.tails_protected === false && v.switch_fuse_a == null ? "none" : joined(withUnit(v.switch_fuse_a, "A")),
  ],
  earth: (v) => [joined(withUnit(v.earthing_conductor_mm2, "mm²")), joined(v.earth_by)],
};

export function drawnParts(model: Model): Record<PartKey, DrawnPart> {
  const values = model.entities[model.id]?.values ?? {};
  const drawn = PARTS.map((key): [PartKey, DrawnPart] => {
    const lines = LINES[key](values).filter(Boolean);
    const status = worst(model.judgement, (id, field) => id === model.id && FIELDS[key].includes(field));
    return [key, { lines, known: lines.length > 0, status }];
  });
  return Object.fromEntries(drawn) as Record<PartKey, DrawnPart>;
}

export function drawnBonds(model: Model): DrawnBond[] {
  return children(model, "bond", model.id).map((bond) => {
    const { service, state, csa_mm2: csa, at_clamp_ohm: clamp } = bond.values;
    const here = state === "present";
    return {
      id: bond.id,
      service: String(service ?? "service"),
      absent: !here,
      known: state != null,
      lines: here ? [joined(withUnit(csa, "mm²"), withUnit(clamp, "Ω"))].filter(Boolean) : [String(state ?? "")],
      status: worst(model.judgement, (id) => id === bond.id),
    };
  });
}

/** What is said not to be there. */
export function absentParts({ tails_protected, switch_fuse_a, isolator }: Values): PartKey[] {
  return [
    ...(tails_protected === false && switch_fuse_a == null ? (["switch-fuse"] as const) : []),
    ...(isolator === "none" ? (["isolator"] as const) : []),
  ];
}

/** Every board, under the one that feeds it. */
export function drawnBoards(model: Model): DrawnBoard[] {
  return tree(model).map(({ board, depth, feeding }) => ({
    id: board.id,
    name: nameOf(board),
    known: true,
    depth,
    electrode: board.values.earthing === "own electrode",
    lines: [
      joined(
        feeding && `way ${String(feeding.values.way ?? "?")}`,
        withUnit(board.values.ways, "ways"),
        depth === 0 && withUnit(board.values.main_switch_a, "A"),
      ),
    ].filter(Boolean),
    status: worst(model.judgement, (id) => id === board.id),
  }));
}
