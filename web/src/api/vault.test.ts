import "fake-indexeddb/auto";
import Dexie from "dexie";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { asksForPin } from "./pin";
import { standInForStorage } from "./standIns.testing";

let vault: typeof import("./vault");
let store: Map<string, string>;
const reload = vi.fn();

/** The page begins anew on the same device. */
async function begin(): Promise<void> {
  vi.resetModules();
  vault = await import("./vault");
}

async function rows(): Promise<{ pin: unknown; tries: number; wrapped: Uint8Array; device: CryptoKey }[]> {
  const database = new Dexie("dorrik.vault");
  database.version(1).stores({ rows: "name" });
  const all = await database.table("rows").toArray();
  database.close();
  return all as never;
}

beforeEach(async () => {
  reload.mockReset();
  store = standInForStorage();
  vi.stubGlobal("location", { reload });
  await begin();
  for (const name of await Dexie.getDatabaseNames()) await Dexie.delete(name);
  await begin();
});

describe("what is kept", () => {
  it("is sealed, comes back, and is read after the page began anew", async () => {
    const sealed = await vault.seal({ client: "Harbour Trust" });
    const now = vault.sealNow("Harbour Trust");
    expect(sealed).toBeInstanceOf(Uint8Array);
    for (const bytes of [sealed as Uint8Array, new TextEncoder().encode(now)])
      expect(new TextDecoder().decode(bytes)).not.toContain("Harbour");
    await begin();
    expect(await vault.unseal(sealed)).toEqual({ client: "Harbour Trust" });
    expect(vault.unsealNow(now ?? "")).toBe("Harbour Trust");
  });

  it("is sealed otherwise each time, and told from what was changed", async () => {
    const [one, two] = (await Promise.all([vault.seal(1), vault.seal(1)])) as Uint8Array<ArrayBuffer>[];
    expect(one).not.toEqual(two);
    one![15]! ^= 1;
    expect(await vault.unseal(one!)).toBeUndefined();
    expect(await vault.unseal(two!)).toBe(1);
  });

  it("cannot be read by a key that was taken out: it cannot be taken out", async () => {
    await vault.openVault();
    const [row] = await rows();
    await expect(crypto.subtle.exportKey("raw", row!.device)).rejects.toThrow();
  });

  it("is bare, and said to be, where the browser has no cipher", async () => {
    vi.stubGlobal("crypto", { getRandomValues: crypto.getRandomValues.bind(crypto) });
    expect(await vault.openVault()).toBe("bare");
    expect(await vault.seal("a")).toEqual({ bare: "a" });
    expect(vault.sealNow("a")).toBe("a");
    vi.unstubAllGlobals();
  });
});

describe("a PIN", () => {
  it("is asked for when the page begins anew, and opens what was kept before it was chosen", async () => {
    const sealed = await vault.seal("kept");
    expect(await vault.choosePin("", "2468")).toBe(true);
    await begin();
    expect(asksForPin()).toBe(true);
    expect(await vault.openVault()).toBe("locked");
    let read: unknown = "nothing";
    const reading = vault.unseal(sealed).then((value) => (read = value));
    expect(await vault.unlock("1357")).toBe(false);
    expect(vault.sealNow("x")).toBeUndefined();
    expect(read).toBe("nothing");
    expect(await vault.unlock("2468")).toBe(true);
    await reading;
    expect(read).toBe("kept");
  }, 20_000);

  it("is changed and taken off by who knows it", async () => {
    await vault.choosePin("", "2468");
    expect(await vault.choosePin("0000", "1111")).toBe(false);
    expect(await vault.choosePin("2468", "1111")).toBe(true);
    await begin();
    await vault.openVault();
    expect(await vault.unlock("2468")).toBe(false);
    expect(await vault.unlock("1111")).toBe(true);
    expect(await vault.choosePin("1111", null)).toBe(true);
    await begin();
    expect(await vault.openVault()).toBe("open");
  }, 20_000);

  it("said wrong ten times wipes everything; the right one in between begins the count anew", async () => {
    await vault.choosePin("", "2468");
    await begin();
    await vault.openVault();
    for (let wrong = 0; wrong < 9; wrong++) expect(await vault.unlock("0000")).toBe(false);
    expect(vault.useVault.getState().left).toBe(1);
    expect(await vault.unlock("2468")).toBe(true);
    await begin();
    await vault.openVault();
    expect(vault.useVault.getState().left).toBe(10);
    const other = new Dexie("dorrik.answers");
    other.version(1).stores({ answers: "name" });
    await other.table("answers").put({ name: "session" });
    other.close();
    store.set("dorrik.slip.1", "~x");
    for (let wrong = 0; wrong < 10; wrong++) await vault.unlock("0000");
    expect(reload).toHaveBeenCalled();
    expect(await Dexie.getDatabaseNames()).toEqual([]);
    expect([...store.keys()].sort()).toEqual(["dorrik.leaving", "dorrik.wiped"]);
    await begin();
    expect(await vault.openVault()).toBe("open");
    expect(store.get("dorrik.wiped")).toBeTruthy();
  }, 60_000);

  it("is counted before it is tried: who ends the page in between gains nothing", async () => {
    await vault.choosePin("", "2468");
    await begin();
    await vault.openVault();
    const trying = vault.unlock("0000");
    await vi.waitFor(async () => expect((await rows())[0]?.tries).toBe(1));
    await trying;
  }, 20_000);
});

describe("what is handed over", () => {
  it("is signed by a key that is told once and cannot be read again", async () => {
    expect(await vault.signFor("ruth", new Uint8Array(4))).toBeUndefined();
    const told = (await vault.makeSigningKey("ruth"))!;
    await vault.makeSigningKey("idris");
    await begin();
    const words = new TextEncoder().encode("12 entries");
    const signed = (await vault.signFor("ruth", words))!;
    const raw = Uint8Array.from(atob(told), (sign) => sign.charCodeAt(0));
    const key = await crypto.subtle.importKey("raw", raw, { name: "HMAC", hash: "SHA-256" }, false, ["verify"]);
    const bytes = Uint8Array.from(atob(signed), (sign) => sign.charCodeAt(0));
    expect(await crypto.subtle.verify("HMAC", key, bytes, words)).toBe(true);
    expect(await vault.signFor("idris", words)).not.toBe(signed);
  });
});
