/** A cell of a table that is typed into or chosen in: no frame until it is used, named for a screen reader alone. */
import { Input, NativeSelect } from "@chakra-ui/react";
import { useState } from "react";
import type { Choice } from "./ChoiceField";
import { Icon } from "./Icon";

interface TypedProps {
  label: string;
  value: string;
  /** Called as it is left; null where it was emptied. */
  keep: (text: string | null) => void;
  width?: string;
  figure?: boolean;
  /** Just made: the next key goes here. */
  focus?: boolean;
  /** What holds while nothing is typed. */
  instead?: string;
}

const BARE = {
  minHeight: { base: "touch", md: "9" },
  px: "1.5",
  borderWidth: "1px",
  borderRadius: "sm",
  bg: "transparent",
  _focus: { borderColor: "line", bg: "paper" },
} as const;

export function TypedCell({ label, value, keep, width, figure, focus, instead }: TypedProps) {
  const [draft, setDraft] = useState<string | null>(null);
  const leave = () => {
    if (draft !== null) keep(draft.trim() || null);
    setDraft(null);
  };
  return (
    <Input
      ref={focus ? takeFocus : undefined}
      {...BARE}
      borderColor={{ base: "line", md: "transparent" }}
      width={{ base: "full", md: width ?? "full" }}
      textAlign={figure ? "end" : "start"}
      fontFamily={figure ? "mono" : undefined}
      aria-label={label}
      inputMode={figure ? "decimal" : "text"}
      autoComplete="off"
      placeholder={instead}
      value={draft ?? value}
      onChange={(event) => setDraft(event.target.value)}
      onBlur={leave}
      onKeyDown={(event) => event.key === "Enter" && leave()}
    />
  );
}

/** Once, when the cell appears: drawn again, it leaves the focus where it is. */
function takeFocus(element: HTMLInputElement | null): void {
  if (!element || element.dataset.met) return;
  element.dataset.met = "yes";
  element.focus();
  element.select();
}

interface ChosenProps {
  label: string;
  value: string;
  choices: readonly Choice[];
  change: (value: string) => void;
}

export function ChosenCell({ label, value, choices, change }: ChosenProps) {
  return (
    <NativeSelect.Root>
      <NativeSelect.Field
        {...BARE}
        pe="6"
        aria-label={label}
        value={value}
        onChange={(event) => change(event.target.value)}
      >
        {choices.map(([key, said]) => (
          <option key={key} value={key}>
            {said}
          </option>
        ))}
      </NativeSelect.Field>
      <NativeSelect.Indicator asChild insetEnd="1">
        <span>
          <Icon name="down" size={14} />
        </span>
      </NativeSelect.Indicator>
    </NativeSelect.Root>
  );
}
