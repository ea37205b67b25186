/** Whether a board stands proved dead, as the rules see it: every step taken, no pairing live. */
import { children, type Model } from "../inspection/model";
import type { Entity } from "../inspection/types";

export interface Dead {
  at: string;
  lock: string | null;
  restored: boolean;
}

export function provedDead(model: Model, board: Entity): Dead | null {
  const whole = children(model, "isolation", board.id)
    .map((one) => one.values)
    .filter((v) => v.proved_at && v.isolated_at && v.pairings && v.proved_again_at && !Object.values(v.pairings as Record<string, string>).includes("live"));
  const last = whole.sort((a, b) => String(a.proved_again_at).localeCompare(String(b.proved_again_at))).at(-1);
  if (last) return { at: String(last.proved_again_at), lock: last.lock ? String(last.lock) : null, restored: !!last.restored_at };
  if (!board.values.isolated_at) return null;
  return { at: String(board.values.isolated_at), lock: board.values.isolated_lock ? String(board.values.isolated_lock) : null, restored: false };
}
