/** The state of one inspection on the device, as plain functions: no React, no network, no clock. */
import type { Schemas } from "../api/client";
import type { Judgement } from "../api/client";
import { fromServer, type Judged } from "./judgementSource";
import {
  type Change,
  type Entity,
  type EntityOf,
  isParent,
  keyOf,
  type Kind,
  type Pending,
  type Value,
  valueIn,
} from "./types";

/** An inspection as it comes from the server, or as it was kept on this device. */
type Later = "state" | "facts" | "issue";
export type Found = Omit<Schemas["InspectionOut"], Later> &
  Partial<Pick<Schemas["InspectionOut"], Later>> & { entered?: readonly Entered[] };

/** What was entered since the server told what its journal knows: the rules of this device ask for it. */
export interface Entered {
  id: string;
  field: string;
  value: unknown;
  at: string;
  read_by: string | null;
}

/** The verdicts of this device: of which question they are, and how many were asked; whether they are the ones shown. */
export interface OwnVerdicts {
  judgement: Judgement | null;
  asked: number;
  answered: number;
  trusted: boolean;
}

/** judgement: the verdicts that are shown, of this device where it has them. */
export interface Model extends Judged {
  id: string;
  /** The verdicts of the server, of `judgedSeq`. */
  byServer: Judgement | null;
  own: OwnVerdicts | null;
  /** What stands on the server where something waits here, by field; nothing where the entity was made here. */
  base: Readonly<Record<string, Value | undefined>>;
  facts: Schemas["JournalFactsOut"];
  entered: readonly Entered[];
  /** Why this device expects the server to refuse a change, by the change's id. */
  doubted: Readonly<Record<string, string>>;
  /** The last sequence number up to which everything is known here. */
  seq: number;
  /** The number of the last issue of its report that is known here, 0 for none. */
  issue: number;
  /** Where entries of another device came between those of this one: what crossed is asked for anew. */
  met: number;
  entities: Record<string, Entity>;
  /** Ids of what stands in each entity, by `childrenKey`, removed ones too: nothing has to look through everything. */
  index: Record<string, readonly string[]>;
  /** Waiting or refused, in the order in which they were made. */
  pending: Pending[];
  /** What the server says that the person may do with it; null for one that so far is only here. */
  may: Schemas["InspectionOut"]["may"] | null;
  /** Where it stood when it was opened, or was last submitted, sent back or issued here; null where nobody said. */
  state: Schemas["InspectionOut"]["state"] | null;
}

type Content = Pick<Model, "entities" | "index">;

const NO_FACTS: Model["facts"] = { read_at: [], read_by: [], signed: {} };

/** The verdicts to show: this device's are of what was entered last, the server's of what it was sent. */
function shownOf(byServer: Judgement | null, own: OwnVerdicts | null): Judgement | null {
  return own?.trusted && own.judgement ? own.judgement : byServer;
}

/** The same inspection with other verdicts of this device. */
export const withOwn = (model: Model, own: OwnVerdicts | null): Model => ({
  ...model,
  own,
  judgement: shownOf(model.byServer, own),
});

/** Whether the verdicts that are shown are of everything that was entered. */
export const isAllJudged = ({ own, judgedSeq, seq, pending }: Model): boolean =>
  own?.trusted && own.judgement ? own.answered === own.asked : judgedSeq === seq && !pending.some((p) => !p.refused);

const childrenKey = (kind: Kind, parentId: string) => `${parentId}/${kind}`;

function indexed(entities: Record<string, Entity>): Record<string, readonly string[]> {
  const index: Record<string, string[]> = {};
  for (const { kind, id, parentId } of Object.values(entities)) (index[childrenKey(kind, parentId)] ??= []).push(id);
  return index;
}

/** An inspection as the server has it, with what this device still has to send laid on top. */
export function open(found: Found, pending: Pending[]): Model {
  const entities: Record<string, Entity> = {};
  for (const e of found.entities) {
    entities[e.id] = {
      kind: e.kind as Kind,
      id: e.id,
      parentId: e.parent_id,
      values: { ...e.values } as Entity["values"],
    };
  }
  const model: Model = {
    id: found.id,
    seq: found.seq,
    issue: found.issue ?? 0,
    met: 0,
    entities,
    index: indexed(entities),
    judgement: found.judgement,
    byServer: found.judgement,
    judgedSeq: found.seq,
    own: null,
    base: {},
    facts: found.facts ?? NO_FACTS,
    entered: found.entered ?? [],
    doubted: {},
    pending,
    may: found.may,
    state: found.state ?? null,
  };
  return pending.reduce((m, p) => ({ ...m, ...lay(m, p.change) }), model);
}

/** An inspection that so far is only on this device. */
export function blank(id: string, pending: Pending[]): Model {
  const model: Model = {
    id,
    seq: 0,
    issue: 0,
    met: 0,
    entities: {},
    index: {},
    judgement: null,
    byServer: null,
    judgedSeq: null,
    own: null,
    base: {},
    facts: NO_FACTS,
    entered: [],
    doubted: {},
    pending,
    may: null,
    state: null,
  };
  return pending.reduce((m, p) => ({ ...m, ...lay(m, p.change) }), model);
}

interface Written {
  entity: string;
  entity_id: string;
  field: string;
  value?: unknown;
}

/** Entities with one field set; a parent's field makes the entity. */
function set({ entities, index }: Content, change: Written): Content {
  const kind = change.entity as Kind;
  const value = (change.value ?? null) as Value;
  const entity = entities[change.entity_id];
  if (!isParent(kind, change.field)) {
    if (!entity) return { entities, index };
    const changed = { ...entity, values: { ...entity.values, [change.field]: value } };
    return { entities: { ...entities, [entity.id]: changed }, index };
  }
  // A circuit can go to another board, a point to another circuit; everything else stays where it was made.
  if (entity && kind === "inspection") return { entities, index };
  const parentId = String(value);
  const placed: Entity = entity ? { ...entity, parentId } : { kind, id: change.entity_id, parentId, values: {} };
  const moved = { ...index };
  if (entity) {
    const before = childrenKey(kind, entity.parentId);
    moved[before] = (moved[before] ?? []).filter((id) => id !== entity.id);
  }
  const key = childrenKey(kind, parentId);
  moved[key] = [...(moved[key] ?? []), placed.id];
  return { entities: { ...entities, [placed.id]: placed }, index: moved };
}

/** The same for what waits here: what stood there is remembered, for the server may refuse it. */
function lay(model: Content & Pick<Model, "base">, change: Written): Content & Pick<Model, "base"> {
  const key = keyOf(change.entity_id, change.field);
  const entity = model.entities[change.entity_id];
  const stood = () => {
    if (!entity) return undefined;
    if (isParent(entity.kind, change.field)) return entity.parentId;
    return valueIn(entity, change.field) ?? null;
  };
  return { ...set(model, change), base: key in model.base ? model.base : { ...model.base, [key]: stood() } };
}

/** What stands on the server where nothing waits any more is what stands here. */
function baseOf(base: Model["base"], pending: readonly Pending[]): Model["base"] {
  const waits = new Set(pending.map((p) => keyOf(p.change.entity_id, p.change.field)));
  const kept = Object.entries(base).filter(([key]) => waits.has(key));
  return kept.length === Object.keys(base).length ? base : Object.fromEntries(kept);
}

type Fate = Schemas["ResultOut"];

const enteredOf = (
  change: Written & { made_at: string; read_at?: string | null; read_by?: string | null },
): Entered => ({
  id: change.entity_id,
  field: change.field,
  value: change.value ?? null,
  at: change.read_at ?? change.made_at,
  read_by: change.read_by ?? null,
});

/** A field as it is left: shown at once, waiting to be sent. A refused change of the same field gives way to it. */
export function write(model: Model, pending: Pending): Model {
  const { change } = pending;
  const key = keyOf(change.entity_id, change.field);
  const others = model.pending.filter((p) => !p.refused || keyOf(p.change.entity_id, p.change.field) !== key);
  return { ...model, ...lay(model, change), pending: [...others, pending] };
}

/** A change that was not taken, with the reason. */
export const outOf = (pending: Pending, fate: { reason: string | null; waits?: boolean }): Pending => ({
  ...pending,
  refused: fate.reason ?? "It was refused.",
  waits: fate.waits ?? false,
});

/** The same change, meant for a correction of that issue of the report. */
export const asCorrection = ({ n, inspectionId, author, change }: Pending, issue: number): Pending => ({
  ...(n !== undefined && { n }),
  inspectionId,
  author,
  change: { ...change, issue },
});

/** The content with what was sent as the server keeps it, wherever it is still there as it was sent. */
function tidied(model: Content, sent: readonly Change[], fates: ReadonlyMap<string, Fate>): Content {
  return sent.reduce<Content>(
    (content, c) => {
      const kept = fates.get(c.id)?.as_kept;
      const here = content.entities[c.entity_id]?.values as Record<string, unknown> | undefined;
      return kept && here?.[c.field] === c.value ? set(content, { ...c, value: kept.value as Value }) : content;
    },
    { entities: model.entities, index: model.index },
  );
}

/** The server's answer to a batch; judged: the sequence number of the judgement that stood here as the batch was sent. */
export function receive(
  model: Model,
  receipt: Schemas["Receipt"],
  sent: Change[],
  judged: number | null = null,
): { model: Model; gap: boolean } {
  const fates = new Map(receipt.results.map((r) => [r.id, r]));
  const kept = receipt.results.filter((r) => r.state === "kept").length;
  const pending = model.pending.flatMap((p) => {
    const fate = fates.get(p.change.id);
    if (!fate) return [p];
    return fate.state === "refused" ? [outOf(p, fate)] : [];
  });
  const overtook = receipt.results.some((r) => r.overtook);
  const { judgement: byServer, judgedSeq } = fromServer.afterReceipt(ofServer(model), receipt, judged);
  const gap = receipt.seq !== model.seq + kept || judgedSeq === null;
  const accepted = sent.filter((c) => fates.get(c.id)?.state !== "refused");
  const taken = accepted.map((c) => {
    const kept = fates.get(c.id)?.as_kept;
    return kept ? { ...c, value: kept.value as Value } : c;
  });
  // Of what waits on top of something that was taken, what was taken stands on the server.
  const base = { ...model.base };
  for (const c of taken) base[keyOf(c.entity_id, c.field)] = c.value;
  return {
    model: {
      ...model,
      ...tidied(model, accepted, fates),
      seq: gap ? model.seq : receipt.seq,
      issue: receipt.issue,
      met: gap || overtook ? receipt.seq : model.met,
      byServer,
      judgedSeq,
      judgement: shownOf(byServer, model.own),
      base: baseOf(base, pending),
      entered: [...model.entered, ...taken.map(enteredOf)],
      may: receipt.may,
      pending,
    },
    gap,
  };
}

/** What others have written meanwhile. A field that waits here to be sent keeps what was typed here. */
export function takeNews(model: Model, news: Schemas["News"]): Model {
  const mine = new Set(model.pending.map((p) => keyOf(p.change.entity_id, p.change.field)));
  let content: Content = model;
  const base = { ...model.base };
  const entered: Entered[] = [];
  const fresh = news.entries.some((entry) => entry.seq > model.seq);
  for (const entry of news.entries) {
    if (entry.seq <= model.seq) continue;
    const key = keyOf(entry.entity_id, entry.field);
    if (!mine.has(key)) content = set(content, entry);
    else if (key in base) base[key] = entry.value as Value;
    entered.push(enteredOf(entry));
  }
  const { judgement: byServer, judgedSeq } = fromServer.afterNews(ofServer(model), news);
  return {
    ...model,
    entities: content.entities,
    index: content.index,
    base,
    entered: [...model.entered, ...entered],
    seq: Math.max(model.seq, news.seq),
    met: fresh ? news.seq : model.met,
    byServer,
    judgedSeq,
    judgement: shownOf(byServer, model.own),
  };
}

/** The server's verdicts, whichever are shown. */
const ofServer = ({ seq, byServer, judgedSeq }: Model) => ({ seq, judgement: byServer, judgedSeq });

/** The reason why the value at a field was refused, if it was, or would be as far as this device knows. */
export function refusal(model: Model, id: string, field: string): string | undefined {
  const here = model.pending.filter((p) => p.change.entity_id === id && p.change.field === field);
  const refused = here.find((p) => p.refused)?.refused;
  const last = here.at(-1);
  return refused ?? (last && model.doubted[last.change.id]);
}

/** Children of an entity in their order, without removed ones. */
export function children<K extends Kind>(
  model: Pick<Model, "entities" | "index">,
  kind: K,
  parentId: string,
): EntityOf<K>[] {
  const position = (e: Entity) => Number(e.values.position ?? 0);
  return (model.index[childrenKey(kind, parentId)] ?? [])
    .flatMap((id) => (model.entities[id] as EntityOf<K> | undefined) ?? [])
    .filter((e) => !e.values.removed)
    .sort((a, b) => position(a) - position(b) || (a.id < b.id ? -1 : 1));
}

export function shown(value: unknown): string {
  if (value === null || value === undefined) return "nothing";
  if (value === true) return "yes";
  if (value === false) return "no";
  return String(value);
}
