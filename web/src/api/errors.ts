/** What went wrong, in words for the person: of the whole, and of each field. */
import { Refused, type Schemas, Unreachable } from "./client";

/** What a person who cannot reach the server wants to know next. */
type Comfort =
  | "Nothing was changed."
  | "What you typed is still here."
  | "What you entered is saved on this device."
  | "Try again in a moment.";

export function explain(error: unknown, comfort: Comfort = "Nothing was changed."): string {
  if (error instanceof Refused) return error.message;
  if (error instanceof Unreachable) return `${error.message} ${comfort}`;
  return `Something went wrong on this device (${error instanceof Error ? error.message : String(error)}). ${comfort}`;
}

/** What is wrong with which field; empty where the server spoke of none. */
export function fieldErrors(error: unknown): Record<string, string> {
  if (!(error instanceof Refused)) return {};
  const fields = (error.body as Schemas["Problem"] | null)?.fields ?? [];
  return Object.fromEntries(fields.map(({ field, message }) => [field, message]));
}

/** What was said of one field, or of the whole where that field was not named. */
export const explainField = (error: unknown, field: string): string =>
  fieldErrors(error)[field] ?? explain(error, "What you typed is still here.");
