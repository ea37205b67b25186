/** An inspection on the device: entities by id, and changes on their way to the server. */
import { type FieldOf, type Fields, type Kind, PARENTS, type ParentOf } from "../api/declared.gen";

export { type FieldOf, type Kind, PARENTS };

export type Value = string | number | boolean | Record<string, unknown> | Record<string, unknown>[] | null;

/** A field of any kind of entity. */
export type AnyField = { [K in Kind]: FieldOf<K> }[Kind];

export interface Entity {
  kind: Kind;
  id: string;
  parentId: string;
  values: { [F in AnyField]?: Value };
}

/** An entity whose kind is known, so that its fields are, and what each may hold. */
export type EntityOf<K extends Kind> = Entity & { kind: K; values: { [F in FieldOf<K>]?: Fields[K][F] | null } };

export interface Change {
  id: string;
  entity: Kind;
  entity_id: string;
  field: string;
  value: Value;
  based_on: number;
  made_at: string;
  device: string;
  /** Of a reading that came from an instrument: which one used here, and when it showed it. */
  instrument_id?: string;
  read_at?: string | null;
  /** The attendance of the trainee who took it. */
  read_by?: string;
  /** The number of the last issue of the report that this device knew of, 0 for none. */
  issue?: number;
}

/** A change as the device keeps it until the server has it; refused ones stay until they are mended. */
export interface Pending {
  n?: number;
  inspectionId: string;
  /** Who made it: it is sent under no other name. */
  author: string;
  change: Change;
  refused?: string;
  /** It is taken once somebody says that it is meant for what is there now: the report was issued meanwhile. */
  waits?: boolean;
}

/** One figure or word: which field of which entity. */
export type Place<K extends Kind = Kind> = K extends Kind ? { kind: K; id: string; field: FieldOf<K> } : never;

/** What makes an entity: the field that is named after what it hangs on. */
export type Making<K extends Kind = Kind> = K extends Kind ? { kind: K; id: string; field: ParentOf<K> } : never;

/** A place that was told over the line: of a field that the server declares. */
export const placeOf = (kind: string, id: string, field: string): Place => ({ kind, id, field }) as Place;

/** What stands in a field that was named over the line. */
export const valueIn = (entity: Entity | undefined, field: string): Value | undefined =>
  entity?.values[field as AnyField];

export const isParent = (kind: Kind, field: string): boolean => (PARENTS[kind] as readonly string[]).includes(field);

export const keyOf = (id: string, field: string): string => `${id}.${field}`;
