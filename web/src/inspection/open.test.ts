import "fake-indexeddb/auto";
import Dexie from "dexie";
import { IDBFactory } from "fake-indexeddb";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { FieldOf, Change } from "./types";

const RUTH = { id: "ruth", firm_id: "firm" };
const IDRIS = { id: "idris", firm_id: "firm" };

/** A server that keeps changes as ours does, and can be told to misbehave. */
class FakeServer {
  kept: Change[] = [];
  batches: Change[][] = [];
  photos: string[] = [];
  judged = false;
  status: number | ((changes: Change[]) => number) = 200;
  down = false;
  /** It keeps what is sent, and its answer is lost. */
  lost = false;
  /** How often it looked for the whole, and what that answer then waits for on its way. */
  looked = 0;
  slow: Promise<void> | null = null;
  /** What a batch waits for before it is kept. */
  busy: Promise<void> | null = null;

  fetch = async (request: Request): Promise<Response> => {
    if (this.down) throw new TypeError("Failed to fetch");
    const answer = (body: unknown, status = 200) => Response.json(body, { status });
    if (request.method === "GET" && request.url.includes("/changes")) {
      const since = Number(new URL(request.url).searchParams.get("since"));
      const entries = this.kept.slice(since).map((c, n) => ({ ...c, seq: since + n + 1, author_id: "ruth" }));
      return answer({ seq: this.kept.length, entries, judgement: null });
    }
    if (request.method === "GET") {
      const found = this.whole(answer);
      this.looked++;
      await this.slow;
      return found;
    }
    if (request.method === "PUT") {
      if (this.status !== 200) return answer({ code: "x", message: `Status ${String(this.status)}.` }, 413);
      this.photos.push(request.url.split("/").at(-1) ?? "");
      return new Response(null, { status: 204 });
    }
    const { changes } = (await request.json()) as { changes: Change[] };
    await this.busy;
    const status = typeof this.status === "function" ? this.status(changes) : this.status;
    if (status !== 200) return answer({ code: "x", message: `Status ${status}.`, fields: [] }, status);
    this.batches.push(changes);
    const results = changes.map((c) => {
      const refused = c.value === "1..4";
      const again = this.kept.findIndex((k) => k.id === c.id);
      if (!refused && again < 0) this.kept.push(c);
      const state = refused ? "refused" : again < 0 ? "kept" : "already";
      return {
        id: c.id,
        state,
        seq: refused ? null : again < 0 ? this.kept.length : again + 1,
        reason: refused ? "No figure." : null,
        overtook: null,
      };
    });
    if (this.lost) throw new TypeError("Failed to fetch");
    return answer({ seq: this.kept.length, results, judgement: this.judged ? { notes: [] } : null });
  };

  private whole(answer: (body: unknown, status?: number) => Response): Response {
    if (!this.kept.length)
      return answer({ code: "not-found", message: "There is no such inspection.", fields: [] }, 404);
    const values = Object.fromEntries(this.kept.filter((c) => c.field !== "firm").map((c) => [c.field, c.value]));
    const id = this.kept[0]?.entity_id;
    return answer({
      id,
      seq: this.kept.length,
      may: ["write"],
      entities: [{ kind: "inspection", id, parent_id: "firm", values }],
      judgement: this.judged ? { notes: [] } : null,
    });
  }
}

let server: FakeServer;
let tablet = { on: true };
let sync: typeof import("./open");
let device: typeof import("./device");
let outbox: typeof import("./outbox");
let transport: typeof import("./transport");
let lastOpened: typeof import("./lastOpened");

/** Switch the tablet on: fresh modules, the same device database. */
async function start(): Promise<void> {
  // The one that was on before is off: whatever it still tries reaches nobody.
  tablet.on = false;
  const mine = { on: true };
  tablet = mine;
  vi.stubGlobal("fetch", (request: Request) => (mine.on ? server.fetch(request) : new Promise(() => undefined)));
  // What was open before asks the server no more.
  (sync as typeof sync | undefined)?.leave();
  (outbox as typeof outbox | undefined)?.close();
  vi.resetModules();
  sync = await import("./open");
  device = await import("./device");
  outbox = await import("./outbox");
  transport = await import("./transport");
  lastOpened = await import("./lastOpened");
  // As the page does it before anything can be typed.
  await (await import("../api/vault")).openVault();
}

const model = () => sync.useInspection.getState().model!;
const place = (field: FieldOf<"inspection">) => ({ kind: "inspection" as const, id: model().id, field });
/** Wait until it holds; a busy machine may take a while. */
const soon = (holds: () => unknown) => vi.waitFor(holds, { timeout: 4000 });
const onDevice = () => device.pendings.all();
const settled = () =>
  vi.waitFor(() => expect(model().pending.filter((p) => !p.refused)).toEqual([]), { timeout: 4000 });

beforeEach(async () => {
  const store = new Map<string, string>();
  vi.stubGlobal("localStorage", {
    getItem: (k: string) => store.get(k) ?? null,
    setItem: (k: string, v: string) => store.set(k, v),
    removeItem: (k: string) => store.delete(k),
    key: (at: number) => [...store.keys()][at] ?? null,
    get length() {
      return store.size;
    },
  });
  const quiet = { addEventListener: () => undefined, removeEventListener: () => undefined };
  vi.stubGlobal("document", { visibilityState: "hidden", ...quiet });
  vi.stubGlobal("window", quiet);
  server = new FakeServer();
  vi.stubGlobal(
    "Request",
    class extends Request {
      constructor(input: string | URL | Request, init?: RequestInit) {
        super(typeof input === "string" && input.startsWith("/") ? `http://test${input}` : input, init);
      }
    },
  );
  // Databases of its own: what a test before it is still at keeping goes nowhere.
  Dexie.dependencies.indexedDB = new IDBFactory();
  await start();
});

afterEach(() => {
  sync.leave();
  // Nor does what it was at sending go on in the world of another test.
  outbox.close();
  vi.unstubAllGlobals();
});

describe("an entry on its way", () => {
  it("is shown at once, kept on the device, and let go when the server has it", async () => {
    sync.begin(RUTH, { reference: "K-1" });
    expect(model().entities[model().id]?.values.reference).toBe("K-1");
    await settled();
    expect(server.kept.map((c) => c.field)).toEqual(["firm", "reference"]);
    await soon(async () => expect(await onDevice()).toEqual([]));
  });

  it("keeps the order in which things were entered", async () => {
    sync.begin(RUTH, {});
    for (let n = 0; n < 30; n++) sync.setField(place("condition"), `entry ${n}`);
    await settled();
    expect(server.kept.slice(1).map((c) => c.value)).toEqual(Array.from({ length: 30 }, (_, n) => `entry ${n}`));
  });

  it("can be waited for, and is said not to have come where there is no server", async () => {
    sync.begin(RUTH, { reference: "K-1" });
    expect(await sync.settled()).toBe(true);
    expect(server.kept).toHaveLength(2);
    server.down = true;
    sync.setField(place("reference"), "K-2");
    expect(await sync.settled(200)).toBe(false);
  });

  it("that moves a circuit is undone by moving it back", async () => {
    sync.begin(RUTH, {});
    const [one, other] = [sync.add("board", model().id, {}), sync.add("board", model().id, {})];
    const circuit = sync.add("circuit", one, { way: "1" });
    const board = { kind: "circuit" as const, id: circuit, field: "board" as const };
    sync.setField(board, one);
    expect(model().pending.filter((p) => p.change.field === "board" && p.change.entity_id === circuit)).toHaveLength(1);
    sync.setField(board, other);
    expect(model().entities[circuit]?.parentId).toBe(other);
    expect(sync.undo()).toBeNull();
    expect(model().entities[circuit]?.parentId).toBe(one);
    await settled();
  });

  it("that changes nothing is not sent", async () => {
    sync.begin(RUTH, { reference: "K-1" });
    await settled();
    sync.setField(place("reference"), "K-1");
    expect(model().pending).toEqual([]);
  });

  it("that is refused stays on the device with its reason, and gives way to its correction", async () => {
    sync.begin(RUTH, {});
    sync.setField(place("ze_ohm"), "1..4");
    await settled();
    expect(model().pending.map((p) => p.refused)).toEqual(["No figure."]);
    await soon(async () => expect((await onDevice()).map((p) => p.refused)).toEqual(["No figure."]));
    sync.setField(place("ze_ohm"), "1.4");
    await settled();
    expect(model().pending).toEqual([]);
    await soon(async () => expect(await onDevice()).toEqual([]));
  });

  it("too long to be sent is set aside at once and holds up nothing", async () => {
    sync.begin(RUTH, {});
    sync.setField(place("extent"), "x".repeat(200_000));
    sync.setField(place("condition"), "Worn");
    await settled();
    expect(model().pending[0]?.refused).toContain("cannot be sent");
    expect(server.kept.map((c) => c.field)).toEqual(["firm", "condition"]);
  });
});

describe("a device that is slow to keep", () => {
  /** From here on the device's database answers nothing more, as when the page goes in the middle of it. */
  const stuck = () => {
    device.pendings.add = () => new Promise(() => undefined);
  };

  it("holds up nothing: what was entered is on its way", async () => {
    sync.begin(RUTH, {});
    await settled();
    stuck();
    sync.setField(place("condition"), "Worn");
    await soon(() => expect(server.kept.at(-1)?.value).toBe("Worn"));
  });

  it("loses nothing when the page goes meanwhile", async () => {
    const id = sync.begin(RUTH, {});
    await settled();
    stuck();
    server.down = true;
    sync.setField(place("condition"), "Worn");
    sync.setField(place("extent"), "All");
    await start();
    server.down = false;
    let free = () => {};
    server.busy = new Promise<void>((done) => (free = done));
    await sync.load(id, RUTH);
    expect(model().entities[id]?.values).toMatchObject({ condition: "Worn", extent: "All" });
    // The database has them now, and the server once it answers; in the order in which they were entered.
    const here = async () => (await onDevice()).map((p) => p.change.value);
    await soon(async () => expect(await here()).toEqual(expect.arrayContaining(["Worn", "All"])));
    free();
    await settled();
    expect(server.kept.slice(-2).map((c) => c.value)).toEqual(["Worn", "All"]);
    await soon(async () => expect(await onDevice()).toEqual([]));
    // Nothing is left of the slips: the next start finds nothing to send.
    const batches = server.batches.length;
    await start();
    await sync.load(id, RUTH);
    await new Promise((done) => setTimeout(done, 100));
    expect(server.batches.length).toBe(batches);
  });

  it("does not bring back what was refused over its correction", async () => {
    const id = sync.begin(RUTH, {});
    await settled();
    stuck();
    sync.setField(place("ze_ohm"), "1..4");
    await soon(() => expect(model().pending.map((p) => p.refused)).toEqual(["No figure."]));
    server.down = true;
    sync.setField(place("ze_ohm"), "1.4");
    await start();
    server.down = false;
    await sync.load(id, RUTH);
    await settled();
    expect(model().pending).toEqual([]);
    expect(model().entities[id]?.values.ze_ohm).toBe("1.4");
    expect(server.kept.at(-1)?.value).toBe("1.4");
    await soon(async () => expect(await onDevice()).toEqual([]));
  });

  it("is waited for where an entry is too long for a slip", async () => {
    sync.begin(RUTH, {});
    await settled();
    stuck();
    sync.setField(place("extent"), "x".repeat(30_000));
    await new Promise((done) => setTimeout(done, 100));
    expect(server.kept.at(-1)?.field).toBe("firm");
  });
});

describe("trouble on the line", () => {
  it("makes entries wait, and they go when it is over", async () => {
    sync.begin(RUTH, {});
    await settled();
    server.down = true;
    sync.setField(place("condition"), "Worn");
    await soon(() => expect(transport.reach()).toBe("unreachable"));
    expect(model().pending).toHaveLength(1);
    server.down = false;
    await settled();
    expect(transport.reach()).toBe("ok");
  });

  it("and a battery that dies meanwhile lose nothing", async () => {
    const id = sync.begin(RUTH, {});
    await settled();
    server.down = true;
    sync.setField(place("condition"), "Worn");
    await soon(async () => expect(await onDevice()).toHaveLength(1));
    await start();
    server.down = false;
    await sync.load(id, RUTH);
    expect(model().entities[id]?.values.condition).toBe("Worn");
    await settled();
    expect(server.kept.at(-1)?.value).toBe("Worn");
  });

  it("on an answer that was lost resends without doubling", async () => {
    sync.begin(RUTH, {});
    await settled();
    const honest = server.fetch;
    server.fetch = async (request) => {
      await honest(request);
      server.fetch = honest;
      throw new TypeError("The answer was lost");
    };
    sync.setField(place("condition"), "Worn");
    await settled();
    // A tablet of an earlier test that was switched off may still be trying: only this inspection counts.
    expect(server.kept.filter((c) => c.value === "Worn" && c.entity_id === model().id)).toHaveLength(1);
  });

  it("as an ended session asks for signing in and sends nothing until then", async () => {
    sync.begin(RUTH, {});
    await settled();
    server.status = 401;
    sync.setField(place("condition"), "Worn");
    await soon(() => expect(transport.reach()).toBe("signed-out"));
    server.status = 200;
    sync.setField(place("extent"), "All");
    expect(server.kept).toHaveLength(1);
    sync.resume();
    await settled();
    expect(server.kept.map((c) => c.value)).toEqual(["firm", "Worn", "All"]);
  });

  it("over one entry sets that aside after three failures and lets the rest go on", async () => {
    sync.begin(RUTH, {});
    await settled();
    server.status = (changes) => (changes.some((c) => c.value === "poison") ? 500 : 200);
    sync.setField(place("condition"), "poison");
    sync.setField(place("extent"), "All");
    await vi.waitFor(() => expect(server.kept.map((c) => c.value)).toEqual(["firm", "All"]), { timeout: 12_000 });
    // The server has it a moment before its answer is taken in here.
    await vi.waitFor(() => expect(model().pending.map((p) => p.change.value)).toEqual(["poison"]));
    expect(model().pending[0]?.refused).toContain("The rest goes on");
  }, 15_000);
});

describe("several inspections on one device", () => {
  it("one that the server will take nothing for holds up no other, and is said where it is open", async () => {
    const barred = sync.begin(RUTH, {});
    server.status = (changes) => (changes[0]?.entity_id === barred ? 403 : 200);
    sync.setField(place("condition"), "Kept here");
    await soon(() => expect(outbox.useOutbox.getState().barred[barred]).toContain("kept on this device"));
    const other = sync.begin(RUTH, { reference: "K-2" });
    await soon(() => expect(server.kept.map((c) => c.entity_id)).toEqual([other, other]));
    expect((await onDevice()).filter((p) => p.inspectionId === barred)).not.toEqual([]);
  });

  it("what waits of one that is not open goes all the same", async () => {
    const first = sync.begin(RUTH, {});
    await settled();
    server.down = true;
    sync.setField(place("condition"), "Worn");
    await soon(async () => expect(await onDevice()).toHaveLength(1));
    sync.begin(RUTH, {});
    server.down = false;
    outbox.wake();
    await soon(() => expect(server.kept.find((c) => c.entity_id === first && c.value === "Worn")).toBeTruthy());
  });
});

describe("an answer that was overtaken on its way", () => {
  /** Hold back batches, and what the server says of the whole once it has looked; returns what lets each go. */
  function held(): { keep: () => void; tell: () => void } {
    const go = { keep: (): void => undefined, tell: (): void => undefined };
    server.busy = new Promise((done) => (go.keep = done));
    server.slow = new Promise((done) => (go.tell = done));
    return go;
  }

  /** Load; the server looks, then keeps what waited, and its answer of before comes last. */
  async function overtaken(id: string, meanwhile: () => void = () => undefined): Promise<void> {
    const go = held();
    const looked = server.looked;
    const loading = sync.load(id, RUTH);
    await soon(() => expect(server.looked).toBeGreaterThan(looked));
    meanwhile();
    go.keep();
    await soon(() => expect(outbox.changesOf(id)).toEqual([]));
    go.tell();
    await loading;
  }

  it("takes nothing back that was entered and kept meanwhile", async () => {
    server.judged = true;
    const id = sync.begin(RUTH, { reference: "K-1" });
    await settled();
    await overtaken(id, () => sync.setField(place("condition"), "Worn"));
    expect(model().entities[id]?.values).toMatchObject({ reference: "K-1", condition: "Worn" });
  });

  it("shows what waited here and arrived after the server had looked", async () => {
    const id = sync.begin(RUTH, { reference: "K-1" });
    await settled();
    server.down = true;
    sync.setField(place("condition"), "Worn");
    await soon(async () => expect(await onDevice()).toHaveLength(1));
    server.down = false;
    await start();
    await overtaken(id);
    expect(model().entities[id]?.values).toMatchObject({ reference: "K-1", condition: "Worn" });
  });

  it("does not say that there is no such inspection when it has just been made", async () => {
    server.down = true;
    const id = sync.begin(RUTH, { reference: "K-1" });
    await soon(async () => expect(await onDevice()).toHaveLength(2));
    server.down = false;
    await start();
    await overtaken(id);
    expect(sync.useInspection.getState().error).toBeNull();
    expect(model().entities[id]?.values.reference).toBe("K-1");
  });
});

describe("without a server", () => {
  it("an inspection opens as it was open here last, with what was typed since on top", async () => {
    const id = sync.begin(RUTH, { reference: "K-1" });
    await settled();
    server.judged = true;
    await start();
    await sync.load(id, RUTH);
    await soon(async () => expect(await lastOpened.opened(RUTH.id, id)).toBeTruthy());
    const at = (await lastOpened.opened(RUTH.id, id))?.at;
    server.down = true;
    sync.setField(place("condition"), "Worn");
    await soon(async () => expect(await onDevice()).toHaveLength(1));
    await start();
    await sync.load(id, RUTH);
    expect(model().entities[id]?.values).toMatchObject({ reference: "K-1", condition: "Worn" });
    expect(sync.useInspection.getState().asOf).toBe(at);
    // What is kept says when the server last spoke, not when it was looked at without it.
    sync.setField(place("extent"), "All");
    await new Promise((done) => setTimeout(done, 1200));
    expect((await lastOpened.opened(RUTH.id, id))?.at).toBe(at);
    // Nobody else is shown it.
    await start();
    await sync.load(id, IDRIS);
    expect(sync.useInspection.getState().model).toBeNull();
    expect(sync.useInspection.getState().error).toContain("cannot be reached");
  });
});

describe("photos", () => {
  const photo = { sha256: "ab".repeat(32), content: new Uint8Array(4) };

  it("wait for their inspection, then go, and are let go", async () => {
    server.down = true;
    const inspectionId = sync.begin(RUTH, {});
    await outbox.putPhoto({ ...photo, inspectionId });
    server.down = false;
    outbox.wake();
    await soon(() => expect(server.photos).toEqual([photo.sha256]));
    expect(server.kept).not.toEqual([]);
    await soon(async () => expect(await device.photoStore.all()).toEqual([]));
    expect(outbox.waiting(outbox.useOutbox.getState())).toBe(0);
  });

  it("that the server will not have stay, with its reason, and hold up nothing", async () => {
    const inspectionId = sync.begin(RUTH, {});
    await settled();
    server.status = 413;
    await outbox.putPhoto({ ...photo, inspectionId });
    await soon(() => expect(outbox.useOutbox.getState().photos[photo.sha256]).toContain("413"));
    expect((await device.photoStore.all())[0]?.refused).toContain("413");
    server.status = 200;
    sync.setField(place("condition"), "Worn");
    await settled();
  });
});

describe("a tablet in other hands", () => {
  it("does not send one person's entries under another's name", async () => {
    const id = sync.begin(RUTH, {});
    await settled();
    server.down = true;
    sync.setField(place("condition"), "Ruth's");
    await soon(async () => expect(await onDevice()).toHaveLength(1));
    await start();
    server.down = false;
    await sync.load(id, IDRIS);
    expect(model().pending).toEqual([]);
    expect(server.kept).toHaveLength(1);
    expect(await onDevice()).toHaveLength(1);
    // Back in her hands it goes, whichever screen is open.
    await outbox.open(RUTH.id);
    await soon(() => expect(server.kept.at(-1)?.value).toBe("Ruth's"));
    await soon(async () => expect(await onDevice()).toEqual([]));
  });
});

describe("undo", () => {
  it("puts back what stood before, entry by entry", async () => {
    sync.begin(RUTH, {});
    sync.setField(place("condition"), "one");
    sync.setField(place("condition"), "two");
    expect(sync.undo()).toEqual(place("condition"));
    expect(model().entities[model().id]?.values.condition).toBe("one");
    sync.undo();
    expect(model().entities[model().id]?.values.condition).toBeNull();
    expect(sync.undo()).toBeNull();
    await settled();
    expect(server.kept.slice(1).map((c) => c.value)).toEqual(["one", "two", "one", null]);
  });
});

describe("any order of entering, losing the server and beginning anew", () => {
  /** Numbers of a test, the same each time. */
  function chance(seed: number): () => number {
    let state = seed;
    return () => (state = (Math.imul(state, 48_271) >>> 0) % 2_147_483_647) / 2_147_483_647;
  }

  const slipsLeft = () =>
    Array.from({ length: localStorage.length }, (_, at) => localStorage.key(at)).filter((k) => k?.includes("slip"))
      .length;

  it("loses nothing, keeps nothing twice, and keeps the order", async () => {
    for (let seed = 1; seed <= 12; seed++) {
      const random = chance(seed * 104_729);
      server = new FakeServer();
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
      await vi.waitFor(() => expect(outbox.changesOf(id)).toEqual([]), { timeout: 15_000 });
      const values = server.kept.filter((c) => fields.includes(c.field as (typeof fields)[number])).map((c) => c.value);
      expect(values).toEqual(entered);
      expect(new Set(server.kept.map((c) => c.id)).size).toBe(server.kept.length);
      // Read anew at once: what has just been acknowledged is not laid on top again.
      await sync.load(id, RUTH);
      for (const field of fields) {
        const last = server.kept.findLast((c) => c.field === field)?.value;
        expect(model().entities[id]?.values[field]).toBe(last);
      }
      await soon(async () => expect(await onDevice()).toEqual([]));
      sync.leave();
      outbox.close();
    }
  }, 120_000);
});
