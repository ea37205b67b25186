/** The frame of a control of the component library, which learns from it what it is called and whether it was refused. */
import { Field as ChakraField } from "@chakra-ui/react";
import { type ReactNode, useId } from "react";
import { FieldFrame, idsOf, type Words } from "./FieldFrame";

interface Props extends Words {
  /** Several controls under one name, rather than one. */
  group?: boolean;
  /** The id of a control that is none of the kit's. */
  controlId?: string;
  children: ReactNode;
}

export function Field({ group, controlId, children, ...words }: Props) {
  const own = useId();
  const id = controlId ?? own;
  const frame = (
    <FieldFrame words={words} controlId={id} group={group}>
      {children}
    </FieldFrame>
  );
  // Not a field of the component library: each control of a group would take the group's words for its own.
  if (group) return frame;
  const { label, errorText, helperText } = idsOf(id);
  return (
    <ChakraField.Root
      asChild
      unstyled
      id={id}
      ids={{ label, errorText, helperText }}
      invalid={!!words.refused}
      required={words.required}
      disabled={words.disabled}
    >
      {frame}
    </ChakraField.Root>
  );
}
