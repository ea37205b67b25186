/** In which order the margin says what it has to say. Pure: the judgement and what the hands did go in, an order comes out.
 *
 * What was just left keeps the top until the next figure is left; what of it does not pass stays until it is answered
 * or waved on. Then comes what is in focus, then the rest by urgency, with equal notes as one.
 */
import type { Judgement, Note, Stage } from "../api/client";
import { keyOf, type Place } from "./types";
import { byUrgency, URGENCY, type Urgency } from "./urgency";

export interface Arrangement {
  /** Of the figure that was just left, with its verdict, be it a pass. */
  left: Note[];
  /** Of figures left before it, newest first: not answered yet. */
  unanswered: Note[];
  /** Of the figure in focus. */
  focused: Note[];
  /** Everything else of the stage; equal notes together. */
  rest: Record<Urgency, Note[][]>;
  /** How many do not pass, all told. */
  pressing: number;
}

interface Hands {
  stage: Stage;
  focus: Place | null;
  /** Figures in the order in which they were left, the last one first. */
  left: readonly Place[];
  /** Notes that were waved on, by `waveKey`. */
  waved: Readonly<Record<string, true>>;
}

/** A note as it reads now: another figure makes it another note, which is not waved on yet. */
export const waveKey = (note: Note): string => `${keyOf(note.id, note.field)} ${note.standing} ${note.title}`;

/** Does a note speak of that figure, alone or among others? */
export const speaksOf = (note: Note, { id, field }: Place): boolean =>
  note.field === field && (note.id === id || note.touches.includes(id));

const answered = (note: Note) => note.standing === "pass" || note.on_record || !!note.overruled || !!note.because_of;

/** Notes are equal where the same test has the same verdict, the same source and the same next step. */
const sameness = (note: Note) =>
  [note.field, note.standing, note.source, note.next_step ?? "", note.observation ?? "", note.words].join("|");

export function arrange(judgement: Judgement, { stage, focus, left, waved }: Hands): Arrangement {
  const taken = new Set<Note>();
  const take = (notes: Note[]) => {
    const remaining = notes.filter((note) => !taken.has(note));
    for (const note of remaining) taken.add(note);
    return remaining;
  };
  const [last, ...before] = left;
  const open = (note: Note) => !answered(note) && !waved[waveKey(note)];
  const justLeft = take(last ? judgement.notes.filter((note) => speaksOf(note, last)) : []);
  const unanswered = before.flatMap((place) =>
    take(judgement.notes.filter((note) => speaksOf(note, place) && open(note))),
  );
  const focused = take(focus ? judgement.notes.filter((note) => speaksOf(note, focus)) : []);
  const others = judgement.notes.filter(
    (note) =>
      !taken.has(note) && (note.stage === stage || stage === "report") && note.standing !== "pass" && !note.because_of,
  );
  const rest = Object.fromEntries(URGENCY.map((urgency) => [urgency, grouped(others, urgency)])) as Arrangement["rest"];
  const shown = [...justLeft, ...unanswered, ...focused].filter((note) => note.standing !== "pass" && !note.because_of);
  return { left: sorted(justLeft), unanswered, focused: sorted(focused), rest, pressing: shown.length + others.length };
}

const sorted = (notes: Note[]) => [...notes].sort((a, b) => byUrgency(a.standing, b.standing));

function grouped(notes: Note[], urgency: Urgency): Note[][] {
  const groups = new Map<string, Note[]>();
  for (const note of notes) {
    if (note.standing !== urgency) continue;
    const key = sameness(note);
    groups.set(key, [...(groups.get(key) ?? []), note]);
  }
  return [...groups.values()];
}
