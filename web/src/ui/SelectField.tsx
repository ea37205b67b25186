/** One of many: a list of the tablet's own. */
import { useId } from "react";
import type { Choice } from "./ChoiceField";
import { controlProps, FieldFrame, type Words } from "./FieldFrame";
import { Icon } from "./Icon";
import css from "./SelectField.module.css";
import box from "./TextField.module.css";

interface Props extends Words {
  value: string;
  choices: readonly Choice[];
  change: (value: string) => void;
}

export function SelectField({ value, choices, change, ...words }: Props) {
  const id = useId();
  return (
    <FieldFrame words={words} controlId={id}>
      <span className={css.list}>
        <select
          {...controlProps(id, words)}
          className={box.box}
          value={value}
          onChange={(event) => change(event.target.value)}
        >
          {choices.map(([key, said]) => (
            <option key={key} value={key}>
              {said}
            </option>
          ))}
        </select>
        <span className={css.arrow}>
          <Icon name="down" size={16} />
        </span>
      </span>
    </FieldFrame>
  );
}
