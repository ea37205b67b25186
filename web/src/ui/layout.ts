/** Is the screen as narrow as a phone? */
import { useSyncExternalStore } from "react";

const query = window.matchMedia("(max-width: 760px)");

export function useNarrow(): boolean {
  return useSyncExternalStore(
    (listener) => {
      query.addEventListener("change", listener);
      return () => query.removeEventListener("change", listener);
    },
    () => query.matches,
  );
}
