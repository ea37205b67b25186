/** A control with its words: the label above, why it was refused or a hint below. */
import { Box, chakra, Text } from "@chakra-ui/react";
import type { ReactNode } from "react";
import css from "./Labelled.module.css";

interface Props {
  id: string;
  field: string;
  label: string;
  unit: string;
  /** A group of buttons is named by its words; a label would take the first button's own name away. */
  group: boolean;
  refused?: string;
  hint?: string;
  /** Stands between the label and the control. */
  above?: ReactNode;
  children: ReactNode;
}

export function Labelled({ id, field, label, unit, group, refused, hint, above, children }: Props) {
  return (
    <Box data-field={field} className={css.field}>
      <chakra.label id={`${id}-label`} htmlFor={group ? undefined : id} display="block" fontSize="sm" fontWeight="600" mb="1">
        {label}
        {unit ? ` (${unit})` : ""}
      </chakra.label>
      {above}
      {children}
      {refused && (
        <Text id={`${id}-refused`} role="alert" mt="1" fontSize="sm" fontWeight="600" borderLeftWidth="4px" borderColor="ink" pl="2">
          {refused}
        </Text>
      )}
      {hint && !refused && (
        <Text mt="1" fontSize="sm" color="quiet">
          {hint}
        </Text>
      )}
    </Box>
  );
}
