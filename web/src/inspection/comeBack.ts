/** Things to come back to: left with one tap, and ended by another. Which are open, and in which order, is judged. */
import { create } from "zustand";
import { useShallow } from "zustand/react/shallow";
import type { Schemas } from "../api/client";
import { type About, commit, useDesk } from "./desk";
import { children, type Model } from "./model";
import { add, setField, useInspection } from "./open";
import { STAGES } from "./stages";
import type { Kind, Value, FieldOf, Place } from "./types";
import { whereOf } from "./words";

export type ToComeBack = Pick<
  Schemas["ToComeBack"],
  "id" | "where" | "what" | "entity" | "entity_id" | "field" | "stage" | "board_id" | "gone" | "asked_by"
>;

/** adding: the one whose word and photo are being added; listed: does the list stand open beside the work? */
export const useComingBack = create<{ adding: string | null; listed: boolean }>(() => ({
  adding: null,
  listed: false,
}));

export const showList = (listed: boolean): void => useComingBack.setState({ listed });
export const stopAdding = (): void => useComingBack.setState({ adding: null });
export const addTo = (id: string): void => useComingBack.setState({ adding: id, listed: false });

/** Leave what the hands are at for later: the figure in focus, else what the screen is about, else the stage.
 *  kinds: those that can be left for later; stage: what the open stage is called. */
export function comeBackHere(kinds: readonly string[], stage: string): void {
  commit();
  const { model } = useInspection.getState();
  const { focus, around } = useDesk.getState();
  if (!model) return;
  const whole: About = { kind: "inspection", id: model.id };
  const about = [focus, around].find((one): one is About => !!one && kinds.includes(one.kind)) ?? whole;
  const place = about.id === model.id ? stage : whereOf(model.entities[about.id]);
  const id = add("come_back", model.id, {
    about_entity: about.kind,
    about_id: about.id,
    place: place.slice(0, 200) || stage,
    ...(about.field && { field: about.field }),
  });
  addTo(id);
}

/** What is open: as it was judged, and what was left since. */
export function openOnes(model: Model | null): ToComeBack[] {
  if (!model) return [];
  const open = new Map(
    children(model, "come_back", model.id)
      .filter(({ values: v }) => !v.done_at && !v.became)
      .map((comeBack) => [comeBack.id, comeBack]),
  );
  const judged = (model.judgement?.come_back ?? []).filter((toComeBack) => open.has(toComeBack.id));
  const known = new Set(judged.map((toComeBack) => toComeBack.id));
  const since = [...open.values()].filter((comeBack) => !known.has(comeBack.id));
  return [
    // Its word is here before it is judged.
    ...judged.map((toComeBack) => ({
      ...toComeBack,
      what: String(open.get(toComeBack.id)?.values.what ?? ""),
      asked_by: String(open.get(toComeBack.id)?.values.asked_by ?? ""),
      // What is about the whole was left at a stage, by whose name it goes.
      stage:
        toComeBack.entity === "inspection" && !toComeBack.field
          ? (stageCalled(toComeBack.where) ?? toComeBack.stage)
          : toComeBack.stage,
    })),
    ...since.map(({ id, values: v }) => ({
      id,
      where: String(v.place ?? ""),
      what: String(v.what ?? ""),
      entity: String(v.about_entity ?? "inspection"),
      entity_id: String(v.about_id ?? ""),
      field: String(v.field ?? ""),
      stage: "walk" as const,
      board_id: "",
      gone: false,
      asked_by: String(v.asked_by ?? ""),
    })),
  ];
}

export const useToComeBack = (): ToComeBack[] => {
  // Each of them is made anew with every look: as text they compare.
  const openOnesJson = useInspection(
    useShallow((s) => openOnes(s.model).map((toComeBack) => JSON.stringify(toComeBack))),
  );
  return openOnesJson.map((one) => JSON.parse(one) as ToComeBack);
};

const stageCalled = (name: string) => STAGES.find((one) => one.name === name)?.stage;

const at = (id: string, field: FieldOf<"come_back">): Place => ({ kind: "come_back", id, field });

/** Returns the way back. */
export function done(id: string): () => void {
  setField(at(id, "done_at"), new Date().toISOString());
  return () => setField(at(id, "done_at"), null);
}

/** It stays undone: a limitation says so, with why, and with whom that was agreed. Returns the way back. */
export function toLimitation(toComeBack: ToComeBack, reason: string, agreedWith: string): () => void {
  const { model } = useInspection.getState();
  if (!model) return () => undefined;
  const about: Record<string, Value> = toComeBack.gone || toComeBack.entity === "check" ? {} : aboutOf(toComeBack);
  const made = add("limitation", model.id, {
    ...about,
    what: [toComeBack.where, toComeBack.what].filter(Boolean).join(": "),
    reason,
    ...(agreedWith && { agreed_with: agreedWith }),
  });
  return moved(toComeBack.id, "limitation", made);
}

/** It is a finding: recorded where it was left, its photos with it, to be coded. Returns the way back. */
export function toObservation(toComeBack: ToComeBack): () => void {
  const { model } = useInspection.getState();
  if (!model) return () => undefined;
  const about = toComeBack.gone ? { about_entity: "inspection", about_id: model.id } : aboutOf(toComeBack);
  const made = add("observation", model.id, {
    ...about,
    place: toComeBack.where,
    text: toComeBack.what || toComeBack.where,
  });
  const photos = children(model, "photo", model.id).filter((photo) => photo.values.about_id === toComeBack.id);
  for (const { id } of photos) pin(id, "observation", made);
  const back = moved(toComeBack.id, "observation", made);
  return () => {
    for (const { id } of photos) pin(id, "come_back", toComeBack.id);
    back();
  };
}

const aboutOf = (toComeBack: ToComeBack) => ({ about_entity: toComeBack.entity, about_id: toComeBack.entity_id });

function pin(photo: string, kind: Kind, id: string): void {
  setField({ kind: "photo", id: photo, field: "about_entity" }, kind);
  setField({ kind: "photo", id: photo, field: "about_id" }, id);
}

function moved(id: string, became: "limitation" | "observation", made: string): () => void {
  setField(at(id, "became"), became);
  setField(at(id, "became_id"), made);
  return () => {
    setField({ kind: became, id: made, field: "removed" }, true);
    setField(at(id, "became"), null);
    setField(at(id, "became_id"), null);
  };
}
