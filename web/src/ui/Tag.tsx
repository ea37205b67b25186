/** A word that stands beside a thing: what kind it is, what state it is in. */
import { Tag as ChakraTag } from "@chakra-ui/react";
import type { ReactNode } from "react";

export function Tag({ children }: { children: ReactNode }) {
  return (
    <ChakraTag.Root>
      <ChakraTag.Label>{children}</ChakraTag.Label>
    </ChakraTag.Root>
  );
}
