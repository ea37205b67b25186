/** The properties of a portfolio, any number of them: only what is in sight is drawn and asked for. */
import { Box, Grid, Link as ChakraLink, Text } from "@chakra-ui/react";
import { keepPreviousData, useQueries } from "@tanstack/react-query";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useRef } from "react";
import { api, answer, type Schemas } from "../api/client";
import { StateMark } from "../drawings/StateMark";
import { Link } from "../ui/Link";
import { useNarrow } from "../ui/layout";
import { day } from "../ui/when";
import { asked, type Looked } from "./query";

type Line = Schemas["PortfolioLineOut"];

interface Props {
  client: string;
  looked: Looked;
  portfolio: Schemas["PortfolioOut"];
  lit: string;
  light: (id: string) => void;
}

/** As the server gives them out. */
const PAGE = 100;
const HEIGHT = { wide: 60, narrow: 84 };

export function PropertyList({ client, looked, portfolio, lit, light }: Props) {
  const narrow = useNarrow();
  const scroller = useRef<HTMLDivElement>(null);
  const height = narrow ? HEIGHT.narrow : HEIGHT.wide;
  // eslint-disable-next-line react-hooks/incompatible-library -- what it returns is read here alone, and kept nowhere
  const rows = useVirtualizer({
    count: portfolio.count,
    getScrollElement: () => scroller.current,
    estimateSize: () => height,
    overscan: 8,
  });
  const items = rows.getVirtualItems();
  const pages = [...new Set(items.map((item) => Math.floor(item.index / PAGE)))];
  const answers = useQueries({
    queries: pages.map((page) => ({
      queryKey: ["portfolio", client, asked(looked), page * PAGE],
      queryFn: () =>
        answer(
          api.GET("/api/portfolio", {
            params: { query: { ...(client && { client_id: client }), ...asked(looked), start: page * PAGE } },
          }),
        ),
      placeholderData: keepPreviousData,
      staleTime: 2000,
    })),
  });
  const lineAt = (index: number): Line | undefined =>
    answers[pages.indexOf(Math.floor(index / PAGE))]?.data?.lines[index % PAGE];
  if (portfolio.count === 0)
    return (
      <Text py="6" color="quiet">
        No property matches. Remove a filter to see more.
      </Text>
    );
  return (
    <Box
      ref={scroller}
      overflowY="auto"
      maxH={{ base: "70dvh", lg: "calc(100dvh - 6rem)" }}
      minH="20rem"
      borderTopWidth="1px"
      borderColor="line"
      tabIndex={0}
      role="region"
      aria-label={`Properties, ${portfolio.count}`}
    >
      <Box as="ul" listStyleType="none" position="relative" style={{ height: rows.getTotalSize() }}>
        {items.map((item) => (
          <Box
            as="li"
            key={item.key}
            position="absolute"
            top="0"
            left="0"
            right="0"
            aria-setsize={portfolio.count}
            aria-posinset={item.index + 1}
            style={{ height: item.size, transform: `translateY(${item.start}px)` }}
          >
            <PropertyLine line={lineAt(item.index)} today={portfolio.today} client={client} lit={lit} light={light} />
          </Box>
        ))}
      </Box>
    </Box>
  );
}

interface LineProps {
  line: Line | undefined;
  today: string;
  client: string;
  lit: string;
  light: (id: string) => void;
}

function PropertyLine({ line, client, lit, light }: LineProps) {
  if (!line) return <Box height="full" borderBottomWidth="1px" borderColor="line" aria-hidden />;
  const { first, also } = line;
  const more = [
    line.reference,
    !client && line.client,
    ...also.filter((one) => one.state !== "done").map((one) => `also ${one.state}${one.late ? ", late" : ""}`),
    line.due_on && line.due_on !== first.on && `due ${day(line.due_on)}`,
    line.doubt && `Coordinates: ${line.doubt}`,
  ].filter(Boolean);
  return (
    <Grid
      templateColumns={{ base: "auto minmax(0, 1fr) auto", md: "auto minmax(0, 1fr) 12rem 6.5rem" }}
      height="full"
      alignItems="center"
      columnGap="3"
      px="1.5"
      borderBottomWidth="1px"
      borderColor="line"
      bg={lit === line.id ? "lampWash" : undefined}
      _hover={{ bg: "lampWash" }}
      onPointerEnter={() => light(line.id)}
      onFocus={() => light(line.id)}
    >
      <StateMark state={first.state} late={first.late} />
      <Box minW="0">
        <ChakraLink asChild fontWeight="700" display="block" truncate>
          <Link to={`/property/${line.id}`}>{line.address}</Link>
        </ChakraLink>
        <Text color="quiet" fontSize="sm" truncate>
          {[first.state, ...more].join(" · ")}
        </Text>
      </Box>
      <Box minW="0" hideBelow="md" fontSize="sm">
        <Text truncate>{first.next_step}</Text>
        <Text color="quiet" truncate>
          {first.holder === "nobody" ? "" : first.holder}
        </Text>
      </Box>
      <Box textAlign="right" fontVariantNumeric="tabular-nums" whiteSpace="nowrap">
        <Box fontFamily="mono" fontWeight={first.late ? "700" : "400"}>
          {first.on ? day(first.on) : "no day"}
        </Box>
        {first.late && (
          <Text fontSize="sm" fontWeight="700">
            late
          </Text>
        )}
      </Box>
    </Grid>
  );
}
