/** What a record calls a pairing: `busbar L–N`, `way 3 L1–E`. */
export const nameOfPairing = (at: string, between: string): string => `${at} ${between}`;

/** What the next tap on a pairing makes of it: not tested, dead, live, and round again. */
export function afterTap(state: string | undefined): string | null {
  if (state === undefined) return "dead";
  return state === "dead" ? "live" : null;
}
