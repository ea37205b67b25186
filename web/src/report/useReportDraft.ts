/** The draft of the report: set by the server, or by this device where the server cannot be reached. */
import { useQuery } from "@tanstack/react-query";
import { api, answer } from "../api/client";
import { draftHere } from "../drafts/draft";
import { useInspection } from "../inspection/open";
import { isAway, useReach } from "../inspection/transport";
import { useSettled } from "../ui/useSettled";

/** The draft is set anew when nothing has been changed for so long (ms). */
const QUIET_MS = 600;
/** On this device it takes longer, and so does the battery (ms). */
const QUIET_HERE_MS = 1500;
/** The server keeps a draft for at least so long (ms). */
const LASTS_MS = 60_000;

export function useReportDraft(waiting: boolean) {
  const id = useInspection((s) => s.model?.id) ?? "";
  const seq = useInspection((s) => s.model?.seq) ?? 0;
  const away = useReach((s) => isAway(s.reach));
  const settled = useSettled(seq, QUIET_MS);
  const preview = useQuery({
    queryKey: ["preview", id, settled],
    queryFn: () =>
      answer(api.GET("/api/inspections/{inspection_id}/preview", { params: { path: { inspection_id: id } } })),
    enabled: !away && settled > 0 && settled === seq && !waiting,
    placeholderData: (before) => before,
  });
  // What was entered since was asked of the rules: with their answer it is in the draft.
  const asked = useInspection((s) => s.model?.own?.asked) ?? 0;
  const answered = useInspection((s) => s.model?.own?.answered) ?? 0;
  const settledHere = useSettled(asked, QUIET_HERE_MS);
  const here = useQuery({
    queryKey: ["draft on this device", id, settledHere],
    queryFn: () => draftHere({ paper: "report" }),
    enabled: away && settledHere === asked && answered === asked,
    placeholderData: (before) => before,
    retry: false,
    gcTime: 0,
  });
  const again = () => {
    if (Date.now() - preview.dataUpdatedAt > LASTS_MS) void preview.refetch();
  };
  const points = (away ? here.data?.points : undefined) ?? preview.data?.points ?? [];
  return { id, away, preview, here, again, points, seq: preview.data?.seq ?? 0 };
}
