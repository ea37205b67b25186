/** The board builder's short form: a few letters of a usual circuit, and after it whatever differs from the usual.
 *
 *     kit                Kitchen ring, 2.5/1.5, B32
 *     sho 8.5/4 b45      Shower on another cable and breaker
 *     lights loft c6 4p  named as typed, C6, four points
 *     =                  the last one again
 */
import type { Schemas } from "../api/client";
import type { Value } from "../inspection/types";

/** A usual circuit, as the server knows it. */
export type Usual = Schemas["UsualCircuitOut"];

export interface Offer {
  name: string;
  fields: Record<string, Value>;
}

const RCD = ["rcd_rated_ma", "rcd_standard", "rcd_delay", "rcd_kind", "rcd_group"];

/** What stands in a line beside its name. */
function particulars(text: string): { words: string; fields: Record<string, Value> } {
  const fields: Record<string, Value> = {};
  const rest: string[] = [];
  for (const word of text.trim().split(/\s+/).filter(Boolean)) {
    const cable = /^(\d+(?:[.,]\d+)?)\/(\d+(?:[.,]\d+)?)$/.exec(word);
    const device = /^([bcd])(\d{1,3})a?$/i.exec(word);
    const residual = /^(\d{1,4})ma$/i.exec(word);
    const points = /^(\d{1,3})p$/i.exec(word);
    if (cable) Object.assign(fields, { line_csa_mm2: number(cable[1]), cpc_csa_mm2: number(cable[2]) });
    else if (device)
      Object.assign(fields, {
        device_type: device[1]?.toUpperCase() ?? null,
        device_rating_a: Number(device[2]),
        device_standard: "BS EN 60898",
      });
    else if (residual) fields.rcd_rated_ma = Number(residual[1]);
    else if (points) fields.points_served = Number(points[1]);
    else if (/^(ring|radial)$/i.test(word) && rest.length) fields.form = word.toLowerCase();
    else rest.push(word);
  }
  return { words: rest.join(" "), fields };
}

const number = (text: string | undefined) => Number((text ?? "").replace(",", "."));

/** How well a preset answers to what was typed; 0 for not at all. Every word typed begins one of its words, or another word for it. */
function fits(preset: Usual, words: string): number {
  const typed = words.toLowerCase().split(" ").filter(Boolean);
  const own = preset.name.toLowerCase().split(" ");
  const known = [...own, ...preset.also];
  if (!typed.length || !typed.every((word) => known.some((one) => one.startsWith(word)))) return 0;
  return own[0]?.startsWith(typed[0] ?? "") ? 2 : 1;
}

/** What could be meant, the likeliest first; the last one is always the words as they were typed. */
export function offers(text: string, last: Offer | null, usual: readonly Usual[]): Offer[] {
  if (text.trim() === "=") return last ? [last] : [];
  const { words, fields } = particulars(text);
  if (!words && !Object.keys(fields).length) return [];
  const matching = usual
    .map((preset) => ({ preset, fit: fits(preset, words) }))
    .filter(({ fit }) => fit > 0)
    .sort((a, b) => b.fit - a.fit)
    .slice(0, 6)
    .map(({ preset }) => ({ name: preset.name, fields: { ...preset.fields, ...fields } }));
  const same = matching.some((offer) => offer.name.toLowerCase() === words.toLowerCase());
  const own = words.charAt(0).toUpperCase() + words.slice(1);
  return same || !words
    ? matching
    : [...matching, { name: own, fields: { designation: own, ...like(words, usual), ...fields } }];
}

/** Cable and breaker of the usual circuit that a name of one's own speaks of: `Lights in the net loft` are lights. */
function like(words: string, known: readonly Usual[]): Record<string, Value> {
  const typed = words.toLowerCase().split(" ");
  const usual = known.find((preset) =>
    typed.some((word) => word.length > 3 && preset.name.toLowerCase().split(" ").includes(word)),
  );
  if (!usual) return {};
  return Object.fromEntries(Object.entries(usual.fields).filter(([field]) => field !== "designation"));
}

/** RCD protection is usually the same all over a board: carried on from the circuit before. */
export function carriedOn(
  before: Record<string, Value | undefined> | undefined,
  fields: Record<string, Value>,
): Record<string, Value> {
  if (!before || fields.spare) return {};
  return Object.fromEntries(
    RCD.flatMap((field) => (before[field] != null && !(field in fields) ? [[field, before[field] as Value]] : [])),
  );
}
