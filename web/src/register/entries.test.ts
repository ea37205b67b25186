import { afterEach, beforeEach, expect, test, vi } from "vitest";
import type { Entry } from "./entries";
import { standInForRequest } from "../api/standIns.testing";

let changeEntry: typeof import("./entries").changeEntry;
const HOME: Entry = { kind: "property", id: "01a22cac-82fb-7aec-af3b-564863303db3", parent_id: "c", values: {} };

beforeEach(async () => {
  vi.stubGlobal("fetch", (request: Request) => arrives(request));
  // There is no page that addresses are relative to; the client takes the network as it finds it.
  standInForRequest();
  vi.resetModules();
  ({ changeEntry } = await import("./entries"));
});

afterEach(() => vi.unstubAllGlobals());

let arrives: (request: Request) => Promise<Response>;

/** A server that takes its time over the first change and refuses what it is told to. */
function server(refuses: string): string[] {
  const arrived: string[] = [];
  arrives = async (request) => {
    const [field] = Object.keys(((await request.json()) as { values: Record<string, unknown> }).values);
    if (arrived.length === 0) await new Promise((done) => setTimeout(done, 30));
    arrived.push(String(field));
    const status = field === refuses ? 422 : 200;
    return new Response(JSON.stringify({ ...HOME, message: "no" }), {
      status,
      headers: { "Content-Type": "application/json" },
    });
  };
  return arrived;
}

test("fields of an entry arrive in the order in which they were left", async () => {
  const arrived = server("");
  await Promise.all([
    changeEntry(HOME, { built_year: 1967 }),
    changeEntry(HOME, { rewired_year: 1956 }),
    changeEntry(HOME, { notes: "x" }),
  ]);
  expect(arrived).toEqual(["built_year", "rewired_year", "notes"]);
});

test("what is refused holds up nothing that comes after it", async () => {
  const arrived = server("built_year");
  const refused = changeEntry(HOME, { built_year: 1 });
  const kept = changeEntry(HOME, { notes: "x" });
  await expect(refused).rejects.toThrow("no");
  await expect(kept).resolves.toMatchObject({ id: HOME.id });
  expect(arrived).toEqual(["built_year", "notes"]);
});
