/** An inspection on the device: entities by id, and changes on their way to the server. */

export type Kind =
  | "inspection"
  | "bond"
  | "board"
  | "rcd"
  | "circuit"
  | "room"
  | "point"
  | "earlier"
  | "observation"
  | "opinion"
  | "declined"
  | "limitation"
  | "overruling"
  | "isolation"
  | "check"
  | "attendance"
  | "instrument_used"
  | "lead_null"
  | "photo";
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

/** What an entity can hang on, the usual first: the field that makes it is named after that. */
export const PARENTS: Record<Kind, readonly string[]> = {
  inspection: ["firm"],
  bond: ["inspection"],
  board: ["inspection"],
  rcd: ["board"],
  circuit: ["board"],
  room: ["inspection"],
  // A point whose circuit nobody knows yet hangs on the inspection.
  point: ["circuit", "inspection"],
  earlier: ["circuit"],
  observation: ["inspection"],
  opinion: ["observation"],
  declined: ["inspection"],
  limitation: ["inspection"],
  overruling: ["inspection"],
  isolation: ["board"],
  check: ["board", "room", "inspection"],
  attendance: ["inspection"],
  instrument_used: ["inspection"],
  lead_null: ["inspection"],
  photo: ["inspection"],
};

export const isParent = (kind: Kind, field: string): boolean => PARENTS[kind].includes(field);

export const keyOf = (id: string, field: string): string => `${id}.${field}`;
