import "fake-indexeddb/auto";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Asked } from "../judge/messages";
import { standInForRequest, standInForStorage } from "../api/standIns.testing";

/** A thread with rules that say how often each field was entered, and can be told to fail. */
class FakeWorker {
  static all: FakeWorker[] = [];
  static mood: "well" | "dies" | "no start" | "slow" | "broken" | "stumbles" = "well";
  onmessage: (event: { data: unknown }) => void = () => undefined;
  onerror: (event: { message: string }) => void = () => undefined;
  asked: { what: string; data: Record<string, unknown> }[] = [];
  entered: string[] = [];

  constructor() {
    FakeWorker.all.push(this);
  }

  postMessage(message: Asked): void {
    const tell = (told: object) =>
      queueMicrotask(() => this.onmessage({ data: { n: message.n, took: 1, heap: 5, ...told } }));
    if ("start" in message)
      return tell(FakeWorker.mood === "no start" ? { error: "no memory", goesOn: false } : { text: "" });
    const data = JSON.parse(message.text) as Record<string, unknown>;
    this.asked.push({ what: message.what, data });
    if (FakeWorker.mood === "slow") return;
    if (FakeWorker.mood === "broken") return tell({ error: "out of bounds", goesOn: false });
    if (FakeWorker.mood === "stumbles") return tell({ error: "KeyError", goesOn: true });
    if (FakeWorker.mood === "dies") return queueMicrotask(() => this.onerror({ message: "out of memory" }));
    const changes = (data.changes ?? data.entries ?? []) as { id: string; field: string; value: unknown }[];
    const refused = changes.filter((c) => c.value === "1..4").map((c) => ({ id: c.id, reason: "No figure." }));
    this.entered = [...this.entered, ...changes.map((c) => `${c.field} ${String(c.value)}`)];
    tell({ text: JSON.stringify({ judgement: { notes: this.entered, blind: [] }, change: null, refused }) });
  }

  terminate(): void {}
}

let sync: typeof import("./open");
let rules: typeof import("../judge/device");
let transport: typeof import("./transport");
let edition: typeof import("../api/rulesEdition");
let own: typeof import("./ownVerdicts");

const model = () => sync.useInspection.getState().model!;
const notes = () => model().judgement?.notes as unknown as string[];
const place = { kind: "inspection" as const, id: "", field: "reference" as const };
const soon = (holds: () => unknown) => vi.waitFor(holds, { timeout: 4000 });
let answers: (request: Request) => Promise<Response>;

beforeEach(async () => {
  FakeWorker.all = [];
  FakeWorker.mood = "well";
  standInForStorage();
  vi.stubGlobal("Worker", FakeWorker);
  vi.stubGlobal("document", {
    visibilityState: "visible",
    addEventListener: () => undefined,
    removeEventListener: () => undefined,
  });
  vi.stubGlobal("window", { addEventListener: () => undefined, removeEventListener: () => undefined });
  standInForRequest();
  answers = () => Promise.reject(new TypeError("Failed to fetch"));
  vi.stubGlobal("fetch", (request: Request | string) =>
    typeof request === "string"
      ? Promise.resolve(Response.json({ folder: "r-1", edition: "r", files: { a: 7 } }))
      : answers(request),
  );
  vi.resetModules();
  sync = await import("./open");
  rules = await import("../judge/device");
  transport = await import("./transport");
  edition = await import("../api/rulesEdition");
  own = await import("./ownVerdicts");
});

afterEach(() => {
  sync.leave();
  // What comes after in this world has no rules of its own.
  rules.endRules();
  vi.unstubAllGlobals();
  vi.resetModules();
});

/** Somebody with an inspection that so far is only here, without a server. */
async function begun(): Promise<string> {
  await rules.startRules();
  const id = sync.begin({ id: "ruth", firm_id: "firm" }, {});
  await soon(() => expect(model().own?.answered).toBe(model().own?.asked));
  return id;
}

describe("the rules of this device", () => {
  it("judge what was entered without a server", async () => {
    const id = await begun();
    sync.setField({ ...place, id }, "K-1");
    await soon(() => expect(notes()).toContain("reference K-1"));
    expect(await sync.isJudged()).toBe(true);
    expect(FakeWorker.all[0]?.asked.map(({ what }) => what)).toEqual(["open", "write", "write"]);
  });

  it("take what was open before they were there", async () => {
    const id = sync.begin({ id: "ruth", firm_id: "firm" }, { reference: "K-2" });
    expect(model().judgement).toBeNull();
    await rules.startRules();
    await soon(() => expect(notes()).toContain("reference K-2"));
    expect(FakeWorker.all[0]?.asked[0]?.data).toMatchObject({ id, firm_id: "firm", entities: [], blind: [] });
  });

  it("tell what the server would refuse, at its field; it is sent all the same", async () => {
    const id = await begun();
    sync.setField({ ...place, id }, "1..4");
    const { refusal } = await import("./model");
    await soon(() => expect(refusal(model(), id, "reference")).toBe("No figure."));
    expect(model().pending.some((p) => p.refused)).toBe(false);
  });

  it("give way to the server's verdicts where they die, and begin anew", async () => {
    vi.useFakeTimers({ shouldAdvanceTime: true });
    const id = await begun();
    FakeWorker.mood = "dies";
    sync.setField({ ...place, id }, "K-3");
    await soon(() => expect(rules.useDeviceRules.getState().stand).toBe("failed"));
    expect([model().own, model().judgement]).toEqual([null, null]);
    FakeWorker.mood = "well";
    await vi.advanceTimersByTimeAsync(61_000);
    await soon(() => expect(notes()).toContain("reference K-3"));
    vi.useRealTimers();
  });

  it("are begun anew where they are broken and say so, and not over one inspection that is beyond them", async () => {
    const id = await begun();
    FakeWorker.mood = "broken";
    sync.setField({ ...place, id }, "K-7");
    await soon(() => expect(rules.useDeviceRules.getState().stand).toBe("failed"));
    FakeWorker.mood = "well";
    await soon(() => expect(notes()).toContain("reference K-7"));
    expect(FakeWorker.all).toHaveLength(2);
    FakeWorker.mood = "stumbles";
    sync.setField({ ...place, id }, "K-8");
    await soon(() => expect(model().own).toBeNull());
    expect(rules.useDeviceRules.getState().stand).toBe("warm");
  });

  it("that are late leave the word to the server, and have it again once they answered", async () => {
    answers = () => new Promise(() => undefined);
    const id = await begun();
    FakeWorker.mood = "slow";
    sync.setField({ ...place, id }, "K-6");
    transport.useReach.setState({ reach: "ok" });
    const byServer = { notes: ["by the server"], blind: [] } as never;
    sync.useInspection.setState({ model: { ...model(), byServer } });
    expect(notes()).not.toContain("by the server");
    await soon(() => expect(model().own?.trusted).toBe(false));
    expect(notes()).toEqual(["by the server"]);
    expect(await sync.isJudged(50)).toBe(false);
  });

  it("that do not start here are told, and nobody waits for them", async () => {
    FakeWorker.mood = "no start";
    await rules.startRules();
    expect(rules.useDeviceRules.getState()).toMatchObject({
      stand: "failed",
      trouble: expect.stringContaining("no memory") as string,
    });
    const id = sync.begin({ id: "ruth", firm_id: "firm" }, {});
    sync.setField({ ...place, id }, "K-4");
    expect(model().entities[id]?.values.reference).toBe("K-4");
  });

  it("that failed and were then switched off do not begin by themselves", async () => {
    FakeWorker.mood = "no start";
    await rules.startRules();
    expect(rules.useDeviceRules.getState().stand).toBe("failed");
    rules.endRules();
    FakeWorker.mood = "well";
    await new Promise((done) => setTimeout(done, 1200));
    expect(rules.useDeviceRules.getState().stand).toBe("off");
  });

  it("of another edition than the server's speak only where it is away", async () => {
    const id = await begun();
    sync.setField({ ...place, id }, "K-5");
    await soon(() => expect(notes()).toContain("reference K-5"));
    transport.useReach.setState({ reach: "ok" });
    edition.hearEdition(new Headers({ "Dorrik-Rules": "another" }));
    await soon(() => expect(model().judgement).toBeNull());
    transport.useReach.setState({ reach: "unreachable" });
    await soon(() => expect(notes()).toContain("reference K-5"));
  });

  it("that say otherwise than the server of the same state are overruled, and that is told once", async () => {
    await begun();
    transport.useReach.setState({ reach: "ok" });
    const byServer = { notes: ["otherwise"], blind: [] } as never;
    sync.useInspection.setState({ model: { ...model(), pending: [], base: {}, byServer, judgedSeq: 5, seq: 5 } });
    edition.hearEdition(new Headers({ "Dorrik-Rules": "r" }));
    expect(own.difference()).toEqual(["notes"]);
    expect(notes()).toEqual(["otherwise"]);
    expect(own.difference()).toEqual([]);
  });
});
