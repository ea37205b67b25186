/** One field of a form, drawn by its kind, kept as it is left, with its refusal in words below it. */
import { Box, chakra, Text } from "@chakra-ui/react";
import { useId, useState } from "react";
import { useFieldSpec } from "../api/reference";
import { refusal } from "../inspection/model";
import { setField, useInspection } from "../inspection/sync";
import type { Place, Value } from "../inspection/types";
import { useSay } from "../inspection/words";
import { HistoryList } from "../shell/History";
import { Control, isShort } from "./Control";
import css from "./FieldInput.module.css";
import { ReadingCell } from "./ReadingCell";

/** A figure has its history at its cell. */
const NO_HISTORY = new Set(["reading"]);

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
  if (!spec) return null;
  const keep = (next: Value) => setField(place, next);
  const unit = spec.unit ? ` (${spec.unit})` : "";
  return (
    <Box data-field={place.field} className={css.field}>
      {/* A group of buttons is named by its words; a label would take the first button's own name away. */}
      <chakra.label
        id={`${id}-label`}
        htmlFor={spec.kind === "flag" || isShort(spec) ? undefined : id}
        display="block"
        fontSize="sm"
        fontWeight="600"
        mb="1"
      >
        {label ?? say(spec.label)}
        {unit}
      </chakra.label>
      {value !== null && !NO_HISTORY.has(spec.kind) && (
        <button type="button" className={css.history} aria-expanded={history} aria-label={`History of ${label ?? say(spec.label)}`} onClick={() => setHistory(!history)}>
          history
        </button>
      )}
      {history && <HistoryList inline place={place} close={() => setHistory(false)} />}
      {spec.kind === "reading" ? (
        <ReadingCell id={id} place={place} label={spec.label} boxed />
      ) : (
        <Control id={id} spec={spec} value={value} keep={keep} rows={rows} words={words} refused={refused} />
      )}
      {refused && (
        <Text id={`${id}-refused`} role="alert" mt="1" fontSize="sm" fontWeight="600" borderLeftWidth="4px" borderColor="ink" pl="2">
          {refused}
        </Text>
      )}
      {hint && !refused && (
        <Text mt="1" fontSize="sm" color="quiet">
          {hint}
        </Text>
      )}
    </Box>
  );
}
