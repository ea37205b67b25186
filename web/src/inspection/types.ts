/** An inspection on the device: entities by id, and changes on their way to the server. */
import { type Kind, PARENTS } from "../api/declared.gen";

export { type Kind, PARENTS };

export type Value = string | number | boolean | Record<string, unknown> | Record<string, unknown>[] | null;

export interface Entity {
  kind: Kind;
  id: string;
  parentId: string;
  values: Record<string, Value | undefined>;
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

/** One figure or word: which field of which entity. */
export interface Place {
  kind: Kind;
  id: string;
  field: string;
}

export const isParent = (kind: Kind, field: string): boolean => PARENTS[kind].includes(field);

export const keyOf = (id: string, field: string): string => `${id}.${field}`;
