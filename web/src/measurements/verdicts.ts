/** The verdicts as the grid looks them up: by figure, worked out once for each judgement. */
import type { Judgement, Schemas, Stage, Status } from "../api/client";
import { keyOf } from "../inspection/types";
import { byUrgency } from "../inspection/urgency";
import { type Asked, askedIn } from "./columns";

type Expected = Schemas["ExpectedView"];

interface Verdicts {
  marks: Map<string, Status>;
  expected: Map<string, Expected>;
  asked: Partial<Record<Stage, Map<string, Asked>>>;
  scales: Scales;
}

/** The scales of Zs by circuit, and whether any of them has earlier years. */
interface Scales {
  byCircuit: Map<string, Schemas["ZsScale"]>;
  years: boolean;
}

const known = new WeakMap<Judgement, Verdicts>();
const NO_SCALES: Scales = { byCircuit: new Map(), years: false };
const NONE: Verdicts = { marks: new Map(), expected: new Map(), asked: {}, scales: NO_SCALES };

function of(judgement: Judgement | null | undefined): Verdicts {
  if (!judgement) return NONE;
  const before = known.get(judgement);
  if (before) return before;
  const made: Verdicts = {
    marks: marksOf(judgement),
    expected: new Map(judgement.expected.map((expected) => [keyOf(expected.id, expected.field), expected])),
    asked: {},
    scales: {
      byCircuit: new Map(judgement.zs_scales.map((zsScale) => [zsScale.circuit_id, zsScale])),
      years: judgement.zs_scales.some((zsScale) => zsScale.before.length > 0),
    },
  };
  known.set(judgement, made);
  return made;
}

function marksOf(judgement: Judgement): Map<string, Status> {
  const marks = new Map<string, Status>();
  for (const note of judgement.notes) {
    // A statement about several circuits marks the figure at each of them.
    for (const id of new Set([note.id, ...note.touches])) {
      const key = keyOf(id, note.field);
      if (byUrgency(note.standing, marks.get(key) ?? "pass") <= 0) marks.set(key, note.standing);
    }
  }
  return marks;
}

type Given = Judgement | null | undefined;

/** The worst standing of a figure's notes; nothing where none speaks of it. */
export const markAt = (judgement: Given, id: string, field: string): Status | undefined =>
  of(judgement).marks.get(keyOf(id, field));

/** The greatest value that is expected or allowed at a figure. */
export const greatestAt = (judgement: Given, id: string, field: string): number | null | undefined =>
  of(judgement).expected.get(keyOf(id, field))?.greatest;

export const scalesOf = (judgement: Given): Scales => of(judgement).scales;

/** What is asked in a stage, by entity. */
export function askedOf(judgement: Given, stage: Stage): Map<string, Asked> {
  const verdicts = of(judgement);
  return (verdicts.asked[stage] ??= askedIn(judgement, stage));
}
