/** Names for things, as people on site say them. */
import { useInspection } from "./open";
import type { Entity } from "./types";

const AS_WRITTEN: Record<string, string> = {};

/** Words of the rule book in use for those that the screens are written with: `R1+R2` is `RP+RE` in another edition. */
export function useTranslate(): (text: string) => string {
  const words = useInspection((s) => s.model?.judgement?.words) ?? AS_WRITTEN;
  return (text) => translate(text, words);
}

/** What was said once is said again in the same words: a grid asks for the same few heads at every key. */
const known = new WeakMap<Record<string, string>, Map<string, string>>();

export function translate(text: string, words: Record<string, string>): string {
  let textsKnown = known.get(words);
  if (!textsKnown) known.set(words, (textsKnown = new Map<string, string>()));
  let answer = textsKnown.get(text);
  if (answer === undefined) textsKnown.set(text, (answer = translated(text, words)));
  return answer;
}

function translated(text: string, words: Record<string, string>): string {
  let changed = text;
  for (const [word, meant] of Object.entries(words)) {
    if (word === meant) continue;
    // As written, or with a capital at the start: r1+r2, a ring's ends, is not R1+R2.
    for (const [was, is] of [
      [word, meant],
      [capital(word), capital(meant)],
    ] as const) {
      changed = changed.replace(new RegExp(`(?<!\\w)${was.replace(/[+]/g, "\\$&")}(?!\\w)`, "g"), is);
    }
  }
  return changed;
}

const capital = (word: string) => word.charAt(0).toUpperCase() + word.slice(1);

export function nameOf(entity: Entity | undefined): string {
  if (!entity) return "";
  const v = entity.values;
  switch (entity.kind) {
    case "circuit":
      return [v.way, v.designation].filter(Boolean).join(" ") || "Unnamed circuit";
    case "board":
      return String(v.name ?? "Board");
    case "inspection":
      return String(v.property_address ?? "This home");
    case "observation":
      return String(v.text ?? "Observation");
    case "limitation":
      return String(v.what ?? "Limitation");
    case "bond":
      return `Bond to ${v.service ?? "a service"}`;
    case "rcd":
      return String(v.name ?? "RCD");
    case "point":
      return pointName(entity);
    case "room":
      return String(v.name ?? v.kind ?? "Room");
    case "earlier":
      return `Earlier reading${v.measured_on ? ` of ${v.measured_on}` : ""}`;
    case "isolation":
      return "Isolation";
    case "check":
      return "Check";
    case "attendance":
      return String(v.who ?? "Attendance");
    case "photo":
      return String(v.caption ?? "Photo");
    case "instrument_used":
      return String(v.name ?? "Instrument");
    case "position":
      return "Switch positions";
    case "come_back":
      return String(v.place ?? "To come back to");
    case "concern":
      return String(v.what ?? "Question");
    case "set_aside":
      return String(v.state ?? "Left out by agreement");
    case "repair":
      return String(v.place ?? "Own repair");
    case "as_found":
      return "As found";
    case "operator_call":
      return String(v.reference ?? "Call to the network operator");
    case "label":
      return "Label";
    case "offer_line":
      return String(v.words ?? "Line of the offer");
    case "wanted_load":
      return String(v.what ?? "Load");
    case "dating":
      return String(v.says ?? "Evidence of its years");
    case "put_back":
      return "What was taken off";
    case "lead_null":
      return String(v.name ?? "Null");
    case "opinion":
      return "Second opinion";
    case "declined":
      return "Refused suggestion";
    case "overruling":
      return "Own view of a figure";
  }
}

/** As the last judgement calls it within its room, so that margin and walk say the same; else by its kind. */
function pointName({ id, values: v }: Entity): string {
  const known = useInspection.getState().model?.judgement?.points.find((point) => point.id === id);
  return String(v.name ?? known?.name ?? v.kind ?? v.room ?? "Point");
}

const SHORT: Record<string, string> = { inspection: "the origin" };

export function whereOf(entity: Entity | undefined): string {
  if (!entity) return "";
  if (entity.kind === "point") {
    const room = useInspection.getState().model?.entities[String(entity.values.room_id ?? "")];
    return [nameOf(room), nameOf(entity)].filter(Boolean).join(", ");
  }
  return entity.kind === "inspection" ? (SHORT.inspection as string) : nameOf(entity);
}

/** Device and cable in the trade's short form: `B32 · 2.5/1.5`. */
export function cableAndDevice(values: Entity["values"]): string {
  const device = [values.device_type, values.device_rating_a].filter((part) => part != null).join("");
  const cable = [values.line_csa_mm2, values.cpc_csa_mm2].filter((part) => part != null).join("/");
  return [device, cable].filter(Boolean).join(" · ");
}

/** The answer to something looked at, in the one pair of words for all of them; any other state is its own word. */
const ANSWERS: Record<string, string> = { good: "OK", "not good": "Defect" };
export const answerWord = (state: string): string => ANSWERS[state] ?? state;
