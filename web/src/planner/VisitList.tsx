/** Every visit of the plan by its day; what has no place first. */
import { Box, Flex, Heading, Text } from "@chakra-ui/react";
import { StateMark } from "../drawings/StateMark";
import { useDragged } from "../ui/Drag";
import { day } from "../ui/when";
import { clockOf } from "../ui/minutes";
import type { Plan, PlanVisit } from "./usePlanner";

interface Props {
  plan: Plan;
  chosen: string;
  choose: (id: string) => void;
}

const SHORT = { weekday: "short", day: "numeric", month: "short" } as const;
const placed = (visit: PlanVisit) => `${visit.day ?? ""} ${String(visit.begins ?? 0).padStart(5, "0")}`;

export function VisitList({ plan, chosen, choose }: Props) {
  const sorted = [...plan.visits].sort(
    (a, b) => Number(a.why === null) - Number(b.why === null) || placed(a).localeCompare(placed(b)),
  );
  const fitting = plan.visits.filter((one) => one.why === null).length;
  return (
    <Box as="section" aria-label="Visits">
      <Heading as="h2" size="lg">
        {headline(plan)}
      </Heading>
      <Text color="quiet" mb="2">
        {plan.visits.length} {plan.visits.length === 1 ? "visit" : "visits"}, {fitting} with a place.
      </Text>
      <Box as="ul" listStyleType="none" maxH={{ xl: "calc(100dvh - 14rem)" }} overflowY="auto">
        {sorted.map((visit) => (
          <VisitLine key={visit.id} visit={visit} chosen={visit.id === chosen} choose={choose} />
        ))}
      </Box>
    </Box>
  );
}

function VisitLine({ visit, chosen, choose }: { visit: PlanVisit; chosen: boolean; choose: (id: string) => void }) {
  // What has no place is dragged onto a strip from here.
  const dragged = useDragged(`list ${visit.id}`, visit.why === null || visit.booked);
  const state = visit.why !== null ? visit.why : visit.booked ? "booked" : (visit.asked ?? "planned");
  return (
    <Box as="li" borderTopWidth="1px" borderColor="line">
      <Flex
        as="button"
        {...dragged}
        width="full"
        textAlign="start"
        align="baseline"
        columnGap="2"
        py="2"
        px="1.5"
        minH="12"
        bg={chosen ? "lampWash" : undefined}
        _hover={{ bg: "lampWash" }}
        aria-pressed={chosen}
        onClick={() => choose(visit.id)}
      >
        <StateMark
          state={visit.booked ? "booked" : "asked"}
          late={visit.why !== null || visit.wrong !== null}
          size={11}
        />
        <Box flex="1" minW="0">
          <Text fontWeight="700" truncate>
            {visit.name}
          </Text>
          <Text color="quiet" fontSize="sm" lineClamp={2}>
            {visit.wrong ?? state}
          </Text>
        </Box>
        <Box fontFamily="mono" fontSize="sm" textAlign="end" whiteSpace="nowrap">
          {visit.day ? day(visit.day, SHORT) : visit.deadline ? `by ${day(visit.deadline, SHORT)}` : "no day"}
          {visit.begins !== null && <Text color="quiet">{clockOf(visit.begins)}</Text>}
        </Box>
      </Flex>
    </Box>
  );
}

/** The headline of what is planned against which day. */
function headline(plan: Plan): string {
  const left = plan.visits.filter((one) => one.why !== null).length;
  const count = plan.visits.length;
  const deadlines = plan.visits.flatMap((one) => (one.deadline ? [one.deadline] : [])).sort();
  const last = deadlines.at(-1);
  const before = last ? ` before ${day(last, { day: "numeric", month: "long" })}` : "";
  if (count === 0) return "Nothing to plan";
  if (left === 0) return `All ${count}${before}`;
  if (left === count) return `${count} to be planned${before}`;
  return `All but ${left === 1 ? "one" : left}${before}`;
}
