import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { standInForRequest } from "../api/standIns.testing";

let transport: typeof import("./transport");
const reach = () => transport.reach();

/** Requests that are answered when and as the test says. */
let waiting: { answer: (status: number) => void; lose: () => void }[] = [];

beforeEach(async () => {
  waiting = [];
  vi.stubGlobal(
    "fetch",
    () =>
      new Promise<Response>((resolve, reject) => {
        waiting.push({
          answer: (status) => resolve(Response.json({ entries: [], message: `Status ${status}.` }, { status })),
          lose: () => reject(new TypeError("Failed to fetch")),
        });
      }),
  );
  // The client takes the network as it finds it.
  vi.resetModules();
  // Nor does it know of a page that its addresses are relative to.
  standInForRequest();
  transport = await import("./transport");
});

afterEach(() => vi.unstubAllGlobals());

/** Ask; the answer is the test's to give. */
async function ask() {
  const before = waiting.length;
  const asked = transport.fetchNews("home", 1).then(
    () => undefined,
    () => undefined,
  );
  // Not by a clock, which is the test's own where it is about time.
  while (waiting.length === before) await Promise.resolve();
  const { answer, lose } = waiting.at(-1) as (typeof waiting)[number];
  return {
    answered: (status: number) => (answer(status), asked),
    lost: () => (lose(), asked),
  };
}

describe("signed out", () => {
  it("stays so over an answer to what was asked before, so that the form is not taken away while it is filled in", async () => {
    const early = await ask();
    const late = await ask();
    await late.answered(401);
    expect(reach()).toBe("signed-out");
    await early.answered(200);
    expect(reach()).toBe("signed-out");
  });

  it("stays so while the server is slow or away", async () => {
    await (await ask()).answered(401);
    await (await ask()).answered(503);
    expect(reach()).toBe("signed-out");
    await (await ask()).lost();
    expect(reach()).toBe("signed-out");
  });

  it("is over when another tab has signed in", async () => {
    await (await ask()).answered(401);
    await (await ask()).answered(200);
    expect(reach()).toBe("ok");
  });
});

it("signed in again, a refusal of what was asked before asks nobody anew", async () => {
  const early = await ask();
  await (await ask()).answered(401);
  const later = await ask();
  transport.signedIn();
  await early.answered(401);
  await later.answered(401);
  expect(reach()).toBe("ok");
});

describe("a server that is only slow", () => {
  beforeEach(() => vi.useFakeTimers({ toFake: ["setTimeout", "clearTimeout"] }));
  afterEach(() => vi.useRealTimers());

  it("is called slow while its answer is waited for, and is there again with it", async () => {
    const late = await ask();
    vi.advanceTimersByTime(3_900);
    expect(reach()).toBe("ok");
    vi.advanceTimersByTime(200);
    expect(reach()).toBe("slow");
    await late.answered(200);
    expect(reach()).toBe("ok");
  });

  it("is called out of reach where no answer comes at all", async () => {
    const late = await ask();
    vi.advanceTimersByTime(4_100);
    await late.lost();
    expect(reach()).toBe("unreachable");
  });

  it("is not asked who is signed out over an answer that is late", async () => {
    const early = await ask();
    const late = await ask();
    await early.answered(401);
    vi.advanceTimersByTime(4_100);
    expect(reach()).toBe("signed-out");
    await late.answered(200);
    expect(reach()).toBe("signed-out");
  });
});
