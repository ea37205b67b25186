/** What can be ticked: one thing, or several of a group. */
import { Checkbox } from "@chakra-ui/react";
import type { ReactNode } from "react";
import type { Choice } from "./ChoiceField";
import { Field } from "./Field";
import type { Words } from "./FieldFrame";
import { Icon } from "./Icon";

interface CheckProps {
  children: ReactNode;
  checked: boolean;
  change: (checked: boolean) => void;
  disabled?: boolean;
}

export function Check({ children, checked, change, disabled }: CheckProps) {
  return (
    <Checkbox.Root checked={checked} disabled={disabled} onCheckedChange={(to) => change(to.checked === true)}>
      <Checkbox.HiddenInput />
      <Checkbox.Control>{checked && <Icon name="tick" size={16} />}</Checkbox.Control>
      <Checkbox.Label>{children}</Checkbox.Label>
    </Checkbox.Root>
  );
}

interface GroupProps extends Words {
  values: readonly string[];
  choices: readonly Choice[];
  change: (values: string[]) => void;
}

export function CheckGroup({ values, choices, change, ...words }: GroupProps) {
  return (
    <Field group {...words}>
      {choices.map(([key, said]) => (
        <Check
          key={key}
          checked={values.includes(key)}
          disabled={words.disabled}
          change={(on) =>
            change(choices.map(([one]) => one).filter((one) => (one === key ? on : values.includes(one))))
          }
        >
          {said}
        </Check>
      ))}
    </Field>
  );
}
