/** Signatures on this device, by inspection: of whoever is signed in. What becomes of them is told by signed.ts. */
import { create } from "zustand";
import type { Signed } from "./device";

export const useSigned = create<Readonly<Record<string, Signed>>>(() => ({}));

/** How many wait for the server. */
export const signaturesWaiting = (here: Readonly<Record<string, Signed>>): number =>
  Object.values(here).filter((signed) => !signed.refused).length;
