/** What is typed when the tablet is put to sleep, or the screen goes away, is kept as if the field had been left. */
import { useEffect, useRef } from "react";

/** leave: keeps what was typed, and does nothing where nothing was. */
export function useLeave(leave: () => void): void {
  const latest = useRef(leave);
  useEffect(() => {
    latest.current = leave;
  });
  useEffect(() => {
    const save = () => latest.current();
    window.addEventListener("pagehide", save);
    return () => {
      window.removeEventListener("pagehide", save);
      save();
    };
  }, []);
}
