/** What does something when it is tapped: a button of words, of one drawing, or one that leads to another screen. */
import { type ComponentProps, forwardRef, type ReactNode } from "react";
import css from "./Button.module.css";
import { Icon, type IconName } from "./Icon";
import { Link } from "./Link";

type Native = Pick<
  ComponentProps<"button">,
  "onClick" | "onPointerDown" | "type" | "disabled" | "title" | "id" | "hidden" | "form"
>;

interface Look {
  /** `action` is the one thing to do next, `ink` what is at hand everywhere; `quiet` stands back; `choice` is one of
   * several; `plain` has no frame. */
  variant?: "outline" | "action" | "ink" | "choice" | "quiet" | "plain";
  size?: "md" | "sm" | "lg" | "tile" | "bare";
}

interface ButtonProps extends Native, Look {
  children: ReactNode;
  /** Chosen or not, where it is one of several that stay. */
  pressed?: boolean;
  expanded?: boolean;
  busy?: boolean;
  /** What a screen reader says where the words alone do not tell enough. */
  label?: string;
  /** The key that does the same. */
  hotkey?: string;
  wide?: boolean;
}

// What opens something gives its trigger more than is named here, as whether it is open: that goes to the element.
export const Button = forwardRef<HTMLButtonElement, ButtonProps>(function Button(
  { children, variant, size, pressed, expanded, busy, label, hotkey, wide, type = "button", disabled, ...native },
  ref,
) {
  return (
    <button
      ref={ref}
      type={type}
      aria-pressed={pressed}
      aria-expanded={expanded}
      aria-label={label}
      {...native}
      disabled={busy || disabled}
      className={look({ variant, size }, wide && css.wide)}
    >
      {busy && <span className={css.busy} />}
      {children}
      {hotkey && <kbd className={css.key}>{hotkey}</kbd>}
    </button>
  );
});

interface IconButtonProps extends Native, Look {
  icon: IconName;
  label: string;
  expanded?: boolean;
}

export const IconButton = forwardRef<HTMLButtonElement, IconButtonProps>(function IconButton(
  { icon, label, variant = "plain", size, expanded, type = "button", ...native },
  ref,
) {
  return (
    <button
      ref={ref}
      type={type}
      aria-label={label}
      aria-expanded={expanded}
      {...native}
      className={look({ variant, size }, css.drawing)}
    >
      <Icon name={icon} />
    </button>
  );
});

interface LinkButtonProps extends Look {
  to: string;
  children: ReactNode;
  label?: string;
  /** A file of the server rather than a screen. */
  file?: boolean;
}

export function LinkButton({ to, children, variant, size, label, file }: LinkButtonProps) {
  const className = look({ variant, size });
  return file ? (
    <a href={to} className={className} aria-label={label}>
      {children}
    </a>
  ) : (
    <Link to={to} className={className} aria-label={label}>
      {children}
    </Link>
  );
}

const look = ({ variant = "outline", size = "md" }: Look, more?: string | false): string =>
  [css.button, css[variant], css[size], more].filter(Boolean).join(" ");
