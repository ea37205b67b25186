/** Usual circuits, to be added with a tap or a few letters and then corrected against what is there. */
import type { Value } from "../inspection/types";

export interface Preset {
  name: string;
  fields: Record<string, Value>;
}

const breaker = (type: string, rating: number) => ({
  device_standard: "BS EN 60898",
  device_type: type,
  device_rating_a: rating,
});
const cable = (line: number, cpc: number) => ({ line_csa_mm2: line, cpc_csa_mm2: cpc });
const ring = { form: "ring", serves: "sockets", ...cable(2.5, 1.5), ...breaker("B", 32) };
const lights = { form: "radial", serves: "lighting", ...cable(1.5, 1), ...breaker("B", 6) };
const radial = (line: number, cpc: number, rating: number, serves = "fixed") => ({ form: "radial", serves, ...cable(line, cpc), ...breaker("B", rating) });
const named = (designation: string, fields: Record<string, Value>): Preset => ({ name: designation, fields: { designation, ...fields } });

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
  named("Sockets down", ring),
  named("Sockets up", ring),
  named("Kitchen ring", ring),
  named("Sockets", ring),
  named("Lights down", lights),
  named("Lights up", lights),
  named("Lights", lights),
  named("Cooker", radial(6, 2.5, 32)),
  named("Hob", radial(6, 2.5, 32)),
  named("Oven", radial(2.5, 1.5, 16)),
  named("Shower", radial(10, 4, 40)),
  named("Immersion", radial(2.5, 1.5, 16)),
  named("Boiler", radial(2.5, 1.5, 16)),
  named("Alarms", radial(1.5, 1, 6)),
  named("Utility sockets", radial(2.5, 1.5, 20, "sockets")),
  named("Garage", radial(2.5, 1.5, 20, "sockets")),
  named("Shed", { ...radial(4, 1.5, 20, "distribution") }),
  named("Outbuilding supply", { ...radial(6, 2.5, 32, "distribution") }),
  named("Outside lights", lights),
  named("Outside socket", { ...radial(2.5, 1.5, 16, "sockets"), outdoors: true }),
  named("Loft lights", lights),
  named("Bathroom fan", lights),
  named("Storage heater", radial(2.5, 1.5, 16)),
  named("Heating", radial(2.5, 1.5, 16)),
  named("Towel rail", radial(2.5, 1.5, 16)),
  named("Water heater", radial(2.5, 1.5, 16)),
  named("Freezer", radial(2.5, 1.5, 16, "sockets")),
  named("Vehicle charger", { ...radial(6, 2.5, 32), load: "vehicle" }),
  named("Solar inverter", { ...radial(4, 1.5, 16), load: "inverter" }),
  named("Doorbell", lights),
  named("Intruder alarm", lights),
  named("Sub-main", { ...radial(10, 4, 40, "distribution") }),
  named("Unknown", { untraced: true }),
  named("Spare", { spare: true }),
];
