/** Drafts of papers made on this device: worded by the rules that it has, set by the templates that the server sets. */
import type { Schemas } from "../api/client";
import { fetchHead, fetchLetters } from "../inspection/bag";
import type { Model } from "../inspection/model";
import { useInspection } from "../inspection/open";
import { isInHand } from "../inspection/ownVerdicts";
import { ask } from "../judge/device";
import type { Page } from "../typeset/pages";
import { drawn, type Drawing, sizesHere } from "./pictures";

/** Which paper, and of what: an observation, a call. */
export interface Paper {
  paper: "report" | "danger" | "set aside" | "operator";
  about?: string | null;
}

export interface Draft {
  pages: Page[];
  points: { level: "must" | "look"; stage: string; text: string }[];
}

/** Why there is no draft, for whoever asked. */
export class NoDraft extends Error {}

export const whyNot = (error: unknown): string =>
  error instanceof NoDraft ? error.message : "The draft cannot be made on this device. What you typed is still here.";

interface Worded {
  nothing?: string;
  template: string;
  inputs: Record<string, string>;
  drawings: Drawing[];
  points: Draft["points"];
}

/** A paper on the inspection that is open, as it stands here. Throws NoDraft where it cannot be made. */
export async function draftOf(model: Model, { paper, about = null }: Paper): Promise<Draft> {
  if (!isInHand(model.id)) throw new NoDraft("The rules are not on this device yet, so that it cannot word a draft.");
  const head = await fetchHead().catch(() => {
    throw new NoDraft("The head of your paper has not come to this device yet: it comes with the day’s bag.");
  });
  const sizes = await sizesHere(model);
  const worded = await ask<Worded>("paper", { paper, about, on: today(), head, sizes });
  if (worded.nothing) throw new NoDraft(worded.nothing);
  const files = await Promise.all(
    worded.drawings.map(async (drawing) => [drawing.name, await drawn(model.id, drawing)] as const),
  );
  return { pages: await set(worded.template, worded.inputs, Object.fromEntries(files)), points: worded.points };
}

/** The same, of whichever inspection is open as it is asked for. */
export function draftHere(paper: Paper): Promise<Draft> {
  const { model } = useInspection.getState();
  return model ? draftOf(model, paper) : Promise.reject(new NoDraft("No inspection is open."));
}

/** A letter of a job, in the words that the server had for it last. */
export async function draftOfJob(job: string, which: Schemas["JobLetterOut"]["which"]): Promise<Draft> {
  const letters = await fetchLetters(job).catch(() => {
    throw new NoDraft("The words of this letter are not on this device: they come with the day’s bag.");
  });
  const letter = letters.find((known) => known.which === which);
  if (!letter) throw new NoDraft("There is no such letter.");
  return { pages: await set("facts_letter", { data: letter.words, fonts: FONTS }, {}), points: [] };
}

/** Families that stand in for signs which the paper's own has none of. */
const FONTS = JSON.stringify(["Noto Sans", "Noto Sans Math"]);

async function set(template: string, inputs: Record<string, string>, files: Record<string, string>): Promise<Page[]> {
  const { typeset } = await import("../typeset/typesetter");
  return typeset({ template, inputs, files }).catch((error: unknown) => {
    console.error(error);
    throw new NoDraft("The typesetter is not on this device yet: it comes with the day’s bag.");
  });
}

/** By the clock on the wall here, as papers are dated. */
function today(): string {
  const now = new Date();
  return [now.getFullYear(), now.getMonth() + 1, now.getDate()].map((part) => String(part).padStart(2, "0")).join("-");
}
