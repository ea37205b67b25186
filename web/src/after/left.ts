/** What is left of a report, for lists. */
import type { Schemas } from "../api/client";

type Open = Schemas["OpenReportOut"];

/** What is left of it, in a few words. */
export function leftOf(openReport: Open): string {
  if (openReport.complete) return "to be confirmed";
  if (openReport.counting === 0) return openReport.copy_due ? "copy to be sent" : "unsatisfactory, nothing coded";
  const open = `${openReport.counting - openReport.cleared} of ${openReport.counting} open`;
  return openReport.reported ? `${open}, ${openReport.reported} to be accepted` : open;
}

/** The day that counts next; '' for none. */
export const dayOf = (openReport: Open): string =>
  [openReport.due, openReport.copy_due].filter((on): on is string => on !== null).sort()[0] ?? "";
