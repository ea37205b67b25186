/** What is left of a report, for lists. */
import type { Schemas } from "../api/client";

type Open = Schemas["OpenReportOut"];

/** What is left of it, in a few words. */
export function leftOf(one: Open): string {
  if (one.complete) return "to be confirmed";
  if (one.counting === 0) return one.copy_due ? "copy to be sent" : "unsatisfactory, nothing coded";
  const open = `${one.counting - one.cleared} of ${one.counting} open`;
  return one.reported ? `${open}, ${one.reported} to be accepted` : open;
}

/** The day that counts next; '' for none. */
export const dayOf = (one: Open): string =>
  [one.due, one.copy_due].filter((on): on is string => on !== null).sort()[0] ?? "";
