/** For tests: a tablet with its own database before a server that can be told to misbehave. */
import "fake-indexeddb/auto";
import Dexie from "dexie";
import { IDBFactory } from "fake-indexeddb";
import { afterEach, beforeEach, expect, vi } from "vitest";
import type { FieldOf, Change } from "./types";
import { standInForRequest, standInForStorage } from "../api/standIns.testing";

export const RUTH = { id: "ruth", firm_id: "firm" };
export const IDRIS = { id: "idris", firm_id: "firm" };

/** A server that keeps changes as ours does, and can be told to misbehave. */
export class FakeServer {
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
  /** The number of the latest issue of the report: what was entered before it is asked about. */
  issued = 0;
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
      const whole = this.whole(answer);
      this.looked++;
      await this.slow;
      return whole;
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
      const waits = (c.issue ?? 0) < this.issued;
      const refused = waits || c.value === "1..4";
      const again = this.kept.findIndex((k) => k.id === c.id);
      if (!refused && again < 0) this.kept.push(c);
      const state = refused ? "refused" : again < 0 ? "kept" : "already";
      return {
        id: c.id,
        state,
        seq: refused ? null : again < 0 ? this.kept.length : again + 1,
        reason: waits ? "Signed before it arrived." : refused ? "No figure." : null,
        waits,
        overtook: null,
      };
    });
    if (this.lost) throw new TypeError("Failed to fetch");
    return answer({
      seq: this.kept.length,
      issue: this.issued,
      results,
      judgement: this.judged ? { notes: [] } : null,
    });
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

export let server: FakeServer;
let tablet = { on: true };
export let sync: typeof import("./open");
export let device: typeof import("./device");
export let outbox: typeof import("./outbox");
export let waiting: typeof import("./waiting");
export let transport: typeof import("./transport");
export let lastOpened: typeof import("./lastOpened");

/** Another server in its place, which has nothing yet. */
export const anotherServer = (): FakeServer => (server = new FakeServer());

/** Switch the tablet on: fresh modules, the same device database. */
export async function start(): Promise<void> {
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
  waiting = await import("./waiting");
  transport = await import("./transport");
  lastOpened = await import("./lastOpened");
  // As the page does it before anything can be typed.
  await (await import("../api/vault")).openVault();
}

export const model = () => sync.useInspection.getState().model!;
export const place = (field: FieldOf<"inspection">) => ({ kind: "inspection" as const, id: model().id, field });
/** Wait until it holds; a busy machine may take a while. */
export const soon = (holds: () => unknown) => vi.waitFor(holds, { timeout: 4000 });
export const onDevice = () => device.pendings.all();
export const settled = () =>
  vi.waitFor(() => expect(model().pending.filter((p) => !p.refused)).toEqual([]), { timeout: 4000 });

/** Each test has a server and a tablet of its own. */
export function anewForEach(): void {
  beforeEach(async () => {
    standInForStorage();
    const quiet = { addEventListener: () => undefined, removeEventListener: () => undefined };
    vi.stubGlobal("document", { visibilityState: "hidden", ...quiet });
    vi.stubGlobal("window", quiet);
    server = new FakeServer();
    standInForRequest();
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
}
