/** Answers of the server that are kept on this device, for when it cannot be reached. */
import Dexie, { type EntityTable } from "dexie";
import { create } from "zustand";
import { Refused } from "./client";
import { forget, sinceForgotten } from "./forgotten";

interface Kept {
  name: string;
  value: unknown;
  /** When it was kept, milliseconds. */
  at: number;
}

class AnswerDatabase extends Dexie {
  answers!: EntityTable<Kept, "name">;

  constructor() {
    super("dorrik.answers");
    this.version(1).stores({ answers: "name, at" });
  }
}

const device = new AnswerDatabase();

/** Where the service worker keeps pictures (vite.config.ts). */
const PICTURES = "photos";

/** Answers that are shown as they were kept, since the server could not be asked: when that was, milliseconds, by name. */
export const useAsKept = create<Readonly<Record<string, number>>>(() => ({}));

export async function keepAnswer(name: string, value: unknown): Promise<void> {
  // Without room on the device there is nothing to fall back to; the work itself goes on.
  await device.answers.put({ name, value, at: Date.now() }).catch(() => undefined);
}

export async function keptAnswer<T>(name: string): Promise<{ value: T; at: number } | undefined> {
  return (await device.answers.get(name).catch(() => undefined)) as { value: T; at: number } | undefined;
}

/** What is kept under names with a beginning, the latest first. */
export async function keptAnswers<T>(beginning: string): Promise<{ name: string; value: T; at: number }[]> {
  const found = await device.answers
    .where("name")
    .startsWith(beginning)
    .toArray()
    .catch(() => []);
  return (found as { name: string; value: T; at: number }[]).sort((a, b) => b.at - a.at);
}

/** What each kept answer weighs, as text, bytes; and when it was kept. */
export async function keptWeights(): Promise<{ name: string; bytes: number; at: number }[]> {
  const all = await device.answers.toArray().catch(() => []);
  return all.map(({ name, value, at }) => ({ name, bytes: JSON.stringify(value).length, at }));
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
    await globalThis.caches?.delete(PICTURES).catch(() => false);
  }
  await (names ? device.answers.bulkDelete(names) : device.answers.clear()).catch(() => undefined);
}

/** So long an answer may take where an earlier one is at hand, milliseconds. */
const PATIENCE = 4000;

/** What the server says, kept for the next time; what it said last where it cannot be reached, or not in good time. */
export async function remembered<T>(name: string, ask: () => Promise<T>): Promise<T> {
  const stillHere = sinceForgotten();
  const asked = ask().then((value) => {
    // Whoever signed out while it was on its way leaves nothing behind.
    if (stillHere()) void keepAnswer(name, value);
    if (name in useAsKept.getState())
      useAsKept.setState(
        Object.fromEntries(Object.entries(useAsKept.getState()).filter(([one]) => one !== name)),
        true,
      );
    return value;
  });
  // It may fail while the device is still looking; who waits for it hears of it below.
  asked.catch(() => undefined);
  const kept = await keptAnswer<T>(name);
  if (!kept) return asked;
  const asKept = () => {
    useAsKept.setState({ [name]: kept.at });
    return kept.value;
  };
  let over: ReturnType<typeof setTimeout> | undefined;
  const late = new Promise<T>((done) => (over = setTimeout(() => done(asKept()), PATIENCE)));
  return Promise.race([asked, late])
    .catch((error: unknown) => {
      // It answered, and it said no: that counts.
      if (error instanceof Refused && error.status < 500) throw error;
      return asKept();
    })
    .finally(() => clearTimeout(over));
}
