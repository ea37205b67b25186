/** Columns for tests of the grid, as the server gives them. */
import type { Schemas } from "../api/client";

const column = (
  stage: "dead" | "live",
  key: string,
  check = false,
  head: [string, string] = [key, ""],
): Schemas["ColumnOut"] => ({
  key,
  label: key,
  head,
  stage,
  check,
  hint: "",
});

export const reference: Pick<Schemas["Reference"], "columns"> = {
  columns: {
    circuit: [
      column("dead", "r1_ohm"),
      column("dead", "rn_ohm"),
      column("dead", "r2_ohm"),
      column("dead", "r1_r2_ohm", false, ["R1+R2", "Ω"]),
      column("dead", "long_lead_r2_ohm"),
      column("dead", "insulation_ln_mohm"),
      column("dead", "insulation_lne_mohm"),
      column("dead", "insulation_le_mohm"),
      column("dead", "polarity", true),
      column("live", "zs_ohm"),
      column("live", "rcd_trip_ms"),
      column("live", "rcd_button", true),
    ],
  },
};
