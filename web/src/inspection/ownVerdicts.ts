/** Verdicts of this device on the inspection that is open: asked with every change, once the rules are there.
 *
 * The rules have the inspection as the server has it, with what waits here on top, and are told whatever becomes of
 * either. What they say is shown at once; what the server says of the same state is held against it.
 */
import { onEdition, serverEdition } from "../api/rulesEdition";
import { ask, NoRules, useDeviceRules, type Verdicts } from "../judge/device";
import type { What } from "../judge/messages";
import { changed } from "./judgementSource";
import { type Model, withOwn } from "./model";
import { entitiesOnServer } from "./onServer";
import { isAway, reach, useReach } from "./transport";
import type { Pending } from "./types";

interface Store {
  model(): Model | null;
  set(model: Model): void;
  firm(): string;
}

/** An entry of the journal that somebody else wrote. */
type Entry = { entity: string; entity_id: string; field: string };

let store: Store;
/** The inspection that the rules have in hand. */
let inHand: string | null = null;
/** Inspections of which the server said otherwise: its verdicts are shown wherever it can be asked. */
const differs = new Set<string>();

/** An answer that takes longer is late: until it comes the server's verdicts are shown, wherever it can be asked. */
const LATE = 1500;
let late = false;
let clock: ReturnType<typeof setTimeout> | undefined;

/** Whose verdicts these are; called once. */
export function connect(to: Store): void {
  store = to;
  useDeviceRules.subscribe((now, before) => {
    if (now.stand === before.stand) return;
    const model = store.model();
    if (now.stand === "warm") return beginAnew();
    letGo();
    if (model?.own) store.set(withOwn(model, null));
  });
  useReach.subscribe((now, before) => now.reach !== before.reach && weigh());
  onEdition(weigh);
}

/** The rules of this device speak where they are the server's, or where the server is away. */
function isTrusted(id: string): boolean {
  const { edition } = useDeviceRules.getState();
  const same = serverEdition() === null || serverEdition() === edition;
  return isAway(reach()) || (same && !late && !differs.has(id));
}

/** Whose verdicts are shown may be otherwise by now. */
function weigh(): void {
  const model = store.model();
  if (!model?.own) return;
  const trusted = isTrusted(model.id);
  if (trusted !== model.own.trusted) store.set(withOwn(model, { ...model.own, trusted }));
}

/** The rules take the open inspection in hand, whatever they had before. */
export function beginAnew(): void {
  const model = store.model();
  if (!model || useDeviceRules.getState().stand !== "warm") return;
  inHand = model.id;
  const changes = model.pending.filter((p) => !p.refused).map((p) => p.change);
  question("open", {
    id: model.id,
    firm_id: store.firm(),
    entities: entitiesOnServer(model),
    facts: model.facts,
    entered: model.entered,
    blind: model.byServer?.blind ?? [],
    changes,
    now: new Date().toISOString(),
  });
}

/** Something was entered here. */
export function wrote(made: readonly Pending[]): void {
  const changes = made.filter((p) => !p.refused).map((p) => p.change);
  if (has(made[0]?.inspectionId)) question("write", { changes, now: new Date().toISOString() });
}

/** Others wrote something. What waits here stands over it. */
export function heard(id: string, entries: readonly Entry[], waits: (entry: Entry) => boolean): void {
  if (!has(id) || !entries.length) return;
  // What was written under something that waits here comes to light only where that is refused.
  if (entries.some(waits)) beginAnew();
  else question("heard", { entries });
}

/** The server said what became of changes: what it refused is judged no longer. */
export function settled(id: string, fates: readonly { id: string; state: string }[]): void {
  if (!has(id)) return;
  const refused = fates.filter((fate) => fate.state === "refused").map((fate) => fate.id);
  if (refused.length) question("settled", { kept: [], refused });
}

/** Another inspection is open, or none. */
export function letGo(): void {
  inHand = null;
  clearTimeout(clock);
  clock = undefined;
  late = false;
}

/** Have the rules this inspection in hand, as it stands here? */
export const isInHand = (id: string): boolean => has(id);

const has = (id: string | undefined): boolean => inHand !== null && inHand === id;

function question(what: What, data: unknown): void {
  const model = store.model();
  if (!model) return;
  const asked = (model.own?.asked ?? 0) + 1;
  const own = model.own ?? { judgement: null, answered: 0, trusted: isTrusted(model.id) };
  store.set(withOwn(model, { ...own, asked }));
  const { id } = model;
  clock ??= setTimeout(() => {
    late = true;
    weigh();
  }, LATE);
  ask(what, data).then(
    (verdicts) => has(id) && take(id, asked, verdicts),
    (error: unknown) => {
      if (!has(id)) return;
      letGo();
      const now = store.model();
      if (now?.own) store.set(withOwn(now, null));
      // The rules go on; only this inspection is beyond them, as one that was entered in a later edition.
      if (!(error instanceof NoRules)) throw error;
    },
  );
}

function take(id: string, asked: number, { judgement, change, refused }: Verdicts): void {
  const model = store.model();
  if (model?.id !== id || !model.own) return;
  const now = judgement ?? (change && model.own.judgement ? changed(model.own.judgement, change) : null);
  if (!now) return beginAnew();
  const doubted = refused.length
    ? { ...model.doubted, ...Object.fromEntries(refused.map((r) => [r.id, r.reason])) }
    : model.doubted;
  const done = asked === model.own.asked;
  if (done) {
    clearTimeout(clock);
    clock = undefined;
    late = false;
  }
  const trusted = isTrusted(id);
  store.set(withOwn({ ...model, doubted }, { ...model.own, judgement: now, answered: asked, trusted }));
}

/** The server's verdicts are of the very state that this device judged: what the two say of it otherwise, by the names of
 * the parts. From then on the server's are shown. */
export function difference(): string[] {
  const model = store.model();
  if (!model?.own?.judgement || !model.byServer || model.own.answered !== model.own.asked) return [];
  if (model.pending.length || model.judgedSeq !== model.seq || differs.has(model.id)) return [];
  if (serverEdition() !== useDeviceRules.getState().edition) return [];
  // Whose code may be seen is the server's to say: by that the rules begin anew.
  if (!isSame(model.own.judgement.blind, model.byServer.blind)) {
    beginAnew();
    return [];
  }
  const here = model.own.judgement as unknown as Record<string, unknown>;
  const there = model.byServer as unknown as Record<string, unknown>;
  const parts = Object.keys(there).filter((part) => !isSame(here[part], there[part]));
  if (parts.length) {
    differs.add(model.id);
    weigh();
  }
  return parts;
}

function isSame(one: unknown, other: unknown): boolean {
  if (one === other) return true;
  if (typeof one !== "object" || typeof other !== "object" || !one || !other) return false;
  if (Array.isArray(one) !== Array.isArray(other)) return false;
  const [a, b] = [one as Record<string, unknown>, other as Record<string, unknown>];
  const keys = Object.keys(a);
  return keys.length === Object.keys(b).length && keys.every((key) => key in b && isSame(a[key], b[key]));
}
