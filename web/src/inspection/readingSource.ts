/** Where a reading comes from before it stands in a figure: typed, from a simulated instrument, or from one that is linked.
 *
 * A source never writes: what it gives is put in front of the figure in focus, said to be from there, and kept only when
 * the figure is left, as if it had been typed. What is typed then takes its place; what was typed before is not touched.
 */
import { create } from "zustand";
import { move, offer, same, useDesk } from "./desk";
import type { Place } from "./types";

/** What the display of an instrument shows. */
export interface Shown {
  text: string;
  /** What the instrument was set to, where it says so. */
  function?: string;
  unit?: string;
  /** When it was shown, ISO 8601. */
  at?: string;
  /** Voltage of an insulation test. */
  volts?: number;
}

export interface Heard {
  give(shown: Shown): void;
  /** A reading is being taken, or was given up: what it shows belongs to the figure that was in focus then. */
  measuring(on: boolean): void;
  /** The instrument's own key for the next figure. */
  next(): void;
  told(state: Link, says?: string): void;
}

export interface ReadingSource {
  kind: "typed" | "simulated" | "linked";
  /** What it is called beside the figure, such as the instrument's name. */
  name: string;
  /** The instrument used at the inspection that is open which it is; taken there with its first reading. */
  instrumentId?: () => string;
  /** Begin to listen. Returns what ends it. */
  listen(heard: Heard): () => void;
  /** Tell it which figure waits for a reading. */
  waits?(focus: { says: string; function: string } | null): void;
}

/** By keys and pad: always there. */
export const TYPED: ReadingSource = { kind: "typed", name: "typed", listen: () => () => undefined };

/** How it stands with an instrument: there, out of reach for now, or ended for good. */
export type Link = "none" | "linked" | "away" | "ended";

/** What a figure takes: the function that the instrument must be set to, and the units that it may show. */
export interface Takes {
  key: string;
  label: string;
  units: string[];
}

interface Linked {
  source: ReadingSource;
  link: Link;
  measuring: boolean;
  /** What came and was not taken, or what became of the link: told beside the pad. */
  told: string | null;
  /** The last null that an instrument showed and nobody has noted yet. */
  nulled: string | null;
}

export const useReadingSource = create<Linked>(() => ({
  source: TYPED,
  link: "none",
  measuring: false,
  told: null,
  nulled: null,
}));

/** What the figure at a place takes; served with the fields, set by whoever shows them. */
let takesOf: (place: Place) => { takes: Takes | null; unit: string } | null = () => null;

export function knowFigures(look: typeof takesOf): void {
  takesOf = look;
}

let end: () => void = () => undefined;
const set = useReadingSource.setState;

/** Listen to a source instead of the one before; TYPED ends that. */
export function listenTo(source: ReadingSource): void {
  end();
  set({ source, link: source.kind === "typed" ? "none" : "linked", measuring: false, told: null, nulled: null });
  const readings = collected(source);
  const stop = source.listen(readings);
  end = () => {
    readings.stop();
    stop();
  };
}

/** A display that moves a hundred times a second is looked at once a frame, and what it shows last counts. */
function collected(source: ReadingSource): Heard & { stop: () => void } {
  let latest: Shown | null = null;
  let frame: ReturnType<typeof setTimeout> | undefined;
  let began: Place | null | undefined;
  const take = () => {
    frame = undefined;
    if (latest) taken(source, latest, began);
    latest = null;
    began = undefined;
  };
  const flush = () => {
    if (frame === undefined) return;
    clearTimeout(frame);
    take();
  };
  return {
    give(shown) {
      latest = shown;
      set({ measuring: false });
      if (frame === undefined) frame = setTimeout(take, FRAME_MS);
    },
    measuring(on) {
      flush();
      began = on ? useDesk.getState().focus : undefined;
      set({ measuring: on, ...(on && { told: null }) });
    },
    next() {
      flush();
      if (useDesk.getState().focus) move(1);
    },
    told(link, says) {
      const lost = link !== "linked" && useReadingSource.getState().measuring;
      if (link !== "linked") began = undefined;
      set({
        link,
        measuring: false,
        told: lost ? `${source.name} went away while measuring: nothing was taken.` : (says ?? null),
      });
    },
    stop: () => clearTimeout(frame),
  };
}

const FRAME_MS = 16;
/** What an instrument shows when its leads are nulled: no figure takes it, the log of nulls does. */
const NULL = "null";

/** The null was noted, or left. */
export function nullSeen(): void {
  set({ nulled: null, told: null });
}

/** Put a reading before the figure in focus, or say why not. began: the figure that was in focus when it was begun. */
function taken(source: ReadingSource, shown: Shown, began: Place | null | undefined): void {
  const { focus, draft, origin } = useDesk.getState();
  if (shown.function === NULL)
    return set({ nulled: shown.text, told: `Leads nulled at ${shown.text} Ω: keep it beside the leads.` });
  const what = [shown.text, shown.unit].filter(Boolean).join(" ");
  if (!focus) return set({ told: `${source.name} shows ${what}: tap its figure, and measure again.` });
  if (began !== undefined && !same(began, focus))
    return set({ told: `${what} not taken: begun at another figure. Measure again.` });
  if (draft !== null && origin === null) return set({ told: `${what} not taken: rub out what is typed here first.` });
  const { text, why } = fitted(shown, takesOf(focus));
  if (text === null) return set({ told: `${what} not taken: ${why}` });
  offer(text, { name: source.name, instrumentId: source.instrumentId, at: shown.at, volts: shown.volts });
  set({ told: null });
}

type Fitted = { text: string; why?: undefined } | { text: null; why: string };

/** The text that a figure takes of a reading; null, and why, where function or unit do not fit. */
export function fitted(shown: Shown, figure: ReturnType<typeof takesOf>): Fitted {
  const text = shown.text.trim();
  if (!figure || shown.function === undefined) return { text };
  const { takes, unit } = figure;
  if (!takes) return { text: null, why: "nothing is measured here." };
  if (takes.key !== shown.function) return { text: null, why: `this takes ${takes.label}.` };
  if (shown.unit === undefined || !/\d/.test(text) || shown.unit === unit) return { text };
  return takes.units.includes(shown.unit)
    ? { text: `${text} ${shown.unit}` }
    : { text: null, why: `this figure is in ${unit || takes.units[0]}.` };
}

/** An instrument that gives what it is told to, for practice and for tests. */
export function simulated(name: string): ReadingSource & { measure: (text: string) => void; hear: () => Heard | null } {
  let to: Heard | null = null;
  return {
    kind: "simulated",
    name,
    listen(heard) {
      to = heard;
      return () => (to = null);
    },
    measure: (text) => to?.give({ text }),
    hear: () => to,
  };
}
