/** Signing out, with or without a server: this device forgets at once, and the session ends as soon as the server can be
 * told. Until then nobody is signed in here, whatever the server would still say. */
import { api } from "./client";
import { forget } from "./forgotten";

const KEY = "dorrik.leaving";
/** So long the server may take before the device goes on by itself, and so often it is tried again, milliseconds. */
const PATIENCE = 1500;
const AGAIN = 10_000;

/** Somebody signed out here, and the server does not know it yet. */
export const isLeaving = (): boolean => localStorage.getItem(KEY) !== null;

// Signed out in one window is signed out in all.
globalThis.addEventListener?.("storage", ({ key, newValue }) => key === KEY && newValue && window.location.reload());

/** Tell the server; false where it could not be told. */
export async function endSession(): Promise<boolean> {
  try {
    const { response } = await api.DELETE("/api/session", { signal: AbortSignal.timeout(PATIENCE) });
    if (!response.ok) return false;
  } catch {
    return false;
  }
  localStorage.removeItem(KEY);
  return true;
}

/** Sign out: what could be looked at goes, then the session. What waits to be sent stays, under the name of who made it. */
export async function leave(): Promise<void> {
  localStorage.setItem(KEY, new Date().toISOString());
  // At once: what is on its way while the device clears up is not kept after it.
  forget();
  const { forgetAnswers } = await import("./kept");
  await forgetAnswers();
  await endSession();
}

/** Try until the server is told, then say so; returns what stops it. */
export function tellWhenReachable(told: () => void): () => void {
  const attempt = async () => {
    if (!isLeaving() || (await endSession())) {
      stop();
      told();
    }
  };
  const clock = setInterval(() => void attempt(), AGAIN);
  const online = () => void attempt();
  const stop = () => {
    clearInterval(clock);
    window.removeEventListener("online", online);
  };
  window.addEventListener("online", online);
  return stop;
}
