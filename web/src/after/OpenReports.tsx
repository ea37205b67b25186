/** Every report with something left to clear, to confirm or to send, by its last day. */
import { Box, Text } from "@chakra-ui/react";
import { useInfiniteQuery } from "@tanstack/react-query";
import { api, answer, type Schemas } from "../api/client";
import { explain } from "../api/errors";
import { CodeMark } from "../drawings/Mark";
import { Line, Lines, Page } from "../ui/Page";
import { Pages } from "../ui/Pages";
import { Empty, Loading, Trouble } from "../ui/States";
import { Tag } from "../ui/Tag";
import { day, today } from "../ui/when";
import { dayOf, leftOf } from "./left";

type Open = Schemas["OpenReportOut"];

export default function OpenReports() {
  const openReports = useInfiniteQuery({
    queryKey: ["to-put-right"],
    queryFn: ({ pageParam }) => answer(api.GET("/api/to-put-right", { params: { query: { start: pageParam } } })),
    initialPageParam: 0,
    getNextPageParam: (last, all) =>
      last.reports.length ? all.reduce((sum, one) => sum + one.reports.length, 0) : undefined,
    staleTime: 0,
  });
  if (openReports.isPending) return <Loading what="what is to be put right" />;
  if (openReports.isError) return <Trouble message={explain(openReports.error)} again={() => openReports.refetch()} />;
  const shown = openReports.data.pages.flatMap((page) => page.reports);
  return (
    <Page title="To put right">
      {shown.length === 0 && (
        <Empty title="Nothing is open">
          Reports stand here from their issue until everything is cleared, confirmed and sent.
        </Empty>
      )}
      <Lines label="Open reports">
        {shown.map((one) => (
          <OpenLine key={one.inspection_id} report={one} />
        ))}
      </Lines>
      <Pages
        shown={shown.length}
        count={openReports.data.pages[0]?.count ?? 0}
        what="reports"
        more={() => openReports.fetchNextPage()}
        busy={openReports.isFetchingNextPage}
      />
    </Page>
  );
}

function OpenLine({ report }: { report: Open }) {
  const on = dayOf(report);
  return (
    <Line to={`/to-put-right/${report.inspection_id}`}>
      <Box w="3rem" flex="none">
        {report.worst && <CodeMark code={report.worst} />}
      </Box>
      <Box flex="1 1 16rem" minW="0">
        <b>{report.home || "No address"}</b>
        <Text color="quiet" fontSize="sm">
          {[report.reference, report.client, report.next_visit && `booked ${day(report.next_visit)}`]
            .filter(Boolean)
            .join(" · ")}
        </Text>
      </Box>
      <Box>{leftOf(report)}</Box>
      {on && (
        <Box fontVariantNumeric="tabular-nums" fontWeight="bold" whiteSpace="nowrap">
          {on < today() ? <Tag>was due {day(on)}</Tag> : `by ${day(on)}`}
        </Box>
      )}
    </Line>
  );
}
