/** A week of every inspector as strips: bars are visits, ticks keys, thin lines the way; hatched may not be moved. */
import { Box, Flex, Heading, Text } from "@chakra-ui/react";
import { Button, IconButton } from "../ui/Button";
import { day } from "../ui/when";
import { along, type Span, spanOf } from "../ui/minutes";
import { Strip } from "./Strip";
import type { Plan, Planning, PlanInspector } from "./usePlanner";

interface Props {
  plan: Plan;
  planning: Planning;
  chosen: string;
  choose: (id: string) => void;
  show: (monday: string) => void;
}

export function WeekStrips({ plan, planning, chosen, choose, show }: Props) {
  const span = spanOf(plan.inspectors);
  const from = (weeks: number) => new Date(Date.parse(plan.monday) + weeks * 604_800_000).toISOString().slice(0, 10);
  return (
    <Box as="section" aria-label="Week">
      <Flex align="center" wrap="wrap" columnGap="2" rowGap="1" mb="2">
        <IconButton icon="back" label="Week before" onClick={() => show(from(-1))} />
        <Heading as="h2" size="md">
          Week {weekNumber(plan.monday)}, from {day(plan.monday, { day: "numeric", month: "long" })}
        </Heading>
        <IconButton icon="forward" label="Week after" onClick={() => show(from(1))} />
        <Button size="sm" onClick={() => show(plan.today)}>
          This week
        </Button>
        <Text color="quiet" fontSize="sm" hideBelow="md">
          bars are visits, ticks keys, thin lines the way; hatched: stays there
        </Text>
      </Flex>
      {plan.inspectors.map((inspector) => (
        <InspectorWeek
          key={inspector.id}
          inspector={inspector}
          plan={plan}
          span={span}
          planning={planning}
          chosen={chosen}
          choose={choose}
        />
      ))}
    </Box>
  );
}

interface WeekProps {
  inspector: PlanInspector;
  plan: Plan;
  span: Span;
  planning: Planning;
  chosen: string;
  choose: (id: string) => void;
}

function InspectorWeek({ inspector, plan, span, planning, chosen, choose }: WeekProps) {
  const first = Math.ceil(span.from / 120) * 120;
  const hours = Array.from({ length: Math.floor((span.to - first) / 120) + 1 }, (_, at) => first + at * 120);
  const most = inspector.most_visits === 1 ? "one home a day at most" : `${inspector.most_visits} homes a day at most`;
  return (
    <Box as="section" aria-label={inspector.name} mb="5">
      <Text mb="1">
        <b>{inspector.name}</b>{" "}
        <Box as="span" color="quiet" fontSize="sm">
          {inspector.worked} {inspector.worked === 1 ? "day" : "days"} of {inspector.of} · {most}
        </Box>
      </Text>
      {inspector.days.map((one) => (
        <Strip
          key={one.day}
          day={one}
          inspector={inspector}
          plan={plan}
          span={span}
          planning={planning}
          chosen={chosen}
          choose={choose}
        />
      ))}
      <Box position="relative" height="5" ml="4.5rem" aria-hidden fontFamily="mono" fontSize="sm" color="quiet">
        {hours.map((hour) => (
          <Box key={hour} position="absolute" transform="translateX(-50%)" style={{ left: `${along(hour, span)}%` }}>
            {hour / 60}
          </Box>
        ))}
      </Box>
    </Box>
  );
}

/** The number of a week by ISO 8601: the first has the year's first Thursday. */
function weekNumber(monday: string): number {
  const thursday = new Date(Date.parse(monday) + 3 * 86_400_000);
  return Math.ceil(((thursday.getTime() - Date.UTC(thursday.getUTCFullYear(), 0, 1)) / 86_400_000 + 1) / 7);
}
