/** A line to type into: its words above, why it was refused or a hint below. */
import { Field, Input, NativeSelect } from "@chakra-ui/react";
import type { ComponentProps } from "react";

interface Words {
  label: string;
  hint?: string;
  refused?: string;
}

interface TextProps extends Words, Pick<ComponentProps<"input">, "type" | "autoComplete" | "inputMode" | "maxLength" | "required" | "autoFocus"> {
  value: string;
  change: (value: string) => void;
  mono?: boolean;
  disabled?: boolean;
  leave?: () => void;
}

export function TextField({ label, hint, refused, value, change, mono, leave, required, disabled, ...input }: TextProps) {
  return (
    <Field.Root invalid={!!refused} required={required} disabled={disabled}>
      <Field.Label fontWeight="600">{label}</Field.Label>
      <Input
        {...input}
        size="lg"
        bg="sheet"
        borderColor="ink"
        fontFamily={mono ? "mono" : undefined}
        value={value}
        onChange={(e) => change(e.target.value)}
        onBlur={leave}
      />
      <Field.ErrorText color="ink" fontWeight="600" borderLeftWidth="4px" borderColor="ink" pl="2">
        {refused}
      </Field.ErrorText>
      {hint && !refused && <Field.HelperText color="quiet">{hint}</Field.HelperText>}
    </Field.Root>
  );
}

interface ChoiceProps extends Words {
  value: string;
  choices: readonly (readonly [value: string, words: string])[];
  change: (value: string) => void;
  disabled?: boolean;
  /** The words are for a screen reader alone: the place says what is chosen. */
  quiet?: boolean;
}

export function ChoiceField({ label, hint, refused, value, choices, change, disabled, quiet }: ChoiceProps) {
  return (
    <Field.Root invalid={!!refused} disabled={disabled}>
      {!quiet && <Field.Label fontWeight="600">{label}</Field.Label>}
      <NativeSelect.Root size="lg" disabled={disabled}>
        <NativeSelect.Field aria-label={quiet ? label : undefined} bg="sheet" borderColor="ink" value={value} onChange={(e) => change(e.target.value)}>
          {choices.map(([key, words]) => (
            <option key={key} value={key}>
              {words}
            </option>
          ))}
        </NativeSelect.Field>
        <NativeSelect.Indicator />
      </NativeSelect.Root>
      <Field.ErrorText color="ink" fontWeight="600">
        {refused}
      </Field.ErrorText>
      {hint && !refused && <Field.HelperText color="quiet">{hint}</Field.HelperText>}
    </Field.Root>
  );
}
