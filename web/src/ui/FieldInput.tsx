/** One field of an inspection's form, drawn by its kind, kept as it is left, with its refusal and its history. */
import { useId, useState } from "react";
import { useFieldSpec } from "../api/reference";
import { refusal } from "../inspection/model";
import { setField, useInspection, useMay } from "../inspection/sync";
import type { Place, Value } from "../inspection/types";
import { useSay } from "../inspection/words";
import { HistoryList } from "../shell/History";
import { Control, isShort } from "./Control";
import { Labelled } from "./Labelled";
import css from "./Labelled.module.css";
import { ReadingCell } from "./ReadingCell";

/** Who does what this person may not. */
const NOT_YOURS: Record<string, string> = {
  decide: "An inspector or a supervisor decides this.",
  "settle rules of an inspection": "Comes from the firm; a supervisor changes it.",
};

interface Props {
  place: Place;
  label?: string;
  hint?: string;
  rows?: number;
  /** Words for choices where the kept word is too short. */
  words?: Record<string, string>;
}

export function FieldInput({ place, label, hint, rows, words }: Props) {
  const id = useId();
  const say = useSay();
  const spec = useFieldSpec(place.kind, place.field);
  const value = useInspection((s) => s.model?.entities[place.id]?.values[place.field] ?? null) as Value;
  const refused = useInspection((s) => (s.model ? refusal(s.model, place.id, place.field) : undefined));
  const [history, setHistory] = useState(false);
  const may = useMay(spec?.action ?? "write");
  if (!spec) return null;
  const name = label ?? say(spec.label);
  const keep = (next: Value) => setField(place, next);
  // A figure has its history at its cell.
  const past = value !== null && spec.kind !== "reading" && (
    <>
      <button type="button" className={css.history} aria-expanded={history} aria-label={`History of ${name}`} onClick={() => setHistory(!history)}>
        history
      </button>
      {history && <HistoryList inline place={place} close={() => setHistory(false)} />}
    </>
  );
  return (
    <Labelled id={id} field={place.field} label={name} unit={spec.unit} group={spec.kind === "flag" || isShort(spec)} refused={refused} hint={may ? hint : NOT_YOURS[spec.action]} above={past}>
      <fieldset disabled={!may}>
        {spec.kind === "reading" ? (
          <ReadingCell id={id} place={place} label={spec.label} boxed />
        ) : (
          <Control id={id} spec={spec} value={value} keep={keep} rows={rows} words={words} refused={refused} />
        )}
      </fieldset>
    </Labelled>
  );
}
