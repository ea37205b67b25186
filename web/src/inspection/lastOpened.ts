/** The inspections that were open last, as they stood with their verdicts: shown where the server cannot be reached. */
import { forgetAnswers, keepAnswer, keptAnswer, keptAnswers, keptNames } from "../api/kept";
import type { Found, Model } from "./model";
import { entitiesOnServer } from "./onServer";
import { reach } from "./transport";
import { onlyHere } from "./waiting";

/** So many are kept: the day's bag, and what was open beside it. */
const MOST = 24;
const NAME = "inspection/";

/** What lists show of each: read without the inspections themselves. */
const HEAD = "opened/";

interface Head {
  /** Who had it open: shown to nobody else. */
  person: string;
  id: string;
  title: string;
}

interface Opened {
  person: string;
  found: Found;
}

/** Keep what stands. What still waits to be sent is kept apart, in the outbox. */
export async function keepOpened(person: string, model: Model): Promise<void> {
  if (reach() === "signed-out") return;
  // Verdicts of another state than stands here would pass for verdicts of this one.
  if (!model.byServer || !model.may || model.judgedSeq !== model.seq) return;
  const lastOpened: Found = {
    id: model.id,
    seq: model.seq,
    issue: model.issue,
    may: model.may,
    // As the server has it: what waits is kept apart, and laid on top again.
    entities: entitiesOnServer(model),
    facts: model.facts,
    entered: model.entered,
    judgement: model.byServer,
  };
  await keepAnswer(NAME + model.id, { person, found: lastOpened } satisfies Opened);
  await keepAnswer(HEAD + model.id, { person, id: model.id, title: titleOf(lastOpened) } satisfies Head);
  const over = (await keptNames(HEAD)).slice(MOST).map((name) => name.slice(HEAD.length));
  if (over.length) await forgetAnswers(over.flatMap((id) => [HEAD + id, NAME + id]));
}

function titleOf(found: Found): string {
  const own = found.entities.find((e) => e.id === found.id)?.values ?? {};
  return [own.reference, own.property_address].filter(Boolean).map(String).join(" · ") || "Inspection";
}

/** An inspection as this person last had it open here, and when that was (milliseconds). */
export async function opened(person: string, id: string): Promise<{ found: Found; at: number } | undefined> {
  const kept = await keptAnswer<Opened>(NAME + id);
  if (kept?.value.person !== person) return undefined;
  const { found: lastOpened } = kept.value;
  // A version before this one kept verdicts without these.
  const judgement = {
    ...{
      against: [],
      blind: [],
      insulation: [],
      benches: [],
      zs_scales: [],
      to_countersign: [],
      not_possible: [],
      live_checks: [],
      come_back: [],
      set_aside: [],
      repairs: [],
      room_for_more: null,
      parts: [],
    },
    ...lastOpened.judgement,
  };
  // Benches of an earlier form: they come with the next verdicts.
  if (judgement.benches.some((bench) => !("second" in bench))) judgement.benches = [];
  if (judgement.insulation.some((insulationBench) => !("field" in insulationBench))) judgement.insulation = [];
  return { found: { ...lastOpened, judgement }, at: kept.at };
}

/** What can be opened without a server: what is only here, then what was opened or packed, the latest first. */
export async function lastOpened(person: string): Promise<{ id: string; title: string; at: number }[]> {
  const all = await keptAnswers<Head>(HEAD);
  const here = onlyHere();
  const kept = all
    .filter((one) => one.value.person === person)
    .map(({ value: { id, title }, at }) => ({ id, title, at }));
  return [...here, ...kept.filter(({ id }) => !here.some((one) => one.id === id))];
}
