/** What a popover is made of, from its first tap on. */
import { Popover as ChakraPopover, Portal } from "@chakra-ui/react";
import type { PopoverProps } from "./Popover";

export function PopoverFrame({ trigger, title, label, children }: PopoverProps) {
  return (
    <ChakraPopover.Root defaultOpen lazyMount unmountOnExit positioning={{ placement: "bottom-end" }}>
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
