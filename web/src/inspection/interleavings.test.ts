import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import {
  anewForEach,
  anotherServer,
  model,
  onDevice,
  outbox,
  waiting,
  place,
  RUTH,
  server,
  soon,
  start,
  sync,
} from "./tablet.testing";

anewForEach();

describe("any order of entering, losing the server and beginning anew", () => {
  /** Numbers of a test, the same each time. */
  function chance(seed: number): () => number {
    let state = seed;
    return () => (state = (Math.imul(state, 48_271) >>> 0) % 2_147_483_647) / 2_147_483_647;
  }

  const slipsLeft = () =>
    Array.from({ length: localStorage.length }, (_, at) => localStorage.key(at)).filter((k) => k?.includes("slip"))
      .length;

  /** A device that takes this long to seal an entry, milliseconds. */
  let sealing = 0;
  beforeEach(() => {
    const encrypt = crypto.subtle.encrypt.bind(crypto.subtle);
    vi.spyOn(crypto.subtle, "encrypt").mockImplementation(async (...given) => {
      if (sealing) await new Promise((done) => setTimeout(done, sealing));
      return encrypt(...given);
    });
  });
  afterEach(() => void vi.restoreAllMocks());

  it.each([0, 30])(
    "loses nothing, keeps nothing twice, and keeps the order: %i ms to seal",
    async (slowly) => {
      sealing = slowly;
      for (let seed = 1; seed <= 12; seed++) {
        const random = chance(seed * 104_729);
        anotherServer();
        await start();
        const id = sync.begin(RUTH, {});
        const entered: unknown[] = [];
        const fields = ["condition", "extent", "client_name"] as const;
        for (let step = 0; step < 25; step++) {
          const drawn = random();
          if (drawn < 0.6) {
            const value = `${String(seed)}.${String(step)}`;
            sync.setField(place(fields[Math.floor(random() * fields.length)]!), value);
            entered.push(value);
          } else if (drawn < 0.7) server.down = !server.down;
          else if (drawn < 0.8) server.lost = !server.lost;
          else if (drawn < 0.9) await new Promise((done) => setTimeout(done, 20 * random()));
          else {
            // The page goes and begins anew. Here the one before would go on, which it does not: so it has kept what it had.
            await soon(() => expect(slipsLeft()).toBe(0));
            sync.leave();
            outbox.close();
            await start();
            await sync.load(id, RUTH);
            // What had arrived and was not kept here yet is shown once the server is back.
            if (!sync.useInspection.getState().model) {
              server.down = false;
              await sync.load(id, RUTH);
            }
          }
        }
        server.down = false;
        server.lost = false;
        outbox.wake();
        await vi.waitFor(() => expect(waiting.changesOf(id)).toEqual([]), { timeout: 15_000 });
        const values = server.kept
          .filter((c) => fields.includes(c.field as (typeof fields)[number]))
          .map((c) => c.value);
        expect(values).toEqual(entered);
        expect(new Set(server.kept.map((c) => c.id)).size).toBe(server.kept.length);
        // Read anew at once: what has just been acknowledged is not laid on top again.
        await sync.load(id, RUTH);
        for (const field of fields) {
          const last = server.kept.findLast((c) => c.field === field)?.value;
          expect(model().entities[id]?.values[field]).toBe(last);
        }
        // The server may have an entry before the device has finished keeping it: only then is it let go here.
        await soon(() => expect(slipsLeft()).toBe(0));
        await soon(async () => expect(await onDevice()).toEqual([]));
        sync.leave();
        outbox.close();
      }
    },
    120_000,
  );
});
