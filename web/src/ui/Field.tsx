/** The frame of everything that is filled in: words, unit and history above, why it was refused or a hint below. */
import { Box, Field as ChakraField, Flex, VisuallyHidden } from "@chakra-ui/react";
import { type ReactNode, useId } from "react";
import { FIELD_FRAME as FRAME } from "../theme/recipes/frame";

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

interface Props extends Words {
  /** Several controls under one name, rather than one. */
  group?: boolean;
  /** The id of a control that is none of the kit's. */
  controlId?: string;
  children: ReactNode;
}

export function Field({
  label,
  unit,
  hint,
  refused,
  required,
  disabled,
  quiet,
  history,
  group,
  controlId,
  children,
}: Props) {
  const id = useId();
  const said = unit ? `${label} (${unit})` : label;
  const past = history && <span data-history="">{history}</span>;
  const row = { width: "full", align: "baseline", justify: "space-between", gap: "2" } as const;
  if (group) {
    // Not a field of the component library: each control of a group would take the group's words for its own.
    const words = (
      <Flex {...row}>
        <Box as="span" id={id} fontWeight="semibold">
          {said}
        </Box>
        {past}
      </Flex>
    );
    return (
      <Box role="group" aria-labelledby={id} css={FRAME} aria-describedby={refused ? `${id}-refused` : undefined}>
        {quiet ? <VisuallyHidden>{words}</VisuallyHidden> : words}
        {children}
        {refused && (
          <Box id={`${id}-refused`} role="alert" fontWeight="semibold" borderLeftWidth="4px" borderColor="ink" pl="2">
            {refused}
          </Box>
        )}
        {hint && !refused && (
          <Box color="quiet" fontSize="sm">
            {hint}
          </Box>
        )}
      </Box>
    );
  }
  const words = (
    <Flex {...row}>
      <ChakraField.Label>{said}</ChakraField.Label>
      {past}
    </Flex>
  );
  return (
    <ChakraField.Root
      ids={controlId ? { control: controlId } : undefined}
      invalid={!!refused}
      required={required}
      disabled={disabled}
    >
      {quiet ? <VisuallyHidden>{words}</VisuallyHidden> : words}
      {children}
      <ChakraField.ErrorText role="alert">{refused}</ChakraField.ErrorText>
      {hint && !refused && <ChakraField.HelperText>{hint}</ChakraField.HelperText>}
    </ChakraField.Root>
  );
}
