/** What this device keeps is sealed: by a key that no script can take out of the browser and, where somebody chose a
 * PIN, by that too. Ten wrong PINs wipe everything.
 *
 * One secret seals all. It lies here wrapped by the device's key and, inside of that, by the PIN: choosing, changing or
 * taking off a PIN wraps it anew and leaves what it seals as it is. Entries that have to be written down in the very
 * moment (slips) are sealed with a cipher that answers at once; all else by Web Crypto. Where a browser has no Web Crypto,
 * as at an address without TLS, nothing is sealed, and this device says so.
 */
import { gcm } from "@noble/ciphers/aes.js";
import Dexie, { type EntityTable } from "dexie";
import { create } from "zustand";
import { ASKS, WIPED } from "./pin";

/** So many wrong PINs wipe the device. */
export const TRIES = 10;
/** Figures of a PIN. */
export const PIN = /^\d{4,10}$/;
/** Rounds of PBKDF2 (SHA-256) over a PIN: a third of a second on a tablet. */
const ROUNDS = 600_000;
const IV = 12;

interface Row {
  name: "vault";
  /** Never leaves the browser: it can be used here and not read. */
  device: CryptoKey;
  /** Sign what this device hands over to another, by the person's id; the server knows them. */
  signing: Readonly<Record<string, CryptoKey>>;
  /** The secret, wrapped. */
  wrapped: Uint8Array<ArrayBuffer>;
  pin: { salt: Uint8Array<ArrayBuffer>; rounds: number } | null;
  /** Wrong PINs in a row. */
  tries: number;
}

class VaultDatabase extends Dexie {
  rows!: EntityTable<Row, "name">;

  constructor() {
    super("dorrik.vault");
    this.version(1).stores({ rows: "name" });
  }
}

const database = new VaultDatabase();

/** open: what is kept can be read; locked: the PIN is asked for; bare: this browser seals nothing. */
export type VaultState = "opening" | "open" | "locked" | "bare";

export const useVault = create<{ state: VaultState; hasPin: boolean; left: number }>(() => ({
  state: "opening",
  hasPin: false,
  left: TRIES,
}));

const { getState: get, setState: set } = useVault;

interface Keys {
  aes: CryptoKey;
  slips: Uint8Array;
}

let keys: Keys | null = null;
let opened: () => void;
/** Done when what is kept can be read. */
let open = new Promise<void>((done) => (opened = done));
let beginning: Promise<VaultState> | undefined;

/** Open the vault, or make it; where there is a PIN it stays locked until that is said. */
export const openVault = (): Promise<VaultState> => (beginning ??= begin());

async function begin(): Promise<VaultState> {
  if (!globalThis.crypto?.subtle) return ready("bare");
  try {
    const row = (await database.rows.get("vault")) ?? (await make());
    if (row.pin) {
      localStorage.setItem(ASKS, "1");
      set({ state: "locked", hasPin: true, left: TRIES - row.tries });
      return "locked";
    }
    keys = await keysOf(await unwrap(row.device, row.wrapped));
    return ready("open");
  } catch {
    // A browser that keeps no database keeps nothing to seal either.
    return ready("bare");
  }
}

function ready(state: "open" | "bare"): VaultState {
  set({ state });
  opened();
  return state;
}

async function make(): Promise<Row> {
  const made: Row = {
    name: "vault",
    device: await crypto.subtle.generateKey({ name: "AES-GCM", length: 256 }, false, ["encrypt", "decrypt"]),
    signing: {},
    wrapped: new Uint8Array(),
    pin: null,
    tries: 0,
  };
  made.wrapped = await wrap(made.device, crypto.getRandomValues(new Uint8Array(32)));
  // Two windows may begin at once: the first to write is the one.
  await database.rows.add(made).catch(() => undefined);
  return (await database.rows.get("vault")) ?? made;
}

async function wrap(key: CryptoKey, secret: Uint8Array<ArrayBuffer>): Promise<Uint8Array<ArrayBuffer>> {
  const iv = crypto.getRandomValues(new Uint8Array(IV));
  return joined(iv, new Uint8Array(await crypto.subtle.encrypt({ name: "AES-GCM", iv }, key, secret)));
}

async function unwrap(key: CryptoKey, wrapped: Uint8Array<ArrayBuffer>): Promise<Uint8Array<ArrayBuffer>> {
  const iv = wrapped.subarray(0, IV);
  return new Uint8Array(await crypto.subtle.decrypt({ name: "AES-GCM", iv }, key, wrapped.subarray(IV)));
}

function joined(first: Uint8Array, second: Uint8Array): Uint8Array<ArrayBuffer> {
  const both = new Uint8Array(first.length + second.length);
  both.set(first);
  both.set(second, first.length);
  return both;
}

async function keysOf(secret: Uint8Array<ArrayBuffer>): Promise<Keys> {
  const base = await crypto.subtle.importKey("raw", secret, "HKDF", false, ["deriveBits", "deriveKey"]);
  const from = (info: string) => ({
    name: "HKDF",
    hash: "SHA-256",
    salt: new Uint8Array(),
    info: new TextEncoder().encode(info),
  });
  return {
    aes: await crypto.subtle.deriveKey(from("kept"), base, { name: "AES-GCM", length: 256 }, false, [
      "encrypt",
      "decrypt",
    ]),
    slips: new Uint8Array(await crypto.subtle.deriveBits(from("slips"), base, 256)),
  };
}

async function ofPin(pin: string, { salt, rounds }: NonNullable<Row["pin"]>): Promise<CryptoKey> {
  const words = await crypto.subtle.importKey("raw", new TextEncoder().encode(pin), "PBKDF2", false, ["deriveKey"]);
  const how = { name: "PBKDF2", hash: "SHA-256", salt, iterations: rounds };
  return crypto.subtle.deriveKey(how, words, { name: "AES-GCM", length: 256 }, false, ["encrypt", "decrypt"]);
}

/** The secret itself, out of its wrapping; undefined where the PIN is wrong. Counted before it is tried: whoever ends
 * the page in between gains nothing. The tenth wrong one wipes the device. */
async function secretOf(pin: string): Promise<{ row: Row; secret: Uint8Array<ArrayBuffer> } | undefined> {
  await openVault();
  const row = await database.transaction("rw", database.rows, async () => {
    const now = await database.rows.get("vault");
    if (now?.pin) await database.rows.update("vault", { tries: now.tries + 1 });
    return now;
  });
  if (!row) return undefined;
  if (!row.pin) return { row, secret: await unwrap(row.device, row.wrapped) };
  try {
    const secret = await unwrap(await ofPin(pin, row.pin), await unwrap(row.device, row.wrapped));
    await database.rows.update("vault", { tries: 0 });
    set({ left: TRIES });
    return { row, secret };
  } catch {
    const left = TRIES - row.tries - 1;
    set({ left });
    if (left <= 0) await wipe();
    return undefined;
  }
}

/** Open what is locked; false where that is not the PIN. */
export async function unlock(pin: string): Promise<boolean> {
  const secret = await secretOf(pin);
  if (!secret) return false;
  keys = await keysOf(secret.secret);
  ready("open");
  return true;
}

/** Choose a PIN, change it, or take it off (null); false where the one until now is wrong. */
export async function choosePin(now: string, next: string | null): Promise<boolean> {
  const oldSecret = await secretOf(now);
  if (!oldSecret) return false;
  const { row, secret } = oldSecret;
  const pin = next === null ? null : { salt: crypto.getRandomValues(new Uint8Array(16)), rounds: ROUNDS };
  const inner = pin && next !== null ? await wrap(await ofPin(next, pin), secret) : secret;
  await database.rows.update("vault", { wrapped: await wrap(row.device, inner), pin, tries: 0 });
  if (pin) localStorage.setItem(ASKS, "1");
  else localStorage.removeItem(ASKS);
  set({ hasPin: pin !== null, left: TRIES });
  return true;
}

/** Make the key by which this device signs what somebody hands over to another; returns it, for the server, which knows
 * by it that this device wrote it for them. Here it can be used from now on and not read. */
export async function makeSigningKey(person: string): Promise<string | undefined> {
  if ((await openVault()) === "bare") return undefined;
  const raw = crypto.getRandomValues(new Uint8Array(32));
  const key = await crypto.subtle.importKey("raw", raw, { name: "HMAC", hash: "SHA-256" }, false, ["sign"]);
  await database.transaction("rw", database.rows, async () => {
    const row = await database.rows.get("vault");
    if (row) await database.rows.put({ ...row, signing: { ...row.signing, [person]: key } });
  });
  return base64(raw);
}

/** Sign for somebody (base64); undefined where this device has no key of theirs. */
export async function signFor(person: string, bytes: Uint8Array<ArrayBuffer>): Promise<string | undefined> {
  const key = (await database.rows.get("vault"))?.signing[person];
  return key && base64(new Uint8Array(await crypto.subtle.sign("HMAC", key, bytes)));
}

const base64 = (bytes: Uint8Array): string => btoa(Array.from(bytes, (byte) => String.fromCharCode(byte)).join(""));

/** Sealed bytes, or what stands bare where this browser seals nothing. */
export type Sealed = Uint8Array<ArrayBuffer> | { bare: unknown };

const isBytes = (sealed: unknown): sealed is Uint8Array<ArrayBuffer> => sealed instanceof Uint8Array;

/** Seal something that JSON can say. Waits until the vault is open. */
export async function seal(value: unknown): Promise<Sealed> {
  return sealBytes(new TextEncoder().encode(JSON.stringify(value))).then((sealed) => sealed ?? { bare: value });
}

/** What was sealed; undefined where it cannot be read, as after the vault was lost. */
export async function unseal<T>(sealed: Sealed): Promise<T | undefined> {
  if (!isBytes(sealed)) return sealed.bare as T;
  const bytes = await unsealBytes(sealed);
  return bytes && (JSON.parse(new TextDecoder().decode(bytes)) as T);
}

/** Wait until what is kept can be read. */
export async function untilOpen(): Promise<void> {
  await openVault();
  await open;
}

/** Seal bytes; null where this browser seals nothing. */
export async function sealBytes(bytes: Uint8Array<ArrayBuffer>): Promise<Uint8Array<ArrayBuffer> | null> {
  await untilOpen();
  return keys && wrap(keys.aes, bytes);
}

export async function unsealBytes(sealed: Uint8Array<ArrayBuffer>): Promise<Uint8Array<ArrayBuffer> | undefined> {
  await untilOpen();
  return keys ? unwrap(keys.aes, sealed).catch(() => undefined) : undefined;
}

/** Seal a text at once, for who cannot wait; undefined while the vault is not open. */
export function sealNow(text: string): string | undefined {
  if (get().state === "bare") return text;
  if (!keys) return undefined;
  const iv = crypto.getRandomValues(new Uint8Array(IV));
  const sealed = gcm(keys.slips, iv).encrypt(new TextEncoder().encode(text));
  return `~${base64(joined(iv, sealed))}`;
}

/** A text that was sealed at once; one of before is as it was. undefined where it cannot be read. */
export function unsealNow(text: string): string | undefined {
  if (!text.startsWith("~")) return text;
  if (!keys) return undefined;
  const bytes = Uint8Array.from(atob(text.slice(1)), (sign) => sign.charCodeAt(0));
  try {
    return new TextDecoder().decode(gcm(keys.slips, bytes.subarray(0, IV)).decrypt(bytes.subarray(IV)));
  } catch {
    return undefined;
  }
}

/** Take everything from this device: what is kept, what waits, and the key. The session ends as soon as the server can
 * be told. */
export async function wipe(): Promise<void> {
  const theme = localStorage.getItem("dorrik.theme");
  localStorage.clear();
  if (theme) localStorage.setItem("dorrik.theme", theme);
  const now = new Date().toISOString();
  localStorage.setItem(WIPED, now);
  localStorage.setItem("dorrik.leaving", now);
  keys = null;
  await database.rows.clear().catch(() => undefined);
  const names = await Dexie.getDatabaseNames().catch(() => []);
  await Promise.allSettled(names.filter((name) => name.startsWith("dorrik")).map((name) => Dexie.delete(name)));
  globalThis.location?.reload();
}

/** Ask for the PIN again: the page begins anew, with nothing of it in memory. */
export function lock(): void {
  if (get().hasPin && get().state === "open") globalThis.location.reload();
}

// Wiped in one window is wiped in all: nothing of it stays in another's memory.
globalThis.addEventListener?.("storage", ({ key, newValue }) => {
  if (key === WIPED && newValue) globalThis.location.reload();
});

/** For tests: a page that begins anew. */
export function forgetVault(): void {
  keys = null;
  beginning = undefined;
  open = new Promise<void>((done) => (opened = done));
  set({ state: "opening", hasPin: false, left: TRIES });
}
