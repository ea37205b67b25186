/** The rules on this device: started in the background, asked by whoever has an inspection open.
 *
 * Nobody waits for them to begin: until they are there, and wherever they fail, the server's verdicts are shown.
 */
import { create } from "zustand";
import type { Judgement, Schemas } from "../api/client";
import { keepStarted, packedRules, takeRulesAlong } from "./files";
import type { Asked, Told, What } from "./messages";
import { areOff } from "./off";

/** off: not asked for yet, or not to be had; starting; warm: they answer; failed: they do not, and are not tried again
 * for a while. */
export type Stand = "off" | "starting" | "warm" | "failed";

interface DeviceRules {
  stand: Stand;
  /** The edition that this device judges by (the server tells its own with each answer). */
  edition: string | null;
  /** How long they took to start (ms), what Python has for itself (bytes), and what they weigh on the device (bytes). */
  startedMs: number | null;
  heap: number;
  weight: number;
  /** Why they are not there, for whoever looks after it. */
  trouble: string | null;
}

const NOTHING: DeviceRules = { stand: "off", edition: null, startedMs: null, heap: 0, weight: 0, trouble: null };

export const useDeviceRules = create<DeviceRules>(() => NOTHING);

/** What the judge says: what became different, or the whole; and what it would refuse. */
export interface Verdicts {
  judgement: Judgement | null;
  change: Schemas["JudgementChange"] | null;
  refused: { id: string; reason: string }[];
}

/** A question that takes longer than this is not answered any more: the thread was stopped, as for want of memory. */
const PATIENCE = 20_000;
const START_PATIENCE = 120_000;
/** So long after the rules failed they are tried again, milliseconds: first, and then; and so often, until so many
 * answers say that they are well. */
const SOON = 1000;
const AGAIN = 60_000;
const TRIES = 3;
const WELL = 100;

const { getState: get, setState: set } = useDeviceRules;
let worker: Worker | undefined;
let next = 1;
let tries = 0;
let answered = 0;
let again: ReturnType<typeof setTimeout> | undefined;
const waiting = new Map<
  number,
  { done(text: string): void; fail(error: Error): void; clock: ReturnType<typeof setTimeout> }
>();

export class NoRules extends Error {}

/** Begin, if that was not done: what is to be fetched is fetched once, and kept by the service worker. */
export async function startRules(): Promise<void> {
  if (get().stand === "starting" || get().stand === "warm") return;
  set({ ...NOTHING, stand: "starting" });
  const began = performance.now();
  const editions = await packedRules();
  for (const packed of editions) {
    try {
      await begin(packed.folder);
      const weight = Object.values(packed.files).reduce((sum, bytes) => sum + bytes, 0);
      set({ stand: "warm", edition: packed.edition, startedMs: Math.round(performance.now() - began), weight });
      performance.measure("rules", { start: began, detail: { heap: get().heap, weight } });
      keepStarted(packed).catch(() => undefined);
      return;
    } catch (error) {
      stop(new NoRules(String(error)));
      set({ trouble: String(error) });
    }
  }
  set({ stand: editions.length ? "failed" : "off" });
  if (editions.length) later();
}

/** Failed: once more, after a while. */
function later(): void {
  if (++tries < TRIES) again = setTimeout(() => void startRules(), tries === 1 ? SOON : AGAIN);
}

/** They are not wanted here any more: the thread ends, and whoever asked goes on with the server. */
export function endRules(): void {
  clearTimeout(again);
  stop(new NoRules("The rules are switched off on this device."));
  set(NOTHING);
}

/** The rules come onto this device with the day's bag, and begin where they could not before. Fails where they cannot be
 * had. */
export async function bringRules(): Promise<void> {
  if (areOff()) return;
  await takeRulesAlong();
  void startRules();
}

async function begin(folder: string): Promise<void> {
  worker = new Worker(new URL("./worker.ts", import.meta.url), { type: "module" });
  const mine = worker;
  answered = 0;
  mine.onmessage = ({ data }: MessageEvent<Told>) => {
    const asked = waiting.get(data.n);
    if (!asked) return;
    waiting.delete(data.n);
    clearTimeout(asked.clock);
    if ("error" in data) {
      asked.fail(new NoRules(data.error));
      return data.goesOn ? undefined : fell(data.error);
    }
    if (++answered === WELL) tries = 0;
    if (data.heap !== get().heap) set({ heap: data.heap });
    // For who measures; a day has thousands of them.
    if (data.n % 100 === 0) performance.clearMeasures("verdict");
    performance.measure("verdict", { start: performance.now() - data.took, detail: { took: data.took } });
    asked.done(data.text);
  };
  mine.onerror = (event) => fell(event.message || "The thread with the rules stopped.");
  await post((n) => ({ n, start: folder }), START_PATIENCE);
}

/** Ask the judge; its answers come in the order of the questions. Throws NoRules where it does not answer. */
export async function ask<Answer = Verdicts>(what: What, data: unknown): Promise<Answer> {
  if (get().stand !== "warm") throw new NoRules("The rules are not there.");
  const text = JSON.stringify(data);
  return JSON.parse(await post((n) => ({ n, what, text }), PATIENCE)) as Answer;
}

function post(message: (n: number) => Asked, patience: number): Promise<string> {
  return new Promise((done, fail) => {
    const n = next++;
    const clock = setTimeout(() => {
      if (waiting.has(n)) fell("The rules did not answer in time.");
    }, patience);
    waiting.set(n, { done, fail, clock });
    worker?.postMessage(message(n));
  });
}

/** The thread is gone, or as good as: whoever waits is told, and it is begun anew after a while. */
function fell(why: string): void {
  const warm = get().stand === "warm";
  stop(new NoRules(why));
  if (!warm) return;
  set({ stand: "failed", trouble: why });
  later();
}

function stop(error: Error): void {
  worker?.terminate();
  worker = undefined;
  for (const { fail, clock } of waiting.values()) {
    clearTimeout(clock);
    fail(error);
  }
  waiting.clear();
}
