/** Answers of the server that are kept on this device, for when it cannot be reached. */
import Dexie, { type EntityTable } from "dexie";
import { useAsKept } from "./asKept";
import { forget, sinceForgotten } from "./forgotten";
import { seal, type Sealed, sealBytes, unseal, unsealBytes } from "./vault";

interface Kept {
  name: string;
  /** The value, sealed. */
  sealed: Sealed;
  /** When it was kept, milliseconds. */
  at: number;
}

/** A small picture, by its address. */
interface Picture {
  address: string;
  sealed: Uint8Array<ArrayBuffer>;
  at: number;
}

class AnswerDatabase extends Dexie {
  answers!: EntityTable<Kept, "name">;
  pictures!: EntityTable<Picture, "address">;

  constructor() {
    super("dorrik.answers");
    this.version(1).stores({ answers: "name, at" });
    // What was kept before it was sealed is only a copy of what the server has: it comes again.
    this.version(2)
      .stores({ pictures: "address, at" })
      .upgrade((database) => database.table("answers").clear());
  }
}

const device = new AnswerDatabase();

/** So many small pictures are kept. */
const PICTURES = 600;
/** Where a version before this one kept them, unsealed. */
const BEFORE = "photos";

export async function keepAnswer(name: string, value: unknown): Promise<void> {
  // Without room on the device there is nothing to fall back to; the work itself goes on.
  const at = Date.now();
  const stillHere = sinceForgotten();
  await seal(value)
    .then((sealed) => (stillHere() ? device.answers.put({ name, sealed, at }) : undefined))
    .catch(() => undefined);
}

export async function keptAnswer<T>(name: string): Promise<{ value: T; at: number } | undefined> {
  const kept = await device.answers.get(name).catch(() => undefined);
  const value = kept && (await unseal<T>(kept.sealed));
  return kept && value !== undefined ? { value, at: kept.at } : undefined;
}

/** What is kept under names with a beginning, the latest first. */
export async function keptAnswers<T>(beginning: string): Promise<{ name: string; value: T; at: number }[]> {
  const keptAnswer = await device.answers
    .where("name")
    .startsWith(beginning)
    .toArray()
    .catch(() => []);
  const all = await Promise.all(
    keptAnswer.map(async ({ name, sealed, at }) => ({ name, value: await unseal<T>(sealed), at })),
  );
  return all
    .flatMap(({ name, value, at }) => (value === undefined ? [] : [{ name, value, at }]))
    .sort((a, b) => b.at - a.at);
}

/** What each kept answer weighs, bytes; and when it was kept. */
export async function keptWeights(): Promise<{ name: string; bytes: number; at: number }[]> {
  const all = await device.answers.toArray().catch(() => []);
  const pictures = await device.pictures.toArray().catch(() => []);
  return [
    ...all.map(({ name, sealed, at }) => ({ name, bytes: weightOf(sealed), at })),
    ...pictures.map(({ address, sealed, at }) => ({ name: address, bytes: sealed.byteLength, at })),
  ];
}

const weightOf = (sealed: Sealed): number =>
  sealed instanceof Uint8Array ? sealed.byteLength : JSON.stringify(sealed.bare).length;

/** Keep a small picture for when the server cannot be reached; where nothing can be sealed, none is kept. */
export async function keepPicture(address: string): Promise<void> {
  const stillHere = sinceForgotten();
  const response = await fetch(address).catch(() => undefined);
  if (!response?.ok) return;
  const sealed = await sealBytes(new Uint8Array(await response.arrayBuffer()));
  if (!sealed || !stillHere()) return;
  await device.pictures.put({ address, sealed, at: Date.now() }).catch(() => undefined);
  const over = (await device.pictures.count().catch(() => 0)) - PICTURES;
  if (over > 0) await device.pictures.bulkDelete(await device.pictures.orderBy("at").limit(over).primaryKeys());
}

/** A picture as it was kept here; undefined where it was not. */
export async function keptPicture(address: string): Promise<Blob | undefined> {
  const kept = await device.pictures.get(address).catch(() => undefined);
  const bytes = kept && (await unsealBytes(kept.sealed));
  return bytes && new Blob([bytes], { type: "image/jpeg" });
}

/** The names of what is kept under a beginning, the latest first: without reading any of it. */
export async function keptNames(beginning: string): Promise<string[]> {
  const names = await device.answers
    .orderBy("at")
    .reverse()
    .primaryKeys()
    .catch(() => []);
  return names.filter((name) => name.startsWith(beginning));
}

export async function forgetAnswers(names?: string[]): Promise<void> {
  if (!names) {
    forget();
    useAsKept.setState({}, true);
    await device.pictures.clear().catch(() => undefined);
    await globalThis.caches?.delete(BEFORE).catch(() => false);
  }
  await (names ? device.answers.bulkDelete(names) : device.answers.clear()).catch(() => undefined);
}
