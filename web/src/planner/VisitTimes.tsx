/** What visits took against their estimates: each visit as a point, the middle and the spread of each kind as a bar. */
import { Box, Flex, Grid, Text } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, answer, type Schemas } from "../api/client";
import { explain } from "../api/errors";
import { Button } from "../ui/Button";
import { Page, Section } from "../ui/Page";
import { Empty, Loading, Trouble } from "../ui/States";
import { hours } from "../ui/when";

type VisitTimesOut = Schemas["VisitTimesOut"];
type Factor = Schemas["FactorOut"];

const GROUPS = [
  ["by_kind", "By size of home"],
  ["by_inspector", "By inspector"],
  ["by_client", "By client"],
] as const;

export default function VisitTimes() {
  const visitTimes = useQuery({
    queryKey: ["visit-times"],
    queryFn: () => answer(api.GET("/api/visit-times")),
    staleTime: 0,
  });
  const [group, setGroup] = useState<(typeof GROUPS)[number][0]>("by_kind");
  if (visitTimes.isPending) return <Loading what="visit times" />;
  if (visitTimes.isError) return <Trouble message={explain(visitTimes.error)} again={() => visitTimes.refetch()} />;
  const { visits, firm } = visitTimes.data;
  return (
    <Page wide title="Visit times" trail={[["/planner", "Planner"]]}>
      {!firm && (
        <Empty title="No visit recorded yet">
          Record arrival and departure on site, or enter at the job how long it took. Then estimates learn from it.
        </Empty>
      )}
      {firm && (
        <>
          <Text fontSize="2xl" fontWeight="700" mb="1">
            {firm.says}
          </Text>
          <Text color="quiet" mb="4">
            {firm.visits} {firm.visits === 1 ? "visit" : "visits"}; half of them took {percent(firm.low)} to{" "}
            {percent(firm.high)} of their estimate. New visits are planned by it.
          </Text>
          <Grid templateColumns={{ base: "minmax(0, 1fr)", lg: "minmax(0, 1fr) minmax(0, 1fr)" }} gap="8">
            <Scatter visits={visits} />
            <Section title="How far estimates hold" first>
              <Flex gap="2" wrap="wrap" mb="3" role="group" aria-label="Parted by">
                {GROUPS.map(([key, words]) => (
                  <Button key={key} size="sm" variant="choice" pressed={group === key} onClick={() => setGroup(key)}>
                    {words}
                  </Button>
                ))}
              </Flex>
              {[firm, ...visitTimes.data[group]].map((one, at) => (
                <Spread key={`${one.name} ${at}`} factor={one} />
              ))}
              <Axis />
            </Section>
          </Grid>
        </>
      )}
    </Page>
  );
}

const percent = (factor: number) => `${Math.round(factor * 100)}%`;

/** From half of the estimate to twice it. */
const FROM = 0.5;
const TO = 1.75;
const across = (factor: number) => ((Math.min(Math.max(factor, FROM), TO) - FROM) / (TO - FROM)) * 100;

function Spread({ factor }: { factor: Factor }) {
  return (
    <Box mb="2.5">
      <Flex justify="space-between" gap="3">
        <Text fontWeight="600" truncate>
          {factor.name}
        </Text>
        <Text color="quiet" fontSize="sm" whiteSpace="nowrap">
          {/^\d+ visit/.test(factor.says) ? factor.says : `${factor.says.replace(/\.$/, "")} · ${factor.visits} visits`}
        </Text>
      </Flex>
      <Box
        position="relative"
        height="5"
        role="img"
        aria-label={`${factor.name}: ${percent(factor.middle)} of the estimate, half between ${percent(factor.low)} and ${percent(factor.high)}`}
      >
        <Box position="absolute" top="9px" left="0" right="0" borderTopWidth="1px" borderColor="line" />
        <Box
          position="absolute"
          top="0"
          bottom="0"
          borderLeftWidth="1.5px"
          borderColor="faint"
          style={{ left: `${across(1)}%` }}
        />
        <Box
          position="absolute"
          top="4px"
          height="12px"
          bg="half"
          borderWidth="1px"
          borderColor="ink"
          borderRadius="sm"
          style={{
            left: `${across(factor.low)}%`,
            width: `${Math.max(across(factor.high) - across(factor.low), 0.8)}%`,
          }}
        />
        <Box
          position="absolute"
          top="1px"
          height="18px"
          width="4px"
          ml="-2px"
          bg="ink"
          style={{ left: `${across(factor.middle)}%` }}
        />
      </Box>
    </Box>
  );
}

function Axis() {
  return (
    <Box position="relative" height="6" fontFamily="mono" fontSize="sm" color="quiet" aria-hidden>
      {[0.5, 0.75, 1, 1.25, 1.5, 1.75].map((at) => (
        <Box
          key={at}
          position="absolute"
          transform={at === FROM ? undefined : at === TO ? "translateX(-100%)" : "translateX(-50%)"}
          style={{ left: `${across(at)}%` }}
        >
          {percent(at)}
        </Box>
      ))}
    </Box>
  );
}

const SIZE = 420;
const EDGE = 44;

/** Each visit: estimated to the right, taken upwards; on the line they are alike. */
function Scatter({ visits }: { visits: VisitTimesOut["visits"] }) {
  const most = Math.max(240, ...visits.flatMap((one) => [one.estimated, one.actual])) * 1.06;
  const at = (minutes: number) => (minutes / most) * (SIZE - EDGE - 12);
  const steps = Array.from({ length: Math.floor(most / 120) + 1 }, (_, step) => step * 120);
  return (
    <Box color="ink" maxW="34rem">
      <svg
        viewBox={`0 0 ${SIZE} ${SIZE}`}
        width="100%"
        role="img"
        aria-label={`${visits.length} visits, taken against estimated`}
      >
        {steps.map((step) => (
          <g key={step} fill="var(--d-colors-quiet)" fontSize="12">
            <line
              x1={EDGE}
              x2={SIZE - 12}
              y1={SIZE - EDGE - at(step)}
              y2={SIZE - EDGE - at(step)}
              stroke="var(--d-colors-line)"
            />
            <text x={EDGE - 6} y={SIZE - EDGE - at(step) + 4} textAnchor="end">
              {step / 60} h
            </text>
            <text x={EDGE + at(step)} y={SIZE - EDGE + 18} textAnchor="middle">
              {step / 60} h
            </text>
          </g>
        ))}
        <line
          x1={EDGE}
          y1={SIZE - EDGE}
          x2={EDGE + at(most)}
          y2={SIZE - EDGE - at(most)}
          stroke="var(--d-colors-sea)"
          strokeWidth="2"
        />
        {visits.map((one, index) => (
          <circle
            key={index}
            cx={EDGE + at(one.estimated)}
            cy={SIZE - EDGE - at(one.actual)}
            r="5"
            fill="var(--d-colors-half)"
            stroke="currentColor"
            strokeWidth="1.6"
          >
            <title>
              {[one.client, one.kind, `${hours(one.estimated)} estimated, ${hours(one.actual)} taken`, one.inspector]
                .filter(Boolean)
                .join(" · ")}
            </title>
          </circle>
        ))}
        <text x={SIZE - 12} y={SIZE - 8} fontSize="13" textAnchor="end" fill="var(--d-colors-quiet)">
          estimated
        </text>
        <text x={EDGE + 6} y="16" fontSize="13" fill="var(--d-colors-quiet)">
          taken
        </text>
      </svg>
    </Box>
  );
}
