/** A button that does something on the server: first of its kind on a screen, or one among others. */
import { Button } from "@chakra-ui/react";
import type { ReactNode } from "react";

interface Props {
  children: ReactNode;
  onClick?: () => void;
  type?: "button" | "submit";
  first?: boolean;
  busy?: boolean;
  disabled?: boolean;
  label?: string;
}

export function Do({ children, onClick, type = "button", first, busy, disabled, label }: Props) {
  const look = first ? { bg: "sea", color: "onSea", borderColor: "sea" } : { bg: "sheet", color: "ink", borderColor: "ink" };
  return (
    <Button type={type} size="lg" minH="44px" variant="outline" borderWidth="1.5px" fontWeight="700" {...look} loading={busy} disabled={disabled} aria-label={label} onClick={onClick}>
      {children}
    </Button>
  );
}
