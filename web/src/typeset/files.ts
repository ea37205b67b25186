/** What the typesetter of a device needs: itself, the templates of the papers, and the fonts that ship with them. */
import compiler from "@myriaddreamin/typst-ts-web-compiler/wasm?url";
import renderer from "@myriaddreamin/typst-ts-renderer/wasm?url";

export { compiler, renderer };

/** By their addresses. */
export const fonts = Object.values(
  import.meta.glob<string>("../../../dorrik/report/fonts/*.ttf", { query: "?url", import: "default", eager: true }),
);

/** Where the service worker keeps them (vite.config.ts). */
export const SHELF = "typesetter";

const all = [compiler, renderer, ...fonts];

/** Fetched once, and kept by the service worker from then on. Fails where one cannot be had. */
export async function takeTypesetterAlong(): Promise<void> {
  if (!("serviceWorker" in navigator) || !navigator.serviceWorker.controller) return;
  if ((await typesetterHere()).whole) return;
  for (const address of all) {
    const response = await fetch(address);
    if (!response.ok) throw new Error(`${address} cannot be had (${response.status}).`);
    await response.arrayBuffer();
  }
}

/** Whether all of it is on this device, and what it weighs there, bytes. */
export async function typesetterHere(): Promise<{ whole: boolean; bytes: number }> {
  const shelf = await globalThis.caches?.open(SHELF).catch(() => undefined);
  const kept = await Promise.all(all.map(async (address) => (await shelf?.match(address))?.blob()));
  return { whole: kept.every(Boolean), bytes: kept.reduce((sum, blob) => sum + (blob?.size ?? 0), 0) };
}
