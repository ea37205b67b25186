/** The stages of an inspection in the order of the work, as the run sheet and the keys have them. */
import type { Stage } from "../api/client";
import { STAGES as ORDER } from "../api/declared.gen";

/** What a stage is called: one that is new does not compile without its name. */
export const STAGE_NAMES: Record<Stage, string> = {
  brief: "Brief",
  intake: "Intake",
  walk: "Walk-round",
  isolation: "Isolation",
  boards: "Boards",
  dead: "Dead tests",
  live: "Live tests",
  observations: "Observations",
  report: "Report",
};

export const STAGES: { stage: Stage; name: string }[] = ORDER.map((stage) => ({ stage, name: STAGE_NAMES[stage] }));

/** Stages whose figures are typed on the reading pad. */
export const WITH_PAD: Stage[] = ["intake", "dead", "live"];
