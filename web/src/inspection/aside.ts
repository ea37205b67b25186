/** What is left disconnected or out of scope by agreement, looked up by everything that it covers. */
import type { Judgement, Schemas } from "../api/client";
import { useInspection } from "./open";

export type Aside = Schemas["Aside"];

const NONE: ReadonlyMap<string, Aside> = new Map();
const known = new WeakMap<Judgement, ReadonlyMap<string, Aside>>();

/** In force, by the id of each thing that is set aside with it; worked out once for each judgement. */
export function asides(judgement: Judgement | null | undefined): ReadonlyMap<string, Aside> {
  if (!judgement?.set_aside?.length) return NONE;
  let asides = known.get(judgement);
  if (!asides) {
    asides = new Map(judgement.set_aside.flatMap((aside) => aside.covers.map((id) => [id, aside] as const)));
    known.set(judgement, asides);
  }
  return asides;
}

export const useAside = (id: string): Aside | undefined => useInspection((s) => asides(s.model?.judgement).get(id));
