/** A few words more at the place they belong to, or a hint on what a drawing means. */
import { Popover as ChakraPopover, Tooltip as ChakraTooltip, Portal } from "@chakra-ui/react";
import type { ReactElement, ReactNode } from "react";

interface PopoverProps {
  trigger: ReactElement;
  title?: string;
  label: string;
  children: (close: () => void) => ReactNode;
}

/** A few words more at the place they belong to; made only when it is opened. */
export function Popover({ trigger, title, label, children }: PopoverProps) {
  return (
    <ChakraPopover.Root lazyMount unmountOnExit positioning={{ placement: "bottom-end" }}>
      <ChakraPopover.Trigger asChild>{trigger}</ChakraPopover.Trigger>
      <Portal>
        <ChakraPopover.Positioner>
          <ChakraPopover.Content aria-label={label}>
            <ChakraPopover.Body>
              {title && <ChakraPopover.Title>{title}</ChakraPopover.Title>}
              <ChakraPopover.Context>{(popover) => children(() => popover.setOpen(false))}</ChakraPopover.Context>
            </ChakraPopover.Body>
          </ChakraPopover.Content>
        </ChakraPopover.Positioner>
      </Portal>
    </ChakraPopover.Root>
  );
}

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
