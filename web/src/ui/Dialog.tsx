/** What opens over the work and holds the focus until it is answered or left. */
import { Dialog as ChakraDialog, Drawer as ChakraDrawer, Portal } from "@chakra-ui/react";
import { type ReactNode, type RefObject, useLayoutEffect } from "react";
import { IconButton } from "./Button";

/** What lies behind can be neither reached nor read while something is open over it. */
let open = 0;

function useAlone(): void {
  useLayoutEffect(() => {
    const behind = document.getElementById("root");
    const before = document.activeElement;
    open += 1;
    behind?.toggleAttribute("inert", true);
    return () => {
      // One can open over another: what lies behind both waits for the first.
      open -= 1;
      behind?.toggleAttribute("inert", open > 0);
      // Given back while it still lay behind, the focus was lost: on a slow tablet that comes about.
      requestAnimationFrame(() => {
        if (document.activeElement === document.body && before instanceof HTMLElement) before.focus();
      });
    };
  }, []);
}

interface Props {
  title: ReactNode;
  /** Left out where it has to be answered. */
  close?: () => void;
  children: ReactNode;
  footer?: ReactNode;
  /** Where the focus goes first. */
  first?: RefObject<HTMLElement | null>;
  width?: string;
  /** What lies behind is not to be read by whoever has the device now. */
  covers?: boolean;
}

/** In the middle: a question to answer, something to write down. */
export function Dialog({ title, close, children, footer, first, width, covers }: Props) {
  useAlone();
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
        <ChakraDialog.Backdrop bg={covers ? "paper" : undefined} />
        <ChakraDialog.Positioner>
          <ChakraDialog.Content maxWidth={width}>
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

/** At the side: facts that go with what stays in sight. leads: what is tapped in it leads to a figure, which keeps the focus. */
export function Drawer({ title, close, children, footer, leads }: Props & { leads?: boolean }) {
  useAlone();
  return (
    <ChakraDrawer.Root open lazyMount restoreFocus={!leads} onOpenChange={({ open }) => !open && close?.()}>
      <Portal>
        <ChakraDrawer.Backdrop />
        <ChakraDrawer.Positioner>
          <ChakraDrawer.Content>
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
