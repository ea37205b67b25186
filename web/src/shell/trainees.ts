/** Who learns beside at an inspection. */
import { children, type Model } from "../inspection/model";
import type { Entity } from "../inspection/types";

/** Those who learn beside and have not left. */
export const trainees = ({ model }: { model: Model | null }): Entity[] =>
  model
    ? children(model, "attendance", model.id).filter(({ values }) => values.purpose === "trainee" && !values.left_at)
    : [];

export const nameOfTrainee = ({ values }: Entity): string => String(values.who ?? "the trainee");
