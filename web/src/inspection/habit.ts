/** The order in which this person tests: learnt from what they do, and followed at the next circuit or point.
 *
 * Whoever tests insulation before continuity, or goes round a ring with one pair and then with the other, does so once;
 * from there on `next` leads the same way. Where nothing was learnt the order of the screen holds.
 */
import { keyOf, type Place } from "./types";

/** Which figure followed another: at the same thing, or at the next one of its kind. */
interface Step {
  field: string;
  at: "same" | "next";
}

export type Habit = Readonly<Record<string, Step>>;

const of = ({ kind, field }: Place) => `${kind}.${field}`;

/** Things in the order of the work, each once. */
function things(order: readonly Place[], kind: Place["kind"]): string[] {
  return [...new Set(order.filter((one) => one.kind === kind).map((one) => one.id))];
}

/** What was kept after what: a step to something else than the same thing or the next is no habit. */
export function learnt(habit: Habit, order: readonly Place[], from: Place | null, to: Place): Habit {
  if (!from || from.kind !== to.kind || keyOf(from.id, from.field) === keyOf(to.id, to.field)) return habit;
  const ids = things(order, to.kind);
  const at = to.id === from.id ? "same" : ids.indexOf(to.id) === ids.indexOf(from.id) + 1 ? "next" : null;
  if (at === null || !ids.includes(from.id)) return habit;
  return { ...habit, [of(from)]: { field: to.field, at } };
}

/** Where the habit leads from here: to a figure of this screen that is still empty; null where it leads nowhere. */
export function followed(
  habit: Habit,
  order: readonly Place[],
  from: Place,
  empty: (place: Place) => boolean,
): Place | null {
  const step = habit[of(from)];
  if (!step) return null;
  const ids = things(order, from.kind);
  const id = step.at === "same" ? from.id : ids[ids.indexOf(from.id) + 1];
  const led = order.find((one) => one.id === id && one.field === step.field);
  if (led && empty(led)) return led;
  // Once round with this figure: what is left begins at the first.
  const ended = step.at === "next" && step.field === from.field && id === undefined;
  return ended ? (order.find((one) => one.kind === from.kind && empty(one)) ?? null) : null;
}
