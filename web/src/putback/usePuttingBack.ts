/** What tests took apart at a board, and what has to come off before them. */
import type { Schemas } from "../api/client";
import { useInspection } from "../inspection/open";

export type Thing = Schemas["PutBack"];

const NONE: Thing[] = [];

/** What is to be seen to at a board. */
export function usePuttingBack(boardId: string): Thing[] {
  const all = useInspection((s) => s.model?.judgement?.putting_back) ?? NONE;
  return all.filter((putBack) => putBack.board_id === boardId);
}
