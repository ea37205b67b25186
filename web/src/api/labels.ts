/** What the fields are called, for who speaks of one without drawing it. */
import type { Schemas } from "./client";

type Declared = Schemas["Reference"]["fields"];

let declared: Declared = {};

/** The server's declarations are here. */
export function namesAre(fields: Declared): void {
  declared = fields;
}

/** The words of a field; nothing before they are known: nobody is shown how it is called inside. */
export const labelOf = (kind: string, field: string): string => declared[kind]?.[field]?.label ?? "";
