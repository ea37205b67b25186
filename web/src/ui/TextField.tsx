/** A line or some lines to type into; a figure is kept as it was written. */
import { type ComponentProps, type KeyboardEvent, type Ref, useId } from "react";
import { controlProps, FieldFrame, type Words } from "./FieldFrame";
import css from "./TextField.module.css";

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
  const words = { label, unit, hint, refused, required, disabled, quiet, history };
  const own = useId();
  const key = (event: KeyboardEvent) => event.key === "Enter" && !event.nativeEvent.isComposing && (enter ?? leave)?.();
  const shared = { ...controlProps(native.id ?? own, words), value, onBlur: leave, autoComplete };
  return (
    <FieldFrame words={words} controlId={shared.id}>
      {rows ? (
        <textarea
          rows={rows}
          maxLength={native.maxLength}
          placeholder={native.placeholder}
          {...shared}
          className={`${css.box} ${css.lines}`}
          onChange={(event) => change(event.target.value)}
        />
      ) : (
        <input
          ref={box}
          {...native}
          {...shared}
          {...(figure && { inputMode: "decimal" })}
          className={figure ? `${css.box} ${css.figure}` : css.box}
          onChange={(event) => change(event.target.value)}
          onKeyDown={leave || enter ? key : undefined}
        />
      )}
    </FieldFrame>
  );
}

/** A figure: typed with the point or the comma, kept as it was written, its unit beside its name. */
export function NumberField(props: Omit<Props, "rows" | "figure" | "type">) {
  return <TextField figure {...props} />;
}
