/** The audit log: what was done about rights, settings, exports and issues, and who came in or did not. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { useInfiniteQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, answer } from "../api/client";
import { explain } from "../api/errors";
import { program } from "../ui/agent";
import { Button, LinkButton } from "../ui/Button";
import { Page } from "../ui/Page";
import { SelectField } from "../ui/SelectField";
import { Loading, Trouble } from "../ui/States";
import { localeOf, moment } from "../ui/when";

const toTheSecond = (at: string) => moment(at, { dateStyle: "medium", timeStyle: "medium" });

/** One detail in words. */
function said(name: string, value: unknown): string {
  if (name === "agent") return program(String(value));
  return `${name.replaceAll("_", " ")}: ${typeof value === "object" ? JSON.stringify(value) : String(value)}`;
}

const shown = (detail: Record<string, unknown> | null) =>
  Object.entries(detail ?? {})
    .filter(([, value]) => value !== null && value !== "")
    .map(([name, value]) => said(name, value))
    .join(" · ");

export default function AuditLog() {
  const [action, setAction] = useState("");
  const entries = useInfiniteQuery({
    queryKey: ["audit", action],
    queryFn: ({ pageParam }) =>
      answer(api.GET("/api/audit", { params: { query: { before: pageParam, action: action || null } } })),
    initialPageParam: null as number | null,
    getNextPageParam: (last) => last.lines.at(-1)?.id,
    staleTime: 0,
  });
  if (entries.isPending) return <Loading what="the audit log" />;
  if (entries.isError) return <Trouble message={explain(entries.error)} again={() => entries.refetch()} />;
  const lines = entries.data.pages.flatMap((page) => page.lines);
  const [first] = entries.data.pages;
  return (
    <Page title="Audit log">
      <Flex gap="4" align="flex-end" wrap="wrap" mb="4">
        <Box w="18rem">
          <SelectField
            label="Show"
            value={action}
            choices={[["", "everything"], ...(first?.actions ?? []).map((one) => [one, one] as const)]}
            change={setAction}
          />
        </Box>
        <Text color="quiet" flex="1">
          {first?.count.toLocaleString(localeOf())} lines in all
        </Text>
        <LinkButton file variant="quiet" to="/api/audit.csv">
          Take it along as a table (CSV)
        </LinkButton>
      </Flex>
      {lines.length === 0 && <Text color="quiet">Nothing of that kind yet.</Text>}
      <Box as="ol" listStyleType="none" aria-label="What was done">
        {lines.map((line) => (
          <Flex
            as="li"
            key={line.id}
            borderTopWidth="1px"
            borderColor="line"
            py="2"
            gap={{ base: "1", md: "5" }}
            direction={{ base: "column", md: "row" }}
          >
            <Text fontFamily="mono" fontSize="sm" color="quiet" w="13rem" flex="none">
              {toTheSecond(line.at)}
            </Text>
            <Box flex="1" minW="0">
              <Text>
                <b>{line.action}</b>
                {line.subject && ` · ${line.subject}`}
              </Text>
              <Text fontSize="sm" color="quiet" overflowWrap="anywhere">
                {[line.person || "nobody signed in", line.source && `from ${line.source}`, shown(line.detail)]
                  .filter(Boolean)
                  .join(" · ")}
              </Text>
            </Box>
          </Flex>
        ))}
      </Box>
      {(first?.lines.length ?? 0) >= 100 && entries.hasNextPage && (
        <Box py="4">
          <Button onClick={() => entries.fetchNextPage()} busy={entries.isFetchingNextPage}>
            Earlier ones
          </Button>
        </Box>
      )}
    </Page>
  );
}
