/** Marks over a photo, in parts of its width and height; the photo itself stays as it was taken. */
import type { Entity } from "../inspection/types";

export const MARK_KINDS = ["arrow", "ring", "number", "blur"] as const;
export type MarkKind = (typeof MARK_KINDS)[number];

export interface PhotoMark {
  kind: MarkKind;
  /** Where it begins and ends; an arrow points to its end, a number stands at its beginning. */
  x: number;
  y: number;
  x2: number;
  y2: number;
}

export const marksOf = (photo: Entity): PhotoMark[] => (photo.values.marks ?? []) as unknown as PhotoMark[];

/** The number that a mark shows: how many numbers stand before it, and itself. */
export const numberOf = (marks: readonly PhotoMark[], at: number): number =>
  marks.slice(0, at + 1).filter((photoMark) => photoMark.kind === "number").length;

const clamp = (value: number) => Math.min(1, Math.max(0, Math.round(value * 10000) / 10000));

export function inside(mark: PhotoMark): PhotoMark {
  return { ...mark, x: clamp(mark.x), y: clamp(mark.y), x2: clamp(mark.x2), y2: clamp(mark.y2) };
}

/** Moved as a whole, as far as the edge. */
export function moved(mark: PhotoMark, dx: number, dy: number): PhotoMark {
  const [left, right] = [Math.min(mark.x, mark.x2), Math.max(mark.x, mark.x2)];
  const [top, bottom] = [Math.min(mark.y, mark.y2), Math.max(mark.y, mark.y2)];
  const across = Math.min(1 - right, Math.max(-left, dx));
  const down = Math.min(1 - bottom, Math.max(-top, dy));
  return inside({ ...mark, x: mark.x + across, x2: mark.x2 + across, y: mark.y + down, y2: mark.y2 + down });
}
