/** Taking steps about the items of a report, and sending the files that go with them. */
import { api, answer, ofThisPage, Refused, type Schemas } from "../api/client";

export type After = Schemas["AfterOut"];
export type Item = Schemas["ItemOut"];
export type Step = Schemas["RemedialStepOut"];
export type StepIn = Schemas["StepsIn"]["step"];

/** Number of the last step that stands in the list: pressed twice, a step is taken once. */
export const lastSeen = (after: After): number =>
  Math.max(0, ...after.items.flatMap((item) => item.steps.map((step) => step.number)));

export const takeStep = (after: After, items: string[], step: StepIn): Promise<After> =>
  answer(
    api.POST("/api/inspections/{inspection_id}/after/steps", {
      params: { path: { inspection_id: after.inspection_id } },
      body: { items, step, seen: lastSeen(after) },
    }),
  );

export type EvidenceKind = "certificate" | "photo";

/** What the page of evidence takes. */
export const EVIDENCE_FILES: Record<EvidenceKind, string[]> = {
  certificate: ["application/pdf", "image/*"],
  photo: ["image/*"],
};

/** Send a file as the body of a request; its id. Throws Refused with the server's words. */
export async function sendFile(
  path: string,
  file: File,
  kind: EvidenceKind,
  head: HeadersInit = ofThisPage(),
): Promise<string> {
  const query = new URLSearchParams({ kind, name: file.name.slice(0, 190) });
  const response = await fetch(`${path}?${query}`, { method: "POST", body: file, headers: head });
  const body = (await response.json()) as Schemas["FileOut"] & Schemas["Problem"];
  if (!response.ok) throw new Refused(response.status, body.message, body);
  return body.id;
}
