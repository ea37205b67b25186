/** One field of an inspection, drawn by its kind, kept as it is left, with its refusal and its history. */
import { Box } from "@chakra-ui/react";
import { memo, useId } from "react";
import { useFieldSpec } from "../api/reference";
import { leftBehind } from "../inspection/desk";
import { refusal } from "../inspection/model";
import { setField, useInspection } from "../inspection/open";
import type { Place, Value } from "../inspection/types";
import { useTranslate } from "../inspection/words";
import { Field } from "../ui/Field";
import { HistoryButton } from "./HistoryButton";
import { NOT_YOURS, useMayChange } from "./mayChange";
import { ReadingCell } from "./ReadingCell";
import { SpecField } from "./SpecField";

interface Props {
  place: Place;
  label?: string;
  hint?: string;
  rows?: number;
  /** Words for choices where the kept word is too short. */
  words?: Record<string, string>;
}

/** Drawn anew when what it shows changed, not with the screen around it. */
export const FieldInput = memo(FieldInputNow, (a, b) => written(a) === written(b));

const written = (props: Props) => JSON.stringify(props);

function FieldInputNow({ place, label, hint, rows, words }: Props) {
  const id = useId();
  const translate = useTranslate();
  const spec = useFieldSpec(place.kind, place.field);
  const value = useInspection((s) => s.model?.entities[place.id]?.values[place.field] ?? null) as Value;
  const refused = useInspection((s) => (s.model ? refusal(s.model, place.id, place.field) : undefined));
  const may = useMayChange(place.kind, place.field);
  if (!spec) return null;
  const frame = {
    label: label ?? translate(spec.label),
    unit: spec.unit ?? undefined,
    hint: may ? hint : NOT_YOURS[spec.action],
    refused,
    disabled: !may,
  };
  if (spec.kind === "reading") {
    // A figure has its history at the reading pad.
    return (
      <Box data-field={place.field}>
        <Field {...frame} controlId={id}>
          <ReadingCell id={id} place={place} label={spec.label} boxed />
        </Field>
      </Box>
    );
  }
  return (
    <SpecField
      {...frame}
      spec={spec}
      field={place.field}
      value={value}
      keep={(next) => {
        setField(place, next);
        leftBehind(place);
      }}
      rows={rows}
      choiceWords={words}
      history={value !== null && <HistoryButton place={place} label={`History of ${frame.label}`} />}
    />
  );
}
