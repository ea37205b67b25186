/** Answers that are shown as they were kept on this device, since the server could not be asked. */
import { create } from "zustand";

/** When each was kept, milliseconds, by its name. */
export const useAsKept = create<Readonly<Record<string, number>>>(() => ({}));

/** The server has answered: what is shown under this name is no longer an older answer. */
export function isNew(name: string): void {
  const rest = Object.entries(useAsKept.getState()).filter(([other]) => other !== name);
  if (name in useAsKept.getState()) useAsKept.setState(Object.fromEntries(rest), true);
}
