/** The application on this device: kept by a service worker, told of when there is a newer one, and taken over by a tap.
 *
 * A page and everything that it fetches later are of one version, also without a network: a newer one waits until it is
 * asked for, or until the application was closed.
 */
import { create } from "zustand";
import { onEdition } from "./rulesEdition";

/** So often a page that stays open looks for a newer version, milliseconds. */
const LOOK = 30 * 60_000;

export const useUpdate = create<{ ready: boolean }>(() => ({ ready: false }));

let registration: ServiceWorkerRegistration | undefined;

export async function keepApplication(): Promise<void> {
  const kept = await navigator.serviceWorker.register("/sw.js").catch(() => undefined);
  if (!kept) return;
  registration = kept;
  const ready = () => navigator.serviceWorker.controller && useUpdate.setState({ ready: true });
  if (kept.waiting) ready();
  kept.addEventListener("updatefound", () => {
    const comes = kept.installing;
    comes?.addEventListener("statechange", () => comes.state === "installed" && ready());
  });
  const look = () => void kept.update().catch(() => undefined);
  setInterval(look, LOOK);
  // A server that judges by other rules has another application, too.
  onEdition(look);
}

/** Take the newer version: the page is loaded anew. What was entered is on the device. */
export function takeUpdate(): void {
  navigator.serviceWorker.addEventListener("controllerchange", () => window.location.reload(), { once: true });
  registration?.waiting?.postMessage({ type: "SKIP_WAITING" });
}

/** Ask the browser never to clear what this application keeps; true where it promises that. */
export async function askToStay(): Promise<boolean> {
  const storage = globalThis.navigator?.storage;
  if (!storage?.persist) return false;
  // A page that is being left is told nothing.
  return (await storage.persisted().catch(() => false)) || (await storage.persist().catch(() => false));
}

export interface Room {
  used: number;
  whole: number;
  /** The browser has promised not to clear it when room is short. */
  stays: boolean;
}

/** What is used here and how much there may be, bytes; nothing where the browser does not say. */
export async function room(): Promise<Room | null> {
  const storage = globalThis.navigator?.storage;
  if (!storage?.estimate) return null;
  const { usage = 0, quota = 0 } = await storage.estimate();
  return { used: usage, whole: quota, stays: (await storage.persisted?.()) ?? false };
}
