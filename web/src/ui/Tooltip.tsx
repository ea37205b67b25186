/** A hint on what a drawing means. */
import { Portal, Tooltip as ChakraTooltip } from "@chakra-ui/react";
import type { ReactElement } from "react";

/** Words for what is only drawn; never the only place where something is said. */
export function Tooltip({ says, children }: { says: string; children: ReactElement }) {
  return (
    <ChakraTooltip.Root openDelay={400}>
      <ChakraTooltip.Trigger asChild>{children}</ChakraTooltip.Trigger>
      <Portal>
        <ChakraTooltip.Positioner>
          <ChakraTooltip.Content>{says}</ChakraTooltip.Content>
        </ChakraTooltip.Positioner>
      </Portal>
    </ChakraTooltip.Root>
  );
}
