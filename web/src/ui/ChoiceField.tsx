/** One of a few, as buttons; and yes, no or not yet. */
import { useId } from "react";
import { Button } from "./Button";
import css from "./ChoiceField.module.css";
import { FieldFrame, type Words } from "./FieldFrame";

export type Choice = readonly [value: string, words: string];

interface ButtonsProps extends Words {
  value: string | null;
  choices: readonly Choice[];
  /** Null where what was chosen is tapped again: nothing is chosen. */
  change: (value: string | null) => void;
}

/** Few choices side by side; tapping the chosen one takes it back. */
export function ButtonsField({ value, choices, change, ...words }: ButtonsProps) {
  const id = useId();
  return (
    <FieldFrame group words={words} controlId={id}>
      <div className={css.choices}>
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
      </div>
    </FieldFrame>
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
