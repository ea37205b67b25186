/** Names for things, as people on site say them. */
import type { Entity, Kind } from "./types";

export function nameOf(entity: Entity | undefined): string {
  if (!entity) return "";
  const v = entity.values;
  switch (entity.kind) {
    case "circuit":
      return [v.way, v.designation].filter(Boolean).join(" ") || "Unnamed circuit";
    case "board":
      return String(v.name ?? "Board");
    case "inspection":
      return String(v.property_address ?? "This home");
    case "observation":
      return String(v.text ?? "Observation");
    case "limitation":
      return String(v.what ?? "Limitation");
  }
}

const SHORT: Record<string, string> = { inspection: "the origin" };

export function whereOf(entity: Entity | undefined): string {
  if (!entity) return "";
  return entity.kind === "inspection" ? (SHORT.inspection as string) : nameOf(entity);
}

export const stageOfField = (kind: Kind, field: string): string => {
  if (kind === "circuit") return ["zs_ohm", "rcd_trip_ms", "rcd_button"].includes(field) ? "live" : "dead";
  if (kind === "board") return field === "zdb_ohm" ? "live" : "boards";
  return "intake";
};

/** Device and cable in the trade's short form: `B32 · 2.5/1.5`. */
export function cableAndDevice(values: Entity["values"]): string {
  const device = [values.device_type, values.device_rating_a].filter((part) => part != null).join("");
  const cable = [values.line_csa_mm2, values.cpc_csa_mm2].filter((part) => part != null).join("/");
  return [device, cable].filter(Boolean).join(" · ");
}
