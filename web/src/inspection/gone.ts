/** What this device lost when its browser cleared its storage. */
import { create } from "zustand";

/** What had waited here before the browser cleared its storage, and is gone; since: when it was last told of. */
export const useGone = create<{ gone: number; since: string | null }>(() => ({ gone: 0, since: null }));
