/** The state of one inspection on the device, as plain functions: no React, no network, no clock. */
import type { Schemas } from "../api/client";
import { fromServer, type Judged, type JudgementSource } from "./judgementSource";
import { type Change, type Entity, type EntityOf, isParent, keyOf, type Kind, type Pending, type Value } from "./types";

export interface Notice {
  id: string;
  text: string;
  /** Puts the earlier value back. */
  undo?: { kind: Kind; id: string; field: string; value: Value };
}

/** An inspection as it comes from the server, or as it was kept on this device. */
export type Found = Omit<Schemas["InspectionOut"], "state"> & Partial<Pick<Schemas["InspectionOut"], "state">>;

export interface Model extends Judged {
  id: string;
  /** The last sequence number up to which everything is known here. */
  seq: number;
  entities: Record<string, Entity>;
  /** Ids of what stands in each entity, by `childrenKey`, removed ones too: nothing has to look through everything. */
  index: Record<string, readonly string[]>;
  /** Waiting or refused, in the order in which they were made. */
  pending: Pending[];
  notices: Notice[];
  /** What the server says that the person may do with it; null for one that so far is only here. */
  may: Schemas["InspectionOut"]["may"] | null;
  /** Where it stood when it was opened, or was last submitted, sent back or issued here; null where nobody said. */
  state: Schemas["InspectionOut"]["state"] | null;
}

type Entry = Schemas["EntryOut"];
type Content = Pick<Model, "entities" | "index">;

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
    entities,
    index: indexed(entities),
    judgement: found.judgement,
    judgedSeq: found.seq,
    pending,
    notices: [],
    may: found.may,
    state: found.state ?? null,
  };
  return pending.reduce((m, p) => ({ ...m, ...set(m, p.change) }), model);
}

/** An inspection that so far is only on this device. */
export function blank(id: string, pending: Pending[]): Model {
  const model: Model = {
    id,
    seq: 0,
    entities: {},
    index: {},
    judgement: null,
    judgedSeq: null,
    pending,
    notices: [],
    may: null,
    state: null,
  };
  return pending.reduce((m, p) => ({ ...m, ...set(m, p.change) }), model);
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

/** A field as it is left: shown at once, waiting to be sent. A refused change of the same field gives way to it. */
export function write(model: Model, pending: Pending): Model {
  const { change } = pending;
  const key = keyOf(change.entity_id, change.field);
  const others = model.pending.filter((p) => !p.refused || keyOf(p.change.entity_id, p.change.field) !== key);
  return { ...model, ...set(model, change), pending: [...others, pending] };
}

/** The server's answer to a batch; judged: the sequence number of the judgement that stood here as the batch was sent. */
export function receive(
  model: Model,
  receipt: Schemas["Receipt"],
  sent: Change[],
  judged: number | null = null,
  source: JudgementSource = fromServer,
): { model: Model; gap: boolean } {
  const fates = new Map(receipt.results.map((r) => [r.id, r]));
  const kept = receipt.results.filter((r) => r.state === "kept").length;
  const pending = model.pending.flatMap((p) => {
    const fate = fates.get(p.change.id);
    if (!fate) return [p];
    return fate.state === "refused" ? [{ ...p, refused: fate.reason ?? "It was refused." }] : [];
  });
  const came: Notice[] = receipt.results.flatMap((r) => {
    const change = sent.find((c) => c.id === r.id);
    if (!r.overtook || !change) return [];
    const text = `You replaced ${shown(r.overtook.value)}, entered by ${r.overtook.author}. Both are in the history.`;
    const undo = { kind: change.entity, id: change.entity_id, field: change.field, value: r.overtook.value as Value };
    return [{ id: r.id, text, undo }];
  });
  const verdicts = source.afterReceipt(model, receipt, judged);
  const gap = receipt.seq !== model.seq + kept || verdicts.judgedSeq === null;
  return {
    model: {
      ...model,
      seq: gap ? model.seq : receipt.seq,
      ...verdicts,
      may: receipt.may,
      pending,
      notices: [...model.notices, ...came],
    },
    gap,
  };
}

/** What others have written meanwhile. A field that waits here to be sent keeps what was typed here. */
export function takeNews(
  model: Model,
  news: Schemas["News"],
  me: string,
  title: (e: Entry) => string,
  source: JudgementSource = fromServer,
): Model {
  const mine = new Set(model.pending.map((p) => keyOf(p.change.entity_id, p.change.field)));
  let content: Content = model;
  const notices = [...model.notices];
  for (const entry of news.entries) {
    if (entry.seq <= model.seq) continue;
    if (!mine.has(keyOf(entry.entity_id, entry.field))) content = set(content, entry);
    if (entry.overtook_author_id === me && entry.author_id !== me) {
      notices.push({
        id: entry.id,
        text: `${entry.author} wrote ${shown(entry.value)} over your ${shown(entry.before)} at ${title(entry)}.`,
        undo: {
          kind: entry.entity as Kind,
          id: entry.entity_id,
          field: entry.field,
          value: (entry.before ?? null) as Value,
        },
      });
    }
  }
  return {
    ...model,
    entities: content.entities,
    index: content.index,
    notices,
    seq: Math.max(model.seq, news.seq),
    ...source.afterNews(model, news),
  };
}

/** The reason why the value at a field was refused, if it was. */
export function refusal(model: Model, id: string, field: string): string | undefined {
  return model.pending.find((p) => p.refused && p.change.entity_id === id && p.change.field === field)?.refused;
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
