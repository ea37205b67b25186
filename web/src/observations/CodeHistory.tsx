/** How the code came to be what it is: written on site, rethought at home, each with who and when. */
import { Box, Text } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { api, answer } from "../api/client";
import { shown } from "../inspection/model";
import { useInspection } from "../inspection/open";
import { moment } from "../ui/when";

export function CodeHistory({ inspection, observation }: { inspection: string; observation: string }) {
  const seq = useInspection((s) => s.model?.seq);
  const history = useQuery({
    queryKey: ["history", inspection, observation, "codes", seq],
    queryFn: () =>
      answer(
        api.GET("/api/inspections/{inspection_id}/history", {
          params: { path: { inspection_id: inspection }, query: { entity_id: observation } },
        }),
      ),
    placeholderData: (before) => before,
  }).data;
  const codes = (history ?? []).filter((entry) => entry.field === "code");
  const reasons = (history ?? []).filter((entry) => entry.field === "code_reason");
  if (codes.length === 0) return null;
  const inOrder = [...codes].sort((a, b) => a.seq - b.seq);
  return (
    <Box as="ol" listStyleType="none" color="quiet" fontSize="sm" aria-label="How the code came to be">
      {inOrder.map((entry, at) => {
        const next = inOrder[at + 1]?.seq ?? Number.POSITIVE_INFINITY;
        const why = reasons
          .filter((reason) => reason.seq > entry.seq && reason.seq < next && reason.value)
          .sort((a, b) => b.seq - a.seq)[0];
        return (
          <Text as="li" key={entry.id}>
            {at === 0 ? "Written as" : "Changed to"} <b>{shown(entry.value)}</b> by {entry.author},{" "}
            {moment(entry.made_at)}
            {why ? `, “${shown(why.value)}”` : ""}
          </Text>
        );
      })}
    </Box>
  );
}
