/** What a note of the margin offers, carried out in one place: whatever draws a note calls this. */
import type { Note, Schemas } from "../api/client";
import { observe } from "./desk";
import { add, setField } from "./open";
import { type FieldOf, type Kind, type Value, placeOf } from "./types";

export type Offer = Schemas["ActionView"];

/** Where to go after an offer was carried out: a stage of the inspection, a file of the server, or nowhere. */
export type Destination = { stage: string } | { file: string } | null;

export function carryOut(offer: Offer, note: Note, inspectionId: string): Destination {
  switch (offer.kind) {
    case "observe":
      observe({ kind: note.entity as Kind, id: note.id, field: note.field, raise: offer.key });
      return null;
    case "set":
      setField(placeOf(offer.entity, offer.id, offer.field), offer.value as Value);
      return null;
    case "letter":
      return { file: `/api/inspections/${inspectionId}/operator-letter.pdf` };
    case "hold": {
      // Live tests cannot go on: the job waits for the operator and a return visit.
      const at = (field: FieldOf<"inspection">) => ({ kind: "inspection" as const, id: inspectionId, field });
      setField(at("held_at"), new Date().toISOString());
      setField(at("held_reason"), `${note.reason} Live tests stopped.`.slice(0, 500));
      return { stage: "brief" };
    }
    case "call":
      add("operator_call", inspectionId, { fault: "earth", called_at: new Date().toISOString() });
      return null;
  }
}
