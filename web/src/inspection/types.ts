/** An inspection on the device: entities by id, and changes on their way to the server. */

export type Kind =
  | "inspection"
  | "bond"
  | "board"
  | "rcd"
  | "circuit"
  | "point"
  | "earlier"
  | "observation"
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

export const PARENT: Record<Exclude<Kind, "inspection">, string> = {
  bond: "inspection",
  board: "inspection",
  rcd: "board",
  circuit: "board",
  point: "circuit",
  earlier: "circuit",
  observation: "inspection",
  limitation: "inspection",
  overruling: "inspection",
  isolation: "board",
  check: "board",
  attendance: "inspection",
  instrument_used: "inspection",
  lead_null: "inspection",
  photo: "inspection",
};

export const keyOf = (id: string, field: string): string => `${id}.${field}`;
