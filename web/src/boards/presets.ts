/** Usual circuits, to be added with one tap and then corrected against what is there. */
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

export const PRESETS: Preset[] = [
  { name: "Ring sockets", fields: { designation: "Sockets", form: "ring", serves: "sockets", ...cable(2.5, 1.5), ...breaker("B", 32) } },
  { name: "Lights", fields: { designation: "Lights", form: "radial", serves: "lighting", ...cable(1.5, 1), ...breaker("B", 6) } },
  { name: "Cooker", fields: { designation: "Cooker", form: "radial", serves: "fixed", ...cable(6, 2.5), ...breaker("B", 32) } },
  { name: "Shower", fields: { designation: "Shower", form: "radial", serves: "fixed", ...cable(10, 4), ...breaker("B", 40) } },
  { name: "Radial sockets", fields: { designation: "Sockets", form: "radial", serves: "sockets", ...cable(2.5, 1.5), ...breaker("B", 20) } },
  { name: "Immersion", fields: { designation: "Immersion", form: "radial", serves: "fixed", ...cable(2.5, 1.5), ...breaker("B", 16) } },
  { name: "Alarms", fields: { designation: "Alarms", form: "radial", serves: "fixed", ...cable(1.5, 1), ...breaker("B", 6) } },
  { name: "Spare way", fields: { designation: "Spare", spare: true } },
  { name: "Another circuit", fields: {} },
];
