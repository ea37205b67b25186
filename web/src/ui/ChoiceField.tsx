/** One of several: a list for many, buttons for few, and yes, no or not yet. */
import { Flex, NativeSelect, SegmentGroup } from "@chakra-ui/react";
import { Button } from "./Button";
import { Field } from "./Field";
import type { Words } from "./FieldFrame";
import { Icon } from "./Icon";

export type Choice = readonly [value: string, words: string];

interface SelectProps extends Words {
  value: string;
  choices: readonly Choice[];
  change: (value: string) => void;
}

/** A list of the tablet's own. */
export function SelectField({ value, choices, change, ...words }: SelectProps) {
  return (
    <Field {...words}>
      <NativeSelect.Root disabled={words.disabled}>
        <NativeSelect.Field
          aria-label={words.quiet ? words.label : undefined}
          value={value}
          onChange={(event) => change(event.target.value)}
        >
          {choices.map(([key, said]) => (
            <option key={key} value={key}>
              {said}
            </option>
          ))}
        </NativeSelect.Field>
        <NativeSelect.Indicator asChild>
          <span>
            <Icon name="down" size={16} />
          </span>
        </NativeSelect.Indicator>
      </NativeSelect.Root>
    </Field>
  );
}

interface ButtonsProps extends Words {
  value: string | null;
  choices: readonly Choice[];
  /** Null where what was chosen is tapped again: nothing is chosen. */
  change: (value: string | null) => void;
}

/** Few choices side by side; tapping the chosen one takes it back. */
export function ButtonsField({ value, choices, change, ...words }: ButtonsProps) {
  return (
    <Field group {...words}>
      <Flex gap="2" wrap="wrap">
        {choices.map(([key, said]) => (
          <Button
            key={key}
            variant="choice"
            pressed={key === value}
            disabled={words.disabled}
            onClick={() => change(key === value ? null : key)}
          >
            {said}
          </Button>
        ))}
      </Flex>
    </Field>
  );
}

interface YesNoProps extends Words {
  /** Null where it is not known yet. */
  value: boolean | null;
  change: (value: boolean | null) => void;
}

export function YesNoField({ value, change, ...words }: YesNoProps) {
  const chosen = value === null ? null : value ? "yes" : "no";
  return (
    <ButtonsField
      {...words}
      value={chosen}
      choices={YES_NO}
      change={(answer) => change(answer === null ? null : answer === "yes")}
    />
  );
}

const YES_NO: readonly Choice[] = [
  ["yes", "Yes"],
  ["no", "No"],
];

interface SegmentsProps {
  label: string;
  value: string;
  choices: readonly Choice[];
  change: (value: string) => void;
}

/** A switch between a few ways to see the same; one of them always stands. */
export function Segments({ label, value, choices, change }: SegmentsProps) {
  return (
    <SegmentGroup.Root aria-label={label} value={value} onValueChange={(to) => to.value && change(to.value)}>
      <SegmentGroup.Indicator />
      {choices.map(([key, said]) => (
        <SegmentGroup.Item key={key} value={key}>
          <SegmentGroup.ItemText>{said}</SegmentGroup.ItemText>
          <SegmentGroup.ItemHiddenInput />
        </SegmentGroup.Item>
      ))}
    </SegmentGroup.Root>
  );
}
