/** Inspections in hand and issued ones, as lines: what names each, what is left, how it stands. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import { api, answer, type Schemas } from "../api/client";
import { Mark } from "../drawings/Mark";
import { Lines } from "../ui/Page";
import { Pages } from "../ui/Pages";
import { day } from "../ui/when";

type Inspection = Schemas["InspectionLine"];

interface ListProps {
  which: "in hand" | "issued";
  what: string;
  first: Inspection[];
  count: number;
  Line: (props: { line: Inspection }) => ReactNode;
}

/** A list of inspections: its first page, and more of it when asked for. */
export function InspectionLines({ which, what, first, count, Line }: ListProps) {
  const [more, setMore] = useState<Inspection[]>([]);
  const [busy, setBusy] = useState(false);
  const known = new Set(first.map((line) => line.id));
  const lines = [...first, ...more.filter((line) => !known.has(line.id))];
  const next = async () => {
    setBusy(true);
    const query = { which, start: lines.length };
    const page = await answer(api.GET("/api/inspections", { params: { query } })).catch(() => null);
    if (page) setMore([...more, ...page.lines]);
    setBusy(false);
  };
  return (
    <>
      <Lines label={what}>
        {lines.map((line) => (
          <Line key={line.id} line={line} />
        ))}
      </Lines>
      <Pages shown={lines.length} count={count} what={what} more={next} busy={busy} />
    </>
  );
}

function Row({ line, stage, children }: { line: Inspection; stage: string; children: ReactNode }) {
  return (
    <Box as="li" borderTopWidth="1px" borderColor="line">
      <Link to={`/inspection/${line.id}/${stage}`} style={{ display: "block" }}>
        <Flex align="center" gap={{ base: "3", md: "6" }} py="2.5" px="2" minH="14" _hover={{ bg: "lampWash" }}>
          <Text fontFamily="mono" color="quiet" w="4.5rem" flex="none">
            {line.reference ?? "no ref."}
          </Text>
          <Box flex="1" minW="0">
            <Text fontWeight="semibold" lineClamp={2}>
              {line.property_address ?? "No address yet"}
            </Text>
            <Text color="quiet" fontSize="sm" truncate>
              {[line.client_name ?? "No client yet", day(line.inspected_on)].filter(Boolean).join(" · ")}
            </Text>
          </Box>
          {children}
        </Flex>
      </Link>
    </Box>
  );
}

export function InHand({ line }: { line: Inspection }) {
  return (
    <Row line={line} stage={line.held_reason ? "brief" : "dead"}>
      {line.held_reason && (
        <Text fontSize="sm" maxW="16rem" borderLeftWidth="3px" borderColor="ink" pl="2">
          <b>On hold{line.return_on ? `, return ${day(line.return_on)}` : ""}</b>
          <br />
          {line.held_reason}
        </Text>
      )}
      <Flex direction="column" align="flex-end" flex="none" gap="0.5">
        <Text>
          <Box as="b" fontFamily="mono" fontSize="xl">
            {line.left}
          </Box>{" "}
          left
        </Text>
        {!!line.failing && (
          <Flex align="center" gap="1.5" fontSize="sm">
            <Mark status="fail" /> {line.failing} failing
          </Flex>
        )}
      </Flex>
    </Row>
  );
}

export function Issued({ line }: { line: Inspection }) {
  return (
    <Row line={line} stage="report">
      <Flex direction="column" align="flex-end" flex="none" gap="0.5">
        <Flex align="center" gap="1.5" fontWeight="semibold">
          <Mark status={line.outcome === "satisfactory" ? "pass" : "fail"} /> {line.outcome}
        </Flex>
        <Text fontSize="sm" color="quiet">
          issue {line.issued}
          {line.next_due && ` · due ${day(line.next_due)}`}
        </Text>
      </Flex>
    </Row>
  );
}
