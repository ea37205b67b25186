/** The pairings to be proved dead on a board; the rules make the same list (core/isolation). */

export interface Way {
  name: string;
  phase: string | null;
}

export interface Row {
  at: string;
  pairings: string[];
}

function between(lines: string[]): string[] {
  const across = lines.flatMap((a, i) => lines.slice(i + 1).map((b) => `${a}–${b}`));
  return [...across, ...lines.map((line) => `${line}–N`), ...lines.map((line) => `${line}–E`), "N–E"];
}

/** The busbar first, then each way with the lines it has. */
export function rows(three: boolean, ways: Way[]): Row[] {
  const lines = three ? ["L1", "L2", "L3"] : ["L"];
  const own = (phase: string | null) => (!three || phase === "all three" || !phase ? lines : [phase]);
  return [{ at: "busbar", pairings: between(lines) }, ...ways.map(({ name, phase }) => ({ at: `way ${name}`, pairings: between(own(phase)) }))];
}

export const nameOf = (row: Row, pairing: string): string => `${row.at} ${pairing}`;
