/** A line or some lines to type into; a figure is kept as it was written. */
import { Input, Textarea } from "@chakra-ui/react";
import type { ComponentProps, KeyboardEvent, Ref } from "react";
import { Field, type Words } from "./Field";

type Native = Pick<
  ComponentProps<"input">,
  "id" | "type" | "autoComplete" | "inputMode" | "maxLength" | "autoFocus" | "placeholder" | "spellCheck"
>;

interface Props extends Words, Native {
  value: string;
  change: (value: string) => void;
  /** It was left, or confirmed by Enter. */
  leave?: () => void;
  enter?: () => void;
  /** So many lines instead of one. */
  rows?: number;
  figure?: boolean;
  /** The field itself, for who brings the cursor to it. */
  box?: Ref<HTMLInputElement>;
}

export function TextField({ value, change, leave, enter, rows, figure, box, autoComplete = "off", ...rest }: Props) {
  const { label, unit, hint, refused, required, disabled, quiet, history, ...native } = rest;
  const key = (event: KeyboardEvent) => event.key === "Enter" && !event.nativeEvent.isComposing && (enter ?? leave)?.();
  const shared = { value, onBlur: leave, autoComplete };
  return (
    <Field {...{ label, unit, hint, refused, required, disabled, quiet, history }}>
      {rows ? (
        <Textarea
          id={native.id}
          rows={rows}
          maxLength={native.maxLength}
          placeholder={native.placeholder}
          {...shared}
          onChange={(event) => change(event.target.value)}
        />
      ) : (
        <Input
          ref={box}
          {...native}
          {...shared}
          {...(figure && FIGURE)}
          onChange={(event) => change(event.target.value)}
          onKeyDown={leave || enter ? key : undefined}
        />
      )}
    </Field>
  );
}

const FIGURE = { inputMode: "decimal", fontFamily: "mono", fontVariantNumeric: "tabular-nums" } as const;

/** A figure: typed with the point or the comma, kept as it was written, its unit beside its name. */
export function NumberField(props: Omit<Props, "rows" | "figure" | "type">) {
  return <TextField figure {...props} />;
}
