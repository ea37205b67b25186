/** The field in which one searches, until the list that opens under it is there. */
import { type ReactNode, type RefObject, useLayoutEffect } from "react";
import type { Option } from "../ui/ComboboxField";
import { TextField } from "../ui/TextField";

export interface FindProps {
  boxRef: RefObject<HTMLInputElement | null>;
  /** Somebody was typing as the one field gave way to the other. */
  inHandRef: RefObject<boolean>;
  text: string;
  type: (text: string) => void;
  options: readonly Option[];
  empty?: ReactNode;
  refused?: string;
  choose: (key: string) => void;
}

export const FIND = { label: "Find", placeholder: "Find an address, a client, a job number" } as const;

export function FindField({ boxRef, inHandRef, text, type }: FindProps) {
  useLayoutEffect(
    () => () => void (inHandRef.current = document.activeElement === boxRef.current),
    [boxRef, inHandRef],
  );
  return <TextField quiet {...FIND} box={boxRef} value={text} change={type} />;
}
