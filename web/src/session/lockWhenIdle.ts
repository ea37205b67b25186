/** Where there is a PIN, a device that was put away asks for it again. */
import { lock } from "../api/vault";

/** So long out of sight, or in sight and not touched, milliseconds. */
const AWAY = 5 * 60_000;
const UNTOUCHED = 20 * 60_000;

/** Watch from now on; before: what is done with what was typed and not left yet. Returns what ends it. */
export function lockWhenIdle(before: () => void): () => void {
  let hidden = 0;
  let touched = Date.now();
  const locked = () => {
    before();
    lock();
  };
  const seen = () => {
    if (document.visibilityState === "hidden") hidden = Date.now();
    else if (hidden && Date.now() - hidden > AWAY) locked();
  };
  const touch = () => (touched = Date.now());
  const clock = setInterval(() => {
    if (document.visibilityState === "visible" && Date.now() - touched > UNTOUCHED) locked();
  }, 30_000);
  document.addEventListener("visibilitychange", seen);
  document.addEventListener("pointerdown", touch, { passive: true });
  document.addEventListener("keydown", touch, { passive: true });
  return () => {
    clearInterval(clock);
    document.removeEventListener("visibilitychange", seen);
    document.removeEventListener("pointerdown", touch);
    document.removeEventListener("keydown", touch);
  };
}
