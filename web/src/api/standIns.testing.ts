/** For tests without a browser: what of it the modules reach for. `vi.unstubAllGlobals` takes them away again. */
import { vi } from "vitest";

/** A `localStorage` of its own, empty; returns what lies in it. */
export function standInForStorage(): Map<string, string> {
  const store = new Map<string, string>();
  vi.stubGlobal("localStorage", {
    getItem: (k: string) => store.get(k) ?? null,
    setItem: (k: string, v: string) => store.set(k, v),
    removeItem: (k: string) => store.delete(k),
    clear: () => store.clear(),
    key: (at: number) => [...store.keys()][at] ?? null,
    get length() {
      return store.size;
    },
  });
  return store;
}

/** A `Request` that takes addresses of our own server, as a page does. */
export function standInForRequest(): void {
  vi.stubGlobal(
    "Request",
    class extends Request {
      constructor(input: string | URL | Request, init?: RequestInit) {
        super(typeof input === "string" && input.startsWith("/") ? `http://test${input}` : input, init);
      }
    },
  );
}
