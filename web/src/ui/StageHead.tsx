/** The head of a stage of an inspection: its name, a line about it, and what can be switched; and what stands under it. */
import { Box, Flex, Heading } from "@chakra-ui/react";
import type { ReactNode } from "react";

export function StageHead({ title, line, children }: { title: string; line?: ReactNode; children?: ReactNode }) {
  return (
    <Flex align="center" wrap="wrap" columnGap="3.5" rowGap="1" px="4" pt="2.5" pb="2">
      <Heading as="h1" size="lg">
        {title}
      </Heading>
      <Box as="span" flex="1" color="quiet">
        {line}
      </Box>
      <Flex gap="2.5" wrap="wrap">
        {children}
      </Flex>
    </Flex>
  );
}

/** What stands under the head of a stage. */
export function StageBody({ children, wide }: { children: ReactNode; wide?: boolean }) {
  return (
    <Box px="4" pt="1" pb="7" maxW={wide ? undefined : "54rem"}>
      {children}
    </Box>
  );
}
