/** Where a reading comes from before it stands in a figure: typed, from a simulated instrument, or from one that is linked.
 *
 * A source never writes: what it gives is put in front of the figure in focus, said to be from there, and kept only when
 * the figure is left, as if it had been typed. What is typed then takes its place.
 */
import { create } from "zustand";
import { offer, useDesk } from "./desk";

export interface ReadingSource {
  kind: "typed" | "simulated" | "linked";
  /** What it is called beside the figure, such as the instrument's name. */
  name: string;
  /** Begin to listen; give is called with each reading as the instrument shows it. Returns what ends it. */
  listen(give: (text: string) => void): () => void;
}

/** By keys and pad: always there. */
export const TYPED: ReadingSource = { kind: "typed", name: "typed", listen: () => () => undefined };

interface Linked {
  source: ReadingSource;
  /** The last reading that came while no figure was in focus: told, and not kept. */
  missed: string | null;
}

export const useReadingSource = create<Linked>(() => ({ source: TYPED, missed: null }));

let end: () => void = () => undefined;

/** Listen to a source instead of the one before; TYPED ends that. */
export function listenTo(source: ReadingSource): void {
  end();
  useReadingSource.setState({ source, missed: null });
  end = source.listen((text) => {
    const taken = useDesk.getState().focus !== null;
    if (taken) offer(text.trim(), source.name);
    useReadingSource.setState({ missed: taken ? null : text.trim() });
  });
}

/** An instrument that gives what it is told to, for practice and for tests. */
export function simulated(name: string): ReadingSource & { measure: (text: string) => void } {
  let give: ((text: string) => void) | null = null;
  return {
    kind: "simulated",
    name,
    listen(to) {
      give = to;
      return () => (give = null);
    },
    measure: (text) => give?.(text),
  };
}
