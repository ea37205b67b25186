import { startTransition, useEffect, useState } from "react";

/** What follows a moment later: as it was until the frame that shows what comes first is on the screen. */
export function useAfterPaint<T>(value: T): T {
  const [later, setLater] = useState(value);
  useEffect(() => {
    if (Object.is(later, value)) return;
    let task: ReturnType<typeof setTimeout> | undefined;
    const frame = requestAnimationFrame(() => {
      // A frame is drawn after its callbacks: the next task comes after that.
      task = setTimeout(() => startTransition(() => setLater(() => value)));
    });
    return () => {
      cancelAnimationFrame(frame);
      clearTimeout(task);
    };
  }, [later, value]);
  return later;
}
