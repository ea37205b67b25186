/** What is seen in a drawing of its own, and what a screen reader says for it. */
import { Box, VisuallyHidden } from "@chakra-ui/react";
import type { ReactNode } from "react";

export function Said({ words, children }: { words: string; children: ReactNode }) {
  return (
    <>
      <VisuallyHidden>{words}</VisuallyHidden>
      <Box as="span" aria-hidden="true" display="contents">
        {children}
      </Box>
    </>
  );
}
