/** A line across the work that asks for something: said plainly, answered with a tap, never over what is worked on. */
import { Box, Flex } from "@chakra-ui/react";
import type { ReactNode } from "react";

interface Props {
  role: "note" | "status" | "alert";
  children: ReactNode;
  acts?: ReactNode;
  /** From edge to edge, rather than framed. */
  edge?: boolean;
}

export function Banner({ role, children, acts, edge }: Props) {
  const frame = edge
    ? ({ borderBottomWidth: "2px" } as const)
    : ({ mx: "4", mb: "2.5", borderWidth: "2px", borderRadius: "lg" } as const);
  return (
    <Flex role={role} wrap="wrap" gap="3" align="center" px="4" py="2" bg="lampWash" borderColor="ink" {...frame}>
      <Box flex="1 1 18rem">{children}</Box>
      {acts}
    </Flex>
  );
}
