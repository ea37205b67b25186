/** What opens over the work and holds the focus until it is answered or left. */
import { Dialog as ChakraDialog, Drawer as ChakraDrawer, Portal } from "@chakra-ui/react";
import type { ReactNode, RefObject } from "react";
import { IconButton } from "./Button";

interface Props {
  title: ReactNode;
  /** What a screen reader calls it, where the title alone does not tell. */
  label?: string;
  /** Left out where it has to be answered. */
  close?: () => void;
  children: ReactNode;
  footer?: ReactNode;
  /** Where the focus goes first. */
  first?: RefObject<HTMLElement | null>;
  width?: string;
}

/** In the middle: a question to answer, something to write down. */
export function Dialog({ title, label, close, children, footer, first, width }: Props) {
  return (
    <ChakraDialog.Root
      open
      lazyMount
      onOpenChange={({ open }) => !open && close?.()}
      closeOnInteractOutside={!!close}
      closeOnEscape={!!close}
      initialFocusEl={first ? () => first.current : undefined}
    >
      <Portal>
        <ChakraDialog.Backdrop />
        <ChakraDialog.Positioner>
          <ChakraDialog.Content aria-label={label} maxWidth={width}>
            <ChakraDialog.Header>
              <ChakraDialog.Title>{title}</ChakraDialog.Title>
              {close && (
                <ChakraDialog.CloseTrigger asChild>
                  <IconButton icon="close" label="Close" />
                </ChakraDialog.CloseTrigger>
              )}
            </ChakraDialog.Header>
            <ChakraDialog.Body>{children}</ChakraDialog.Body>
            {footer && <ChakraDialog.Footer>{footer}</ChakraDialog.Footer>}
          </ChakraDialog.Content>
        </ChakraDialog.Positioner>
      </Portal>
    </ChakraDialog.Root>
  );
}

/** At the side: facts that go with what stays in sight. */
export function Drawer({ title, label, close, children, footer }: Props) {
  return (
    <ChakraDrawer.Root open lazyMount onOpenChange={({ open }) => !open && close?.()}>
      <Portal>
        <ChakraDrawer.Backdrop />
        <ChakraDrawer.Positioner>
          <ChakraDrawer.Content aria-label={label}>
            <ChakraDrawer.Header>
              <ChakraDrawer.Title>{title}</ChakraDrawer.Title>
              <ChakraDrawer.CloseTrigger asChild>
                <IconButton icon="close" label="Close" />
              </ChakraDrawer.CloseTrigger>
            </ChakraDrawer.Header>
            <ChakraDrawer.Body>{children}</ChakraDrawer.Body>
            {footer && <ChakraDrawer.Footer>{footer}</ChakraDrawer.Footer>}
          </ChakraDrawer.Content>
        </ChakraDrawer.Positioner>
      </Portal>
    </ChakraDrawer.Root>
  );
}
