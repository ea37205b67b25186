import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { clearShelf, filesHere, takeFiles } from "./shelf";

/** A shelf of the browser's, with what the server has. */
class FakeCache {
  kept = new Map<string, string>();
  fetched: string[] = [];
  constructor(private server: Record<string, string>) {}
  match = (address: string) =>
    Promise.resolve(this.kept.has(address) ? new Response(this.kept.get(address)) : undefined);
  keys = () => Promise.resolve([...this.kept.keys()].map((address) => ({ url: `http://test${address}` })));
  delete = ({ url }: { url: string }) => Promise.resolve(this.kept.delete(new URL(url).pathname));
  add = (address: string) => {
    this.fetched.push(address);
    const content = this.server[address];
    if (content === undefined) return Promise.reject(new TypeError("Failed to fetch"));
    this.kept.set(address, content);
    return Promise.resolve();
  };
}

let cache: FakeCache;

beforeEach(() => {
  cache = new FakeCache({ "/rules/a/memory": "12345", "/rules/a/script": "123" });
  vi.stubGlobal("caches", { open: () => Promise.resolve(cache) });
  vi.stubGlobal("navigator", { serviceWorker: { controller: {} } });
});
afterEach(() => vi.unstubAllGlobals());

it("takes what is missing, once, and says what it weighs", async () => {
  const all = ["/rules/a/memory", "/rules/a/script"];
  expect(await filesHere("rules", all)).toEqual({ whole: false, bytes: 0 });
  await takeFiles("rules", all);
  await takeFiles("rules", all);
  expect(cache.fetched).toEqual(all);
  expect(await filesHere("rules", all)).toEqual({ whole: true, bytes: 8 });
});

it("is not whole where one cannot be had, and says so to who took it", async () => {
  const all = ["/rules/a/memory", "/rules/a/gone"];
  await expect(takeFiles("rules", all)).rejects.toThrow("Failed to fetch");
  expect(await filesHere("rules", all)).toEqual({ whole: false, bytes: 5 });
});

it("lets go of what is not wanted any more, and of nothing else", async () => {
  await takeFiles("rules", ["/rules/a/memory", "/rules/a/script"]);
  await clearShelf("rules", (path) => path.endsWith("memory"));
  expect([...cache.kept.keys()]).toEqual(["/rules/a/memory"]);
});

it("takes nothing along where the browser keeps nothing", async () => {
  vi.stubGlobal("navigator", {});
  vi.stubGlobal("caches", undefined);
  await takeFiles("rules", ["/rules/a/memory"]);
  expect(cache.fetched).toEqual([]);
  expect(await filesHere("rules", ["/rules/a/memory"])).toEqual({ whole: false, bytes: 0 });
});
