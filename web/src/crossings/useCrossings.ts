/** What two devices entered without seeing each other, as the server finds it; asked for when the two met. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { api, answer, type Schemas } from "../api/client";
import { enter, settled, useInspection } from "../inspection/open";
import { useSettled } from "../ui/useSettled";

export type Crossings = Schemas["CrossingsOut"];
export type Entry = Schemas["CrossedEntryOut"];

/** So long after devices met it is asked what crossed (ms): they meet in batches. */
const QUIET_MS = 500;

export function useCrossings(): Crossings | undefined {
  const id = useInspection((s) => s.model?.id) ?? "";
  const known = useInspection((s) => (s.model?.seq ?? 0) > 0);
  const met = useSettled(
    useInspection((s) => s.model?.met ?? 0),
    QUIET_MS,
  );
  const { data } = useQuery({
    queryKey: ["crossings", id, met],
    queryFn: () =>
      answer(api.GET("/api/inspections/{inspection_id}/crossings", { params: { path: { inspection_id: id } } })),
    enabled: known,
    placeholderData: (before) => before,
  });
  return data;
}

/** Enter what was decided; what is left is asked for once the server has it. */
export function useDecide(): (written: Parameters<typeof enter>[0]) => void {
  const queries = useQueryClient();
  return (written) => {
    enter(written);
    void settled().then(() => queries.invalidateQueries({ queryKey: ["crossings"] }));
  };
}

export const countOf = ({ fields, removals, doubled }: Crossings): number =>
  fields.length + removals.length + doubled.length;
