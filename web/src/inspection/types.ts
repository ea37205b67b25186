/** An inspection on the device: entities by id, and changes on their way to the server. */
import { type FieldOf, type Fields, type Kind, PARENTS, type ParentOf } from "../api/declared.gen";

export { type FieldOf, type Kind, PARENTS };

export type Value = string | number | boolean | Record<string, unknown> | Record<string, unknown>[] | null;

/** A field of any kind of entity. */
export type AnyField = { [K in Kind]: FieldOf<K> }[Kind];

/** What stands in the fields of an entity; of one whose kind is not told, fields of any kind. */
export type Values<K extends Kind = Kind> = Kind extends K
  ? { [F in AnyField]?: Value }
  : { [F in FieldOf<K>]?: Fields[K][F] | null };

export interface Entity<K extends Kind = Kind> {
  kind: K;
  id: string;
  parentId: string;
  values: Values<K>;
}

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
}

/** A change as the device keeps it until the server has it; refused ones stay until they are mended. */
export interface Pending {
  n?: number;
  inspectionId: string;
  /** Who made it: it is sent under no other name. */
  author: string;
  change: Change;
  refused?: string;
}

/** One figure or word: which field of which entity. A parent's field makes the entity. */
export type Place<K extends Kind = Kind> = K extends Kind
  ? { kind: K; id: string; field: FieldOf<K> | ParentOf<K> }
  : never;

/** A place that was told over the line: of a field that the server declares. */
export const placeOf = (kind: string, id: string, field: string): Place => ({ kind, id, field }) as Place;

export const isParent = (kind: Kind, field: string): boolean => (PARENTS[kind] as readonly string[]).includes(field);

export const keyOf = (id: string, field: string): string => `${id}.${field}`;
