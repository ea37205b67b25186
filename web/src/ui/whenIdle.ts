/** At the latest after so long, milliseconds. */
const LATEST = 2000;

/** Wait for a moment in which the page has nothing else to do. */
export const whenIdle = (): Promise<void> =>
  new Promise((done) => {
    // Not every browser tells.
    if (typeof requestIdleCallback === "undefined") setTimeout(done, 100);
    else requestIdleCallback(() => done(), { timeout: LATEST });
  });
