/** Whether the component library is here: the first picture does without it. */
import { create } from "zustand";

export const useLooks = create<{ here: boolean }>(() => ({ here: false }));
