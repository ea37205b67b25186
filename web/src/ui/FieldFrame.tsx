/** The frame of everything that is filled in: words, unit and history above, why it was refused or a hint below. */
import { type ComponentProps, forwardRef, type ReactNode } from "react";
import css from "./FieldFrame.module.css";
import { Hidden } from "./Hidden";

/** What every control of the kit takes. */
export interface Words {
  label: string;
  unit?: string;
  hint?: ReactNode;
  refused?: string;
  required?: boolean;
  disabled?: boolean;
  /** The words are for a screen reader alone: the place says what it is. */
  quiet?: boolean;
  /** Stands at the end of the words: what opens the earlier values. */
  history?: ReactNode;
}

/** The ids of a field's parts: its control names the others. */
export const idsOf = (id: string) => ({
  control: id,
  label: `${id}-label`,
  errorText: `${id}-refused`,
  helperText: `${id}-hint`,
});

/** What a control says of itself to a screen reader. id: of the control. */
export const controlProps = (id: string, { refused, hint, required, disabled }: Words) => ({
  id,
  required,
  disabled,
  "aria-invalid": refused ? true : undefined,
  "aria-describedby": refused ? idsOf(id).errorText : hint ? idsOf(id).helperText : undefined,
});

interface Props extends Omit<ComponentProps<"div">, "id"> {
  words: Words;
  /** The id of its control; of a group, the beginning of its parts' ids. */
  controlId: string;
  /** Several controls under one name, rather than one. */
  group?: boolean;
  children: ReactNode;
}

export const FieldFrame = forwardRef<HTMLDivElement, Props>(function FieldFrame(
  { words: { label, unit, hint, refused, quiet, history }, controlId, group, children, className, ...rest },
  ref,
) {
  const ids = idsOf(controlId);
  const fullLabel = unit ? `${label} (${unit})` : label;
  const head = (
    <span className={css.head}>
      {group ? (
        <span id={ids.label} className={css.label}>
          {fullLabel}
        </span>
      ) : (
        <label htmlFor={controlId} id={ids.label} className={css.label}>
          {fullLabel}
        </label>
      )}
      {history && <span data-history="">{history}</span>}
    </span>
  );
  const grouped = group && {
    role: "group",
    "aria-labelledby": ids.label,
    "aria-describedby": refused ? ids.errorText : undefined,
  };
  return (
    <div ref={ref} {...grouped} {...rest} className={className ? `${css.field} ${className}` : css.field}>
      {quiet ? <Hidden>{head}</Hidden> : head}
      {children}
      {refused && (
        <div id={ids.errorText} role="alert" className={css.refused}>
          {refused}
        </div>
      )}
      {hint && !refused && (
        <div id={ids.helperText} className={css.hint}>
          {hint}
        </div>
      )}
    </div>
  );
});
