/** Why the chosen visit is where it is, and what can be done with it; below it what does not fit, with its ways out. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { api, answer } from "../api/client";
import { explain } from "../api/errors";
import { Button } from "../ui/Button";
import { Fold } from "../ui/Fold";
import { Link } from "../ui/Link";
import { day, hours } from "../ui/when";
import { clockOf } from "../ui/minutes";
import { MoveForm } from "./MoveForm";
import { Occupier } from "../occupier/Occupier";
import type { Plan, Planning, PlanVisit } from "./usePlanner";

interface Props {
  plan: Plan;
  visit: PlanVisit | undefined;
  planning: Planning;
  choose: (id: string) => void;
  mayBook: boolean;
}

const SHORT = { weekday: "short", day: "numeric", month: "short" } as const;
/** So many visits without a place are told of at once. */
const TOLD = 5;

export function Why({ plan, visit, planning, choose, mayBook }: Props) {
  const left = plan.visits.filter((one) => one.why !== null && one.id !== visit?.id);
  const planned = plan.planned_at !== null;
  return (
    <Box as="aside" aria-label="Why" position="sticky" top="3">
      <Text fontWeight="700" color="quiet" mb="2">
        Why
      </Text>
      {visit ? (
        <Chosen key={visit.id} plan={plan} visit={visit} planning={planning} mayBook={mayBook} />
      ) : (
        <Text color="quiet" mb="4">
          Choose a visit: why it is there stands here.
        </Text>
      )}
      {planned &&
        left.slice(0, TOLD).map((one) => (
          <Card key={one.id} title={`${one.name} does not fit`} weight="ink">
            <Text>{one.why}</Text>
            <Button size="sm" onClick={() => choose(one.id)}>
              Ways out
            </Button>
          </Card>
        ))}
      {planned && left.length > TOLD && <Text color="quiet">and {left.length - TOLD} more without a place</Text>}
    </Box>
  );
}

interface ChosenProps {
  plan: Plan;
  visit: PlanVisit;
  planning: Planning;
  mayBook: boolean;
}

function Chosen({ plan, visit, planning, mayBook }: ChosenProps) {
  const where = visit.day ? `, ${day(visit.day, SHORT)} ${clockOf(visit.begins ?? 0)}` : "";
  const past = visit.day !== null && visit.day < plan.earliest;
  return (
    <Card title={`${visit.name}${where}`} weight={visit.why === null ? "lamp" : "ink"}>
      {visit.wrong && (
        <Text>
          <b>{visit.wrong}</b> Replan, or move it.
        </Text>
      )}
      {visit.why && <Text>{visit.why}</Text>}
      {visit.reasons.map((reason) => (
        <Text key={reason}>{reason}</Text>
      ))}
      {visit.reasons.length === 0 && (
        <Text>
          {hours(visit.minutes)} on site{visit.deadline && `, by ${day(visit.deadline)}`}.
        </Text>
      )}
      <Text fontSize="sm">
        <Link to={`/job/${visit.job_id}`}>Job and letters</Link> ·{" "}
        <Link to={`/property/${visit.property_id}`}>Property</Link>
      </Text>
      {!past && (
        <Flex gap="2" wrap="wrap">
          {visit.day && !visit.booked && (
            <Button size="sm" disabled={planning.busy} onClick={() => planning.hold(visit, !visit.pinned)}>
              {visit.pinned ? "Let planning move it" : "Keep here"}
            </Button>
          )}
          {mayBook && visit.day && !visit.booked && !visit.wrong && visit.inspection_id === null && (
            <Button size="sm" disabled={planning.busy} onClick={() => planning.book(visit)}>
              Book, occupier told
            </Button>
          )}
          {mayBook && visit.booked && (
            <Button size="sm" disabled={planning.busy} onClick={() => planning.unbook(visit)}>
              Cancel booking
            </Button>
          )}
        </Flex>
      )}
      {visit.why !== null && plan.planned_at !== null && <WaysOut visit={visit} planning={planning} />}
      {visit.inspection_id === null && (
        <Fold title="Occupier" opened={visit.asked !== null || visit.booked} small>
          <Occupier visit={visit} changed={() => void planning.plan.refetch()} />
        </Fold>
      )}
      {!past && !visit.booked && <MoveForm plan={plan} visit={visit} planning={planning} />}
    </Card>
  );
}

function WaysOut({ visit, planning }: { visit: PlanVisit; planning: Planning }) {
  const ways = useQuery({
    queryKey: ["ways-out", visit.id, visit.version, planning.plan.data?.version],
    queryFn: () =>
      answer(api.GET("/api/planner/visits/{visit_id}/ways-out", { params: { path: { visit_id: visit.id } } })),
    staleTime: 0,
  });
  if (ways.isPending) return <Text color="quiet">Looking for ways out …</Text>;
  if (ways.isError) return <Text>{explain(ways.error)}</Text>;
  if (ways.data.length === 0)
    return <Text>No single change makes room. Agree other times with the occupier, or a later last day.</Text>;
  return (
    <Box as="ul" listStyleType="none" aria-label="Ways out">
      {ways.data.map((way) => (
        <Box as="li" key={way.kind} mb="2">
          <Text>
            {way.says}: <b>{way.price}</b>
          </Text>
          <Button size="sm" disabled={planning.busy} onClick={() => planning.take(visit, way)}>
            {DOES[way.kind]}
          </Button>
        </Box>
      ))}
    </Box>
  );
}

const DOES = {
  "earlier start": "Start earlier",
  "move one visit": "Move visit",
  "another inspector": "Plan that day",
} as const;

function Card({ title, weight, children }: { title: string; weight: "lamp" | "ink"; children: ReactNode }) {
  return (
    <Box
      as="section"
      aria-label={title}
      borderLeftWidth="4px"
      borderColor={weight === "lamp" ? "lamp" : "ink"}
      bg={weight === "lamp" ? "lampWash" : undefined}
      px="3.5"
      py="3"
      mb="4"
      display="grid"
      gap="2"
    >
      <Text fontWeight="700" fontSize="lg">
        {title}
      </Text>
      {children}
    </Box>
  );
}
