/** The planner: visits against their deadlines, inspectors' weeks as strips, and why each visit is where it is. */
import { Box, Flex, Grid, Heading, Text } from "@chakra-ui/react";
import { useState } from "react";
import { useSearchParams } from "react-router";
import type { Me } from "../api/client";
import { explain } from "../api/errors";
import { Button, LinkButton } from "../ui/Button";
import { Link } from "../ui/Link";
import { Empty, Loading, Progress, Told, Trouble } from "../ui/States";
import { Drag, type LetGo } from "../ui/Drag";
import { day } from "../ui/when";
import { onGrid, spanOf } from "../ui/minutes";
import { DayMap } from "./DayMap";
import { type Planning, type Plan, usePlanner } from "./usePlanner";
import { VisitList } from "./VisitList";
import { WeekStrips } from "./WeekStrips";
import { Why } from "./Why";

export default function Planner({ me }: { me: Me }) {
  const [params, setParams] = useSearchParams();
  const week = params.get("week");
  const planning = usePlanner(week);
  const [chosen, choose] = useState("");
  const { plan } = planning;
  if (plan.isPending) return <Loading what="the planner" lines={8} />;
  if (plan.isError) return <Trouble message={explain(plan.error)} again={() => plan.refetch()} />;
  const planData = plan.data;
  const show = (monday: string) => setParams({ week: monday }, { replace: true });
  const pick = (id: string) => {
    choose(id);
    const visit = planData.visits.find((one) => one.id === id);
    if (visit?.day && !inWeek(visit.day, planData.monday)) show(visit.day);
  };
  const visit = planData.visits.find((one) => one.id === chosen);
  const drop = (thing: string, place: string, { at }: LetGo) => {
    const dragged = planData.visits.find((one) => one.id === thing.split(" ")[1]);
    const [, inspector_id = "", on = ""] = place.split(" ");
    if (!dragged || !on) return;
    const span = spanOf(planData.inspectors);
    // By keyboard no hour is chosen: any of that day will do.
    const begins = at === null ? null : onGrid(span.from + at * (span.to - span.from));
    choose(dragged.id);
    void planning.move(dragged, { inspector_id, day: on, begins });
  };
  const lit = planData.inspectors
    .flatMap((one) => one.days)
    .find((one) => one.stops.some((stop) => stop.id === chosen));
  return (
    <Box as="main" maxW="100rem" mx="auto" px="4" pb="12">
      <Head plan={planData} planning={planning} />
      {planData.notes.length > 0 && (
        <Told trouble={planData.inspectors.length === 0}>
          {planData.notes.map((note) => (
            <Text key={note}>{note}</Text>
          ))}
          <LinkButton to="/planner/weeks">Inspectors and keys</LinkButton>
        </Told>
      )}
      <Came planning={planning} />
      <Drag called={(id) => called(id, planData)} drop={drop}>
        <Grid
          templateColumns={{ base: "minmax(0, 1fr)", lg: "minmax(0, 1fr) 17.5rem", xl: "19rem minmax(0, 1fr) 17.5rem" }}
          columnGap="6"
          rowGap="6"
        >
          <Box gridColumn={{ lg: "1 / 3", xl: "auto" }} order={{ base: "2", xl: "0" }}>
            <VisitList plan={planData} chosen={chosen} choose={pick} />
          </Box>
          <Box order={{ base: "0" }} minW="0">
            {planData.inspectors.length > 0 && (
              <>
                <WeekStrips plan={planData} planning={planning} chosen={chosen} choose={choose} show={show} />
                <DayMap day={lit} inspectors={planData.inspectors} chosen={chosen} />
              </>
            )}
            {planData.inspectors.length === 0 && (
              <Empty title="Nobody makes visits yet">
                Add the inspectors' weeks; visits are planned on their days.
              </Empty>
            )}
          </Box>
          <Box order={{ base: "1" }}>
            <Why
              plan={planData}
              visit={visit}
              planning={planning}
              choose={pick}
              mayBook={me.may.includes("keep the register")}
            />
          </Box>
        </Grid>
      </Drag>
    </Box>
  );
}

/** What is dragged, and where to, for those who hear it. */
function called(id: string, plan: Plan): string {
  const [kind, first = "", second = ""] = id.split(" ");
  if (kind !== "strip") return plan.visits.find((one) => one.id === first)?.name ?? "the visit";
  const who = plan.inspectors.find((one) => one.id === first)?.name ?? "";
  return `${day(second, { weekday: "long", day: "numeric", month: "long" })} of ${who}`;
}

const inWeek = (iso: string, monday: string) => {
  const days = (Date.parse(iso) - Date.parse(monday)) / 86_400_000;
  return days >= 0 && days < 7;
};

function Head({ plan, planning }: { plan: Plan; planning: Planning }) {
  const { run } = planning;
  const running = run?.state === "running";
  const planned = plan.planned_s !== null && `planned in ${plan.planned_s.toFixed(1)} s`;
  const count = plan.visits.length;
  return (
    <>
      <Flex as="nav" aria-label="Where you are" align="center" columnGap="2" minH="13" color="quiet">
        <Link to="/">Home</Link>
        <span aria-hidden>›</span>
        <Link to="/portfolio">Portfolio</Link>
      </Flex>
      <Flex as="header" wrap="wrap" columnGap="5" rowGap="2" align="center" mb="3">
        <Heading as="h1" flex="1 1 14rem">
          Planner
        </Heading>
        <Text color="quiet">
          {[planned, `${plan.by_hand} of ${count} ${count === 1 ? "visit" : "visits"} kept by hand`]
            .filter(Boolean)
            .join(" · ")}
        </Text>
        <LinkButton to="/planner/times">Visit times</LinkButton>
        <LinkButton to="/planner/weeks">Inspectors and keys</LinkButton>
        {running ? (
          <Button disabled={run.stop_asked} onClick={() => planning.stop(run.id)}>
            {run.stop_asked ? "Stopping …" : "Stop, take best so far"}
          </Button>
        ) : (
          <>
            {plan.planned_at && (
              <Button title="Everything that nobody kept by hand may move" onClick={() => planning.begin(true)}>
                Plan all anew
              </Button>
            )}
            <Button variant="action" disabled={count === 0} onClick={() => planning.begin(false)}>
              {plan.planned_at ? "Replan" : "Plan visits"}
            </Button>
          </>
        )}
      </Flex>
      {running && (
        <Box mb="3">
          <Progress
            label={`${run.by} plans ${run.visits} visits. You can go on meanwhile.`}
            done={Math.round(run.progress * 100)}
          />
        </Box>
      )}
    </>
  );
}

/** So many moves are told by name. */
const SHOWN = 6;

/** What came of the last change, with everything that moved beside it. */
function Came({ planning }: { planning: Planning }) {
  const { told } = planning;
  if (!told?.words) return null;
  // What has a place for the first time stands in its week: nobody was told anything else.
  const moved = told.moved.filter((one) => one.was !== "no place");
  return (
    <Told trouble={told.trouble}>
      <Flex align="baseline" gap="3" wrap="wrap">
        <Box flex="1 1 20rem">
          <b>{told.words}</b>
          {moved.length > 0 && (
            <Box as="ul" listStyleType="none" aria-label="What moved">
              {moved.slice(0, SHOWN).map((one) => (
                <li key={one.visit_id}>
                  {one.name}: {one.was} → {one.now} ({one.why})
                </li>
              ))}
              {moved.length > SHOWN && <li>and {moved.length - SHOWN} more</li>}
            </Box>
          )}
        </Box>
        <Button size="sm" onClick={planning.dismiss}>
          Close
        </Button>
      </Flex>
    </Told>
  );
}
