/** A screen outside an inspection: where one is, what it is called, its parts, and its lists. */
import { Box, Flex, Heading, Link as ChakraLink } from "@chakra-ui/react";
import type { ReactNode } from "react";
import { Link } from "react-router";

interface PageProps {
  title: string;
  /** Screens above this one: address and name. */
  trail?: readonly (readonly [to: string, name: string])[];
  /** Stands behind the title. */
  tools?: ReactNode;
  /** Needs the width of a desk: two columns. */
  wide?: boolean;
  children: ReactNode;
}

export function Page({ title, trail = [], tools, wide, children }: PageProps) {
  const above = [["/", "Home"] as const, ...trail];
  return (
    <Box as="main" maxW={wide ? "76rem" : "64rem"} mx="auto" px="4" pb="16">
      <Flex as="nav" aria-label="Where you are" wrap="wrap" align="center" columnGap="2" minH="13" color="quiet">
        {above.map(([to, name], at) => (
          <Flex key={to} align="center" gap="2">
            {at > 0 && <span aria-hidden="true">›</span>}
            <ChakraLink asChild color="quiet" minH="9" display="inline-grid" placeItems="center">
              <Link to={to}>{name}</Link>
            </ChakraLink>
          </Flex>
        ))}
      </Flex>
      <Flex as="header" wrap="wrap" columnGap="5" rowGap="2" align="baseline" mb="4">
        <Heading as="h1" flex="1 1 16rem">
          {title}
        </Heading>
        {tools}
      </Flex>
      {children}
    </Box>
  );
}

interface SectionProps {
  title: string;
  /** Stands behind the heading. */
  tools?: ReactNode;
  /** A line about it. */
  lead?: ReactNode;
  children?: ReactNode;
  /** First of its page: no line above. */
  first?: boolean;
}

/** A part of a screen under its own heading. */
export function Section({ title, tools, lead, children, first }: SectionProps) {
  return (
    <Box
      as="section"
      aria-label={title}
      mb="6"
      pt={first ? "0" : "4"}
      borderTopWidth={first ? "0" : "1px"}
      borderColor="line"
    >
      <Flex align="center" justify="space-between" wrap="wrap" columnGap="4" rowGap="1" mb="2.5">
        <Heading as="h2" size="md">
          {title}
        </Heading>
        {tools}
      </Flex>
      {lead && (
        <Box color="quiet" mb="3" maxW="46rem">
          {lead}
        </Box>
      )}
      {children}
    </Box>
  );
}

/** Fields side by side, as many as fit. */
export function FieldGrid({ children }: { children: ReactNode }) {
  return (
    <Box
      display="grid"
      gridTemplateColumns="repeat(auto-fill, minmax(min(14rem, 100%), 1fr))"
      gap="4"
      mb="6"
      alignItems="start"
    >
      {children}
    </Box>
  );
}

/** Takes the whole width among fields. */
export function Wide({ children }: { children: ReactNode }) {
  return <Box gridColumn="1 / -1">{children}</Box>;
}

/** A list of lines, each with a thin rule above it. */
export function Lines({ label, children }: { label?: string; children: ReactNode }) {
  return (
    <Box
      as="ul"
      listStyleType="none"
      aria-label={label}
      borderBottomWidth="1px"
      borderColor="line"
      mb="3"
      _empty={{ display: "none" }}
    >
      {children}
    </Box>
  );
}

interface LineProps {
  /** Where a tap on it leads. */
  to?: string;
  children: ReactNode;
}

/** A line of a list: what stands in it, side by side. */
export function Line({ to, children }: LineProps) {
  const inside = (
    <Flex
      wrap="wrap"
      columnGap="5"
      rowGap="0.5"
      align="center"
      py="2.5"
      px="1.5"
      minH="14"
      _hover={to ? { bg: "lampWash" } : undefined}
    >
      {children}
    </Flex>
  );
  return (
    <Box as="li" borderTopWidth="1px" borderColor="line">
      {to ? (
        <Link to={to} style={{ display: "block" }}>
          {inside}
        </Link>
      ) : (
        inside
      )}
    </Box>
  );
}
