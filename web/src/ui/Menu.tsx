/** A list of acts that opens at a button. */
import { Menu as ChakraMenu, Portal } from "@chakra-ui/react";
import type { ReactElement } from "react";

export interface Act {
  name: string;
  act: () => void;
  disabled?: boolean;
}

export interface MenuProps {
  trigger: ReactElement;
  acts: readonly Act[];
  label: string;
  /** It is open from the beginning: its button was pressed before it was there. */
  open?: boolean;
}

/** A list of acts behind one button. */
export function Menu({ trigger, acts, label, open }: MenuProps) {
  return (
    <ChakraMenu.Root defaultOpen={open} onSelect={({ value }) => acts.find((act) => act.name === value)?.act()}>
      <ChakraMenu.Trigger asChild>{trigger}</ChakraMenu.Trigger>
      <Portal>
        <ChakraMenu.Positioner>
          <ChakraMenu.Content aria-label={label}>
            {acts.map((act) => (
              <ChakraMenu.Item key={act.name} value={act.name} disabled={act.disabled}>
                {act.name}
              </ChakraMenu.Item>
            ))}
          </ChakraMenu.Content>
        </ChakraMenu.Positioner>
      </Portal>
    </ChakraMenu.Root>
  );
}
