/** Second opinions: who has given one, and who is not to see the first code yet. */
import { children, type Model } from "../inspection/model";
import type { Entity } from "../inspection/types";

export const opinionsOn = (model: Model, observation: Entity): Entity[] =>
  children(model, "opinion", observation.id).filter((opinion) => opinion.values.code);

/** Who is asked for a second opinion sees the first code once they have given their own; the server keeps it till then. */
export const isBlind = (model: Model, observation: Entity): boolean =>
  !!model.judgement?.blind.includes(observation.id);
