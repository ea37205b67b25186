/** What the server said, in words for the person: of the whole, and of each field. */
import { Refused, type Schemas } from "./client";

/** What happened, where nothing was changed by it. */
export const wordsOf = (error: unknown): string =>
  error instanceof Refused ? error.message : "The server cannot be reached. Nothing was changed.";

/** What is wrong with which field; empty where the server spoke of none. */
export function fieldsOf(error: unknown): Record<string, string> {
  if (!(error instanceof Refused)) return {};
  const fields = (error.body as Schemas["Problem"] | null)?.fields ?? [];
  return Object.fromEntries(fields.map((one) => [one.field, one.message]));
}
