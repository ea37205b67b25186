/** When the rules are begun on this device: after the first screen, once the service worker can keep what they need. */
import { areOff } from "./off";

/** The first screen is drawn and the person looks at it: so long after it, milliseconds. */
const CALM = 1500;

let begun = false;

/** Begin in the background, once. A browser that keeps nothing asks the server, as ever. */
export function startSoon(): void {
  if (begun || areOff() || !("serviceWorker" in navigator) || typeof WebAssembly === "undefined") return;
  begun = true;
  const begin = () =>
    setTimeout(
      () =>
        void import("./device").then(
          ({ startRules }) => startRules(),
          () => undefined,
        ),
      CALM,
    );
  if (navigator.serviceWorker.controller) begin();
  else navigator.serviceWorker.addEventListener("controllerchange", begin, { once: true });
}
