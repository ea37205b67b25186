/** Second opinions: who has given one, and who is not to see the first code yet. */
import type { Me } from "../api/client";
import { children, type Model } from "../inspection/model";
import type { Entity } from "../inspection/types";

export const opinionsOn = (model: Model, observation: Entity): Entity[] =>
  children(model, "opinion", observation.id).filter((one) => one.values.code);

/** Whoever is asked for a second opinion sees the first code once they have given their own. */
export function isBlind(model: Model, observation: Entity, me: Me): boolean {
  return (
    !!observation.values.opinion_asked_at &&
    me.may.includes("give a second opinion") &&
    opinionsOn(model, observation).length === 0
  );
}
