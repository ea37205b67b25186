/** What was just done, told in passing, with a way to take it back. */
import { createToaster, Portal, Toast, Toaster as ChakraToaster } from "@chakra-ui/react";

const toaster = createToaster({ placement: "bottom", pauseOnPageIdle: true, max: 3 });

/** Tell it; with `undo`, it can be taken back for as long as it stands (a quarter of a minute, longer while
 * it is read): whoever wears gloves and holds a torch is not hurried.
 *
 * instead: what was told under the same name gives way to it.
 */
export function show(said: string, undo?: () => void, instead?: string): void {
  if (instead && toaster.isVisible(instead)) toaster.remove(instead);
  toaster.create({
    ...(instead && { id: instead }),
    title: said,
    type: "info",
    duration: undo ? 15_000 : 8000,
    action: undo && { label: "Undo", onClick: undo },
  });
}

export function Toaster() {
  return (
    <Portal>
      <ChakraToaster toaster={toaster} insetInline={{ mdDown: "4" }}>
        {(toast) => (
          <Toast.Root width={{ md: "sm" }}>
            <Toast.Title>{toast.title}</Toast.Title>
            {toast.action && <Toast.ActionTrigger>{toast.action.label}</Toast.ActionTrigger>}
          </Toast.Root>
        )}
      </ChakraToaster>
    </Portal>
  );
}
