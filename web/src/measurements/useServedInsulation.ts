/** The tables of a board's insulation, as they are served. */
import { useShallow } from "zustand/react/shallow";
import type { Schemas } from "../api/client";
import { useInspection } from "../inspection/open";

export type ServedInsulation = Schemas["InsulationBench"];

/** A pairing each, to earth first. */
export function useServedInsulation(boardId: string): ServedInsulation[] {
  return useInspection(
    useShallow((s) => s.model?.judgement?.insulation.filter((each) => each.board_id === boardId) ?? []),
  );
}
