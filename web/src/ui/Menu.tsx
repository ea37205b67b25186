/** What opens at a button: a list of acts, a few words more, or a hint on what a drawing means. */
import { Menu as ChakraMenu, Popover as ChakraPopover, Tooltip as ChakraTooltip, Portal } from "@chakra-ui/react";
import type { ReactElement, ReactNode } from "react";

export interface Act {
  name: string;
  act: () => void;
  disabled?: boolean;
}

/** A list of acts behind one button. */
export function Menu({ trigger, acts, label }: { trigger: ReactElement; acts: readonly Act[]; label: string }) {
  return (
    <ChakraMenu.Root onSelect={({ value }) => acts.find((one) => one.name === value)?.act()}>
      <ChakraMenu.Trigger asChild>{trigger}</ChakraMenu.Trigger>
      <Portal>
        <ChakraMenu.Positioner>
          <ChakraMenu.Content aria-label={label}>
            {acts.map((one) => (
              <ChakraMenu.Item key={one.name} value={one.name} disabled={one.disabled}>
                {one.name}
              </ChakraMenu.Item>
            ))}
          </ChakraMenu.Content>
        </ChakraMenu.Positioner>
      </Portal>
    </ChakraMenu.Root>
  );
}

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
