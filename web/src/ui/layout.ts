/** Is the screen as narrow as a phone? */
import { useSyncExternalStore } from "react";

const query = window.matchMedia("(max-width: 760px)");
/** Kept, since to ask the browser in the middle of drawing has it lay out the page first. */
let narrow = query.matches;
query.addEventListener("change", ({ matches }) => (narrow = matches));

export function useNarrow(): boolean {
  return useSyncExternalStore(
    (listener) => {
      query.addEventListener("change", listener);
      return () => query.removeEventListener("change", listener);
    },
    () => narrow,
  );
}
