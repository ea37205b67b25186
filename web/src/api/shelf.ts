/** Large files that a day without a network needs, where the service worker keeps them (vite.config.ts). */

const open = (shelf: string): Promise<Cache | undefined> =>
  globalThis.caches?.open(shelf).catch(() => undefined) ?? Promise.resolve(undefined);

/** Fetch what is not there yet; all of it is kept once this is done. Fails where one cannot be had or kept. A browser
 * that keeps nothing takes nothing along. */
export async function takeFiles(shelf: string, addresses: readonly string[]): Promise<void> {
  if (!("serviceWorker" in navigator) || !navigator.serviceWorker.controller) return;
  const kept = await caches.open(shelf);
  for (const address of addresses) if (!(await kept.match(address))) await kept.add(address);
}

/** Whether all of them are on this device, and what they weigh there, bytes. */
export async function filesHere(
  shelf: string,
  addresses: readonly string[],
): Promise<{ whole: boolean; bytes: number }> {
  const kept = await open(shelf);
  const blobs = await Promise.all(addresses.map(async (address) => (await kept?.match(address))?.blob()));
  return { whole: blobs.every(Boolean), bytes: blobs.reduce((sum, blob) => sum + (blob?.size ?? 0), 0) };
}

/** Let go of what is not wanted any more. */
export async function clearShelf(shelf: string, wanted: (pathname: string) => boolean): Promise<void> {
  const kept = await open(shelf);
  for (const request of (await kept?.keys()) ?? []) {
    if (!wanted(new URL(request.url).pathname)) await kept?.delete(request);
  }
}
