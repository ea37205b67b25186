/** What does something when it is tapped: a button of words, of one drawing, or one that leads to another screen. */
import { Button as ChakraButton, Kbd } from "@chakra-ui/react";
import { type ComponentProps, forwardRef, type ReactNode } from "react";
import { Link } from "react-router";
import { Icon, type IconName } from "./Icon";

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

export const Button = forwardRef<HTMLButtonElement, ButtonProps>(function Button(
  { children, variant, size, pressed, expanded, busy, label, hotkey, wide, type = "button", ...native },
  ref,
) {
  return (
    <ChakraButton
      ref={ref}
      type={type}
      {...look({ variant, size })}
      aria-pressed={pressed}
      aria-expanded={expanded}
      aria-label={label}
      loading={busy}
      loadingText={children}
      width={wide ? "full" : undefined}
      {...native}
    >
      {children}
      {hotkey && <Kbd hideBelow="md">{hotkey}</Kbd>}
    </ChakraButton>
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
    <ChakraButton
      ref={ref}
      type={type}
      {...look({ variant, size })}
      paddingInline="0"
      aria-label={label}
      aria-expanded={expanded}
      {...native}
    >
      <Icon name={icon} />
    </ChakraButton>
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
  return (
    <ChakraButton asChild {...look({ variant, size })}>
      {file ? (
        <a href={to} aria-label={label}>
          {children}
        </a>
      ) : (
        <Link to={to} aria-label={label}>
          {children}
        </Link>
      )}
    </ChakraButton>
  );
}

/** The recipe is our own; the component library's types know only the one it ships with. */
const look = ({ variant, size }: Look) => ({ variant: variant as never, size: size as never });
