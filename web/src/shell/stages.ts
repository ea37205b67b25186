/** The stages of an inspection in the order of the work, as the run sheet and the keys have them. */
import type { Stage } from "../api/client";

export const STAGES: { stage: Stage; name: string }[] = [
  { stage: "brief", name: "Brief" },
  { stage: "intake", name: "Intake" },
  { stage: "walk", name: "Walk-round" },
  { stage: "isolation", name: "Isolation" },
  { stage: "boards", name: "Boards" },
  { stage: "dead", name: "Dead tests" },
  { stage: "live", name: "Live tests" },
  { stage: "observations", name: "Observations" },
  { stage: "report", name: "Report" },
];

/** Stages whose figures are typed on the reading pad. */
export const WITH_PAD: Stage[] = ["intake", "dead", "live"];
