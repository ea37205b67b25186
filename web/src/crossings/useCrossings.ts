/** What two devices entered without seeing each other, as the server finds it; asked for when the two met. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { api, answer, type Schemas } from "../api/client";
import { enter, settled, useInspection } from "../inspection/open";
import { useSettled } from "../ui/useSettled";

export type Crossings = Schemas["CrossingsOut"];
export type Entry = Schemas["CrossedEntryOut"];

/** So long after devices met it is asked what crossed (ms): they meet in batches. */
const QUIET_MS = 500;

const fetchCrossings = (id: string): Promise<Crossings> =>
  answer(api.GET("/api/inspections/{inspection_id}/crossings", { params: { path: { inspection_id: id } } }));

export function useCrossings(): Crossings | undefined {
  const id = useInspection((s) => s.model?.id) ?? "";
  const known = useInspection((s) => (s.model?.seq ?? 0) > 0);
  const met = useSettled(
    useInspection((s) => s.model?.met ?? 0),
    QUIET_MS,
  );
  const { data } = useQuery({
    queryKey: ["crossings", id, met],
    queryFn: () => fetchCrossings(id),
    enabled: known,
    placeholderData: (before) => before,
  });
  return data;
}

/** Enter what was decided by who saw the questions as they stood at a sequence number; what is left is asked for once the
 * server has it. */
export function useDecide(): (written: Parameters<typeof enter>[0], seen: number) => void {
  const queries = useQueryClient();
  return (written, seen) => {
    enter(written, seen);
    void settled().then(() => queries.invalidateQueries({ queryKey: ["crossings"] }));
  };
}

/** What makes one of a pair as both stand now: what was added to either since it was asked comes along. Undefined where
 * they are no question any more, or differ in something that nobody has chosen; throws where the server is away. */
export async function joiningNow(
  inspectionId: string,
  second: string,
  chosen: (field: Crossings["doubled"][number]["differs"][number]) => boolean,
): Promise<{ pair: Crossings["doubled"][number]; seq: number } | undefined> {
  const { doubled, seq } = await fetchCrossings(inspectionId);
  const pair = doubled.find((one) => one.second.entity_id === second);
  return pair?.differs.every(chosen) ? { pair, seq } : undefined;
}

export const countOf = ({ fields, removals, doubled }: Crossings): number =>
  fields.length + removals.length + doubled.length;
