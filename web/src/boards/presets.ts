/** Usual circuits, to be added with a tap or a few letters and then corrected against what is there. */
import type { Value } from "../inspection/types";

export interface Preset {
  name: string;
  fields: Record<string, Value>;
  /** What else electricians call it. */
  also?: string[];
}

const breaker = (type: string, rating: number) => ({
  device_standard: "BS EN 60898",
  device_type: type,
  device_rating_a: rating,
});
const cable = (line: number, cpc: number) => ({ line_csa_mm2: line, cpc_csa_mm2: cpc });
const ring = { form: "ring", serves: "sockets", ...cable(2.5, 1.5), ...breaker("B", 32) };
const lights = { form: "radial", serves: "lighting", ...cable(1.5, 1), ...breaker("B", 6) };
const radial = (line: number, cpc: number, rating: number, serves = "fixed") => ({
  form: "radial",
  serves,
  ...cable(line, cpc),
  ...breaker("B", rating),
});
const named = (designation: string, fields: Record<string, Value>, also = ""): Preset => ({
  name: designation,
  fields: { designation, ...fields },
  also: also.split(" ").filter(Boolean),
});

/** Those that stand as buttons under every board. */
export const PRESETS: Preset[] = [
  { name: "Ring sockets", fields: { designation: "Sockets", ...ring } },
  { name: "Lights", fields: { designation: "Lights", ...lights } },
  named("Cooker", radial(6, 2.5, 32)),
  named("Shower", radial(10, 4, 40)),
  { name: "Radial sockets", fields: { designation: "Sockets", ...radial(2.5, 1.5, 20, "sockets") } },
  named("Immersion", radial(2.5, 1.5, 16)),
  named("Alarms", radial(1.5, 1, 6)),
  { name: "Spare way", fields: { designation: "Spare", spare: true } },
  { name: "Unknown", fields: { designation: "Unknown", untraced: true } },
  { name: "Another circuit", fields: {} },
];

/** Every usual circuit, for the type-ahead; the most usual first. */
export const USUAL: Preset[] = [
  named("Sockets down", ring, "plugs downstairs ground floor gf rfc ring final"),
  named("Sockets up", ring, "plugs upstairs first floor ff rfc ring final"),
  named("Kitchen ring", ring, "sockets plugs worktop"),
  named("Sockets", ring, "plugs ring final rfc outlets"),
  named("Lights down", lights, "lighting downstairs ground floor gf lts"),
  named("Lights up", lights, "lighting upstairs landing first floor ff lts"),
  named("Lights", lights, "lighting lts lamps downlights"),
  named("Cooker", radial(6, 2.5, 32), "range stove electric"),
  named("Hob", radial(6, 2.5, 32), "induction ceramic"),
  named("Oven", radial(2.5, 1.5, 16), "single double"),
  named("Shower", radial(10, 4, 40), "electric"),
  named("Immersion", radial(2.5, 1.5, 16), "heater hot water cylinder tank imm"),
  named("Boiler", radial(2.5, 1.5, 16), "heating central ch gas combi fcu spur"),
  named("Alarms", radial(1.5, 1, 6), "smoke fire heat detectors detection carbon monoxide co"),
  named("Utility sockets", radial(2.5, 1.5, 20, "sockets"), "washer washing machine dryer plugs"),
  named("Garage", radial(2.5, 1.5, 20, "sockets"), "workshop"),
  named("Shed", { ...radial(4, 1.5, 20, "distribution") }, "workshop summerhouse outbuilding garden"),
  named("Outbuilding supply", { ...radial(6, 2.5, 32, "distribution") }, "garage workshop annexe"),
  named("Outside lights", lights, "outdoor external garden exterior security flood pir lighting"),
  named(
    "Outside socket",
    { ...radial(2.5, 1.5, 16, "sockets"), outdoors: true },
    "outdoor external garden exterior plug",
  ),
  named("Loft lights", lights, "attic lighting roof"),
  named("Bathroom fan", lights, "extractor extract ventilation vent"),
  named("Storage heater", radial(2.5, 1.5, 16), "night off-peak heating nsh"),
  named("Heating", radial(2.5, 1.5, 16), "central boiler ch underfloor ufh panel controls"),
  named("Towel rail", radial(2.5, 1.5, 16), "radiator bathroom heating"),
  named("Water heater", radial(2.5, 1.5, 16), "undersink hot instantaneous"),
  named("Freezer", radial(2.5, 1.5, 16, "sockets"), "fridge refrigerator"),
  named("Vehicle charger", { ...radial(6, 2.5, 32), load: "vehicle" }, "car ev evse charge point wallbox"),
  named("Solar inverter", { ...radial(4, 1.5, 16), load: "inverter" }, "pv panels battery"),
  named("Doorbell", lights, "bell chime transformer"),
  named("Intruder alarm", lights, "burglar security"),
  named("Sub-main", { ...radial(10, 4, 40, "distribution") }, "submain distribution board sub feed"),
  named("Unknown", { untraced: true }, "not traced unidentified"),
  named("Spare", { spare: true }, "blank free"),
];
