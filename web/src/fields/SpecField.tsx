/** The control of a declared field, by its kind: buttons for few choices, a list for many, a box for what is typed. */
import { Box } from "@chakra-ui/react";
import { useState } from "react";
import type { FieldSpec } from "../api/client";
import type { Value } from "../inspection/types";
import { ButtonsField, type Choice, YesNoField } from "../ui/ChoiceField";
import { DateField } from "../ui/DateField";
import type { Words } from "../ui/FieldFrame";
import { SelectField } from "../ui/SelectField";
import { TextField } from "../ui/TextField";
import { useLeave } from "../ui/useLeave";

interface Props extends Words {
  spec: FieldSpec;
  /** Its name, by which tests and the margin find it. */
  field: string;
  value: Value;
  /** Called as the field is left. */
  keep: (value: Value) => void;
  rows?: number;
  /** Words for choices where the kept word is too short. */
  choiceWords?: Record<string, string>;
  autoFocus?: boolean;
}

/** Few enough choices to stand side by side as buttons. */
const SHORT = 5;

export function SpecField({ spec, field, value, keep, rows, choiceWords, autoFocus, ...words }: Props) {
  return (
    <Box data-field={field} width="full" minWidth="0">
      {control()}
    </Box>
  );

  function control() {
    const choices = spec.choices.map((choice): Choice => [choice, choiceWords?.[choice] ?? choice]);
    const text = String(value ?? "");
    if (spec.kind === "flag") return <YesNoField {...words} value={value as boolean | null} change={keep} />;
    if (spec.kind === "date") return <DateField {...words} value={text} change={(day) => keep(day || null)} />;
    if (spec.kind !== "choice") {
      return <Typed {...words} spec={spec} value={value} keep={keep} rows={rows} autoFocus={autoFocus} />;
    }
    if (choices.length <= SHORT) {
      return <ButtonsField {...words} value={value === null ? null : text} choices={choices} change={keep} />;
    }
    return (
      <SelectField
        {...words}
        value={text}
        choices={[["", "not yet"], ...choices]}
        change={(chosen) => keep(chosen || null)}
      />
    );
  }
}

type TypedProps = Words & Pick<Props, "spec" | "value" | "keep" | "rows" | "autoFocus">;

function Typed({ spec, value, keep, rows, autoFocus, ...words }: TypedProps) {
  const [draft, setDraft] = useState<string | null>(null);
  const leave = () => {
    if (draft === null) return;
    keep(draft.trim() || null);
    setDraft(null);
  };
  useLeave(leave);
  const figure = spec.kind === "number" || spec.kind === "integer";
  return (
    <TextField
      {...words}
      rows={rows}
      figure={figure}
      // The caller opens it on purpose: the box is what was asked for.
      autoFocus={autoFocus}
      value={draft ?? String(value ?? "")}
      change={setDraft}
      leave={leave}
    />
  );
}
