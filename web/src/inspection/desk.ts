/** What the hands are doing: which figure is in focus, what is being typed, and which figure comes next. */
import { create } from "zustand";
import type { Stage } from "../api/client";
import { followed, type Habit, learnt } from "./habit";
import { setField, useInspection } from "./open";
import { keepBeside } from "./positions";
import { keyOf, type Kind, type Place } from "./types";

export interface About {
  kind: Kind;
  id: string;
  field?: string;
  /** Catalogue entry that is offered. */
  raise?: string | null;
  /** Code and its reason, where the context or an answer has settled them. */
  code?: string;
  reason?: string;
  /** Observation that is being mended rather than made. */
  existing?: string;
}

/** The instrument that showed a reading: its name beside the figure, which one used here it is (asked once the reading is
 * kept: what nobody keeps leaves no instrument behind), and when it showed it. */
export interface Origin {
  name: string;
  instrumentId?: () => string;
  at?: string;
  /** Voltage of an insulation test. */
  volts?: number;
}

interface Desk {
  focus: Place | null;
  /** What is being typed at the focus; null where nothing was typed yet. */
  draft: string | null;
  /** Where what stands there now came from, if it was not typed. */
  origin: Origin | null;
  /** The instrument that figures are read off and typed, where one was chosen. */
  typedWith: string | null;
  /** The trainee who takes the readings, by their attendance; null for whoever is signed in. */
  readBy: string | null;
  /** The figures of the open screen in the order of the work. */
  order: Place[];
  /** How this person goes through them. */
  habit: Habit;
  /** The figure to take up once its stage is open. */
  aim: { stage: Stage; place: Place } | null;
  /** What comes after the last of them, in words, and doing it. */
  then: { says: string; act: () => void } | null;
  observing: About | null;
  /** What the open screen is about while no figure is in focus: the room that is walked round. */
  around: { kind: Kind; id: string } | null;
  /** Figures that were filled in and left, the last one first: the margin speaks of them. */
  left: Place[];
  /** Notes that were waved on for now, as they read then. */
  waved: Record<string, true>;
  /** Safety reminders that were answered on this visit. */
  answered: Record<string, true>;
}

export const useDesk = create<Desk>(() => ({
  focus: null,
  draft: null,
  origin: null,
  typedWith: null,
  readBy: null,
  order: [],
  habit: {},
  aim: null,
  then: null,
  observing: null,
  around: null,
  left: [],
  waved: {},
  answered: {},
}));

const { getState: get, setState: set } = useDesk;

export const same = (a: Place | null, b: Place | null): boolean => !!a && !!b && a.id === b.id && a.field === b.field;

export function focusOn(place: Place | null): void {
  if (same(get().focus, place)) return;
  commit();
  set({ focus: place, draft: null, origin: null });
}

/** The figure that is taken up once its stage is open, however long that takes. */
export function aimAt(aim: Desk["aim"]): void {
  set({ aim });
}

/** The stage is open, and what was in focus at the one before it is let go. */
export function takeAim(stage: Stage): void {
  const { aim } = get();
  if (aim?.stage !== stage) return;
  set({ aim: null });
  focusOn(aim.place);
}

export function draft(text: string | null): void {
  set({ draft: text, origin: null });
}

/** A reading from an instrument stands in front of the figure in focus, until it is left or typed over. */
export function offer(text: string, origin: Origin): void {
  if (get().focus) set({ draft: text, origin });
}

/** A key of the pad or the keyboard goes behind what is typed; the first one replaces what stood. */
export function type(text: string): void {
  const { draft: typed, origin } = get();
  set({ draft: (origin ? "" : (typed ?? "")) + text, origin: null });
}

export function backspace(): void {
  const { draft: typed, focus } = get();
  const stood = focus ? String(value(focus) ?? "") : "";
  set({ draft: (typed ?? stood).slice(0, -1), origin: null });
}

/** What stands at a place now, typed or kept. */
export function value(place: Place): unknown {
  return useInspection.getState().model?.entities[place.id]?.values[place.field];
}

/** Leave the figure: keep what was typed. */
export function commit(): void {
  const { focus, draft: typed, origin, typedWith, readBy } = get();
  if (!focus || typed === null) return;
  const from = {
    readBy: readBy ?? undefined,
    ...(origin ? { instrumentId: origin.instrumentId?.(), at: origin.at } : { instrumentId: typedWith ?? undefined }),
  };
  const entered = typed.trim() === "" ? null : typed.trim();
  setField(focus, entered, { origin: from });
  set({ draft: null, origin: null });
  keepBeside(focus, entered);
  if (origin?.volts !== undefined && focus.kind === "circuit")
    setField({ ...focus, field: TEST_VOLTAGE }, String(origin.volts), { origin: from });
  leftBehind(focus);
}

/** Where the voltage of an insulation test stands beside its readings. */
const TEST_VOLTAGE = "insulation_test_v";

/** So many figures are remembered as left; what is older stands with the rest. */
const REMEMBERED = 12;

/** A figure was filled in and left. */
export function leftBehind(place: Place): void {
  const { order, habit, left } = get();
  set({ habit: learnt(habit, order, left[0] ?? null, place) });
  set({ left: [place, ...get().left.filter((one) => !same(one, place))].slice(0, REMEMBERED) });
}

/** Not now: the note goes back among the rest until its figure changes. */
export function waveOn(key: string): void {
  set({ waved: { ...get().waved, [key]: true } });
}

/** From here on figures are read off that instrument and typed. */
export function typeWith(instrumentId: string | null): void {
  set({ typedWith: instrumentId });
}

/** From here on that trainee takes the readings. */
export function readBy(attendanceId: string | null): void {
  set({ readBy: attendanceId });
}

/** How this person went through the figures so far counts no more. */
export function forgetHabit(): void {
  set({ habit: {} });
}

export function setOrder(order: Place[]): void {
  set({ order });
}

/** The place that comes after the focus (or before it, with -1); the same one at the end. */
export const neighbour = (step: 1 | -1): Place | null => neighbourOf(get(), step);

/** The same, of the desk as it is given. */
export function neighbourOf(
  { order, focus, habit }: Pick<Desk, "order" | "focus" | "habit">,
  step: 1 | -1,
): Place | null {
  const led = step === 1 && focus && followed(habit, order, focus, (place) => value(place) == null);
  if (led) return led;
  const at = order.findIndex((place) => same(place, focus));
  return order[at < 0 ? 0 : at + step] ?? null;
}

/** What comes after the last figure of the open screen. */
export function setThen(then: Desk["then"]): void {
  set({ then });
}

/** On to the next figure; from the last one, left as it stands, to what comes after all of them. */
export function goOn(): void {
  const { draft: typed, then } = get();
  if (typed === null && then && neighbour(1) === null) return then.act();
  move(1);
}

export function move(step: 1 | -1): void {
  commit();
  // What was just kept may be what the habit is learnt from.
  const to = neighbour(step);
  if (to) set({ focus: to, draft: null, origin: null });
}

export function observe(about: About): void {
  commit();
  set({ observing: about });
}

/** What the open screen is about as a whole. */
export function setAround(around: Desk["around"]): void {
  set({ around });
}

/** Record something of what the hands are at: the figure in focus, else what the screen is about, else the whole home.
 *  kinds: those that an observation can be about. */
export function observeHere(inspectionId: string, kinds: readonly string[]): void {
  const { focus, around } = get();
  if (focus && kinds.includes(focus.kind)) observe({ kind: focus.kind, id: focus.id, field: focus.field });
  else if (around && kinds.includes(around.kind)) observe(around);
  else observe({ kind: "inspection", id: inspectionId });
}

export function closeObservation(): void {
  set({ observing: null });
}

export function answerReminder(key: string): void {
  set({ answered: { ...get().answered, [key]: true } });
}

export const placeKey = (place: Place): string => keyOf(place.id, place.field);
