/** The day's bag: what today and tomorrow need goes onto this device by itself, so that no signal is needed there.
 *
 * Jobs, their homes with what was measured before, inspections that have begun, small pictures, and what the firm has
 * settled. Each is fetched as the screens fetch it, and kept where they look for it without a server.
 */
import { create } from "zustand";
import { api, answer, type Me, type Schemas } from "../api/client";
import { sinceForgotten } from "../api/forgotten";
import { keepPicture } from "../api/kept";
import { remembered } from "../api/remembered";
import { takeTypesetterAlong } from "../typeset/files";
import { fetchAgenda, fetchHome } from "./atHome";
import { keepOpened } from "./lastOpened";
import * as model from "./model";
import { fetchInspection } from "./transport";

export interface Bag {
  state: "empty" | "packing" | "packed" | "partly";
  /** When it was packed last, milliseconds. */
  at: number | null;
  /** How many of how many things are there. */
  done: number;
  whole: number;
  /** Visits of today and tomorrow, and inspections in hand, that are in it. */
  visits: number;
  inspections: number;
}

const EMPTY: Bag = { state: "empty", at: null, done: 0, whole: 0, visits: 0, inspections: 0 };
export const useBag = create<Bag>(() => EMPTY);

/** Packed this long ago it is packed again by itself, milliseconds. */
const OLD = 15 * 60_000;
/** Inspections in hand that go along beside those of the visits: the ones that were worked on last. */
const MOST = 12;
const DAY = 24 * 60 * 60_000;

type Agenda = Schemas["AgendaOut"];
const { getState: get, setState: set } = useBag;

/** Pack where that was long ago. */
export async function packIfOld(me: Me): Promise<void> {
  const { at, state } = get();
  if (state !== "packing" && (at === null || Date.now() - at > OLD)) await pack(me);
}

/** Something went wrong on the way: what is there stays, and somebody can try again. */
const halfPacked = () => set({ state: get().at === null ? "empty" : "partly" });

/** Pack now. What cannot be had is left out and said; what was there before stays. */
export const pack = (me: Me): Promise<void> => packed(me).catch(halfPacked);

async function packed(me: Me): Promise<void> {
  const stillHere = sinceForgotten();
  set({ state: "packing", done: 0, whole: 0 });
  const [agenda, home] = await Promise.all([fetchAgenda(), fetchHome()]).catch(() => [null, null] as const);
  if (!agenda || !home) return halfPacked();
  const visits = agenda.visits.filter((visit) => isSoon(visit, agenda.today));
  const jobs = visits.map(({ job }) => job.id);
  const places = [...new Set(visits.map(({ property }) => property.id))];
  const inspections = new Set(home.in_hand.slice(0, MOST).map((line) => line.id));
  const things: (() => Promise<unknown>)[] = [
    ...jobs.map((id) => async () => {
      const job = await fetchJob(id);
      for (const inspection of job.inspections) inspections.add(inspection.id);
    }),
    ...places.map((id) => () => fetchProperty(id)),
    () => remembered("instruments", () => answer(api.GET("/api/instruments"))),
    () => remembered("rules", () => answer(api.GET("/api/rules"))),
    fetchHead,
    ...jobs.map((id) => () => fetchLetters(id)),
    () => import("../judge/device").then(({ bringRules }) => bringRules()),
    takeTypesetterAlong,
    () => remembered("reference", () => answer(api.GET("/api/reference"))),
  ];
  set({ whole: things.length + inspections.size });
  let missing = 0;
  const packOne = async (thing: () => Promise<unknown>) => {
    // Whoever signed out meanwhile leaves nothing behind.
    if (!stillHere()) return;
    await thing().catch(() => missing++);
    set({ done: get().done + 1 });
  };
  for (const thing of things) await packOne(thing);
  set({ whole: things.length + inspections.size });
  for (const id of inspections) await packOne(() => takeAlong(me, id, stillHere));
  if (!stillHere()) return set(EMPTY, true);
  const state = missing ? "partly" : "packed";
  set({ state, at: Date.now(), visits: visits.length, inspections: inspections.size });
}

/** Today, tomorrow, and what should have been before. */
function isSoon({ job }: Agenda["visits"][number], today: string): boolean {
  const on = Date.parse(String(job.values.booked_on ?? ""));
  return Number.isFinite(on) && on <= Date.parse(today) + DAY;
}

export const fetchJob = (id: string) =>
  remembered(`job/${id}`, () => answer(api.GET("/api/jobs/{entry_id}", { params: { path: { entry_id: id } } })));
export const fetchProperty = (id: string) =>
  remembered(`property/${id}`, () =>
    answer(api.GET("/api/properties/{entry_id}", { params: { path: { entry_id: id } } })),
  );

/** The head of what this person writes, and the letters of a job in words: for drafts that are made here. */
export const fetchHead = () => remembered("paper-head", () => answer(api.GET("/api/paper-head")));
export const fetchLetters = (job: string) =>
  remembered(`letters/${job}`, () =>
    answer(api.GET("/api/jobs/{entry_id}/letters", { params: { path: { entry_id: job } } })),
  );

/** An inspection whole, with its small pictures. */
async function takeAlong(me: Me, id: string, stillHere: () => boolean): Promise<void> {
  const inspection = await fetchInspection(id);
  if (!stillHere()) return;
  await keepOpened(me.id, model.open(inspection, []));
  const photos = inspection.entities.filter((e) => e.kind === "photo" && !e.values.removed && e.values.sha256);
  for (const { values } of photos) {
    if (!stillHere()) return;
    await keepPicture(`/api/inspections/${id}/photos/${String(values.sha256)}?size=small`);
  }
}
