/** What the planner goes by: who makes visits and when, where keys are, how fast one drives, how much slack is kept. */
import { Box, Flex, Grid, Text } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, answer, type Me, type Schemas } from "../api/client";
import { explain } from "../api/errors";
import type { Value } from "../inspection/types";
import { addEntry, changeEntry, type Entry, EntryFields, textOf } from "../register/entry";
import { Calendars } from "../occupier/Calendars";
import { Button } from "../ui/Button";
import { type Choice } from "../ui/ChoiceField";
import { Page, Section } from "../ui/Page";
import { SelectField } from "../ui/SelectField";
import { Empty, Loading, Told, Trouble } from "../ui/States";
import { tell } from "../ui/tell";
import { day } from "../ui/when";
import { PlanSettings } from "./PlanSettings";

type WeeksOut = Schemas["WeeksOut"];
type Act = (work: () => Promise<unknown>) => Promise<void>;

const QUERY = ["weeks"];
const WEEK = [
  "name",
  "starts_at",
  "ends_at",
  "most_visits",
  "most_minutes",
  "latitude",
  "longitude",
  "by_request",
] as const;
const DAYS = [
  ["not_monday", "Monday"],
  ["not_tuesday", "Tuesday"],
  ["not_wednesday", "Wednesday"],
  ["not_thursday", "Thursday"],
  ["not_friday", "Friday"],
] as const;

export default function Weeks({ me }: { me: Me }) {
  const queries = useQueryClient();
  const [trouble, setTrouble] = useState("");
  const weeksQuery = useQuery({ queryKey: QUERY, queryFn: () => answer(api.GET("/api/planner/weeks")), staleTime: 0 });
  if (weeksQuery.isPending) return <Loading what="inspectors and keys" />;
  if (weeksQuery.isError) return <Trouble message={explain(weeksQuery.error)} again={() => weeksQuery.refetch()} />;
  const act: Act = async (work) => {
    try {
      await work();
      setTrouble("");
    } catch (error) {
      setTrouble(explain(error));
    }
    await queries.invalidateQueries({ queryKey: QUERY });
  };
  const { weeks, key_holders, settings, travel } = weeksQuery.data;
  return (
    <Page wide title="Inspectors and keys" trail={[["/planner", "Planner"]]}>
      {trouble && <Told trouble>{trouble}</Told>}
      <Section
        first
        title="Inspectors"
        lead="Whose days are filled. Somebody only by request is asked where a visit does not fit."
        tools={<NewWeek me={me} kept={weeksQuery.data} act={act} />}
      >
        {weeks.length === 0 && <Empty title="No inspector yet">Add who makes visits, and from where.</Empty>}
        <Grid templateColumns="repeat(auto-fill, minmax(min(24rem, 100%), 1fr))" gap="4">
          {weeks.map((week) => (
            <Week key={week.entry.id} week={week} act={act} />
          ))}
        </Grid>
      </Section>
      <Section
        title="Key places"
        lead="Keys are fetched on the way to the first visit that needs them, and brought back the same day."
        tools={<Button onClick={() => act(() => addEntry("key_holder", me.firm_id, {}))}>Add key place</Button>}
      >
        <Grid templateColumns="repeat(auto-fill, minmax(min(24rem, 100%), 1fr))" gap="4">
          {key_holders.map((holder) => (
            <Card key={holder.id} title={textOf(holder, "name") || "New key place"} entry={holder} act={act}>
              <EntryFields
                entry={holder}
                query={QUERY}
                fields={["name", "address", "phone", "opens_at", "closes_at", "latitude", "longitude"]}
                wide={["address"]}
              />
            </Card>
          ))}
        </Grid>
      </Section>
      <PlanSettings settings={settings} travel={travel} act={act} />
    </Page>
  );
}

/** A new week, of one of the firm's people who has none yet, or of somebody else. */
function NewWeek({ me, kept, act }: { me: Me; kept: WeeksOut; act: Act }) {
  const [who, setWho] = useState("");
  const known = new Set(kept.weeks.map((week) => week.entry.values.person_id));
  const people = kept.people.filter((one) => !known.has(one.id));
  const choices: Choice[] = [["", "somebody else"], ...people.map((one): Choice => [one.id, one.name])];
  const add = () => {
    const person = people.find((one) => one.id === who);
    const values: Record<string, Value> = { starts_at: "08:00", ends_at: "17:00", most_visits: 2 };
    void act(() =>
      addEntry("working_week", me.firm_id, {
        ...values,
        ...(person ? { name: person.name, person_id: person.id } : { name: "New inspector" }),
      }),
    );
    setWho("");
  };
  return (
    <Flex gap="2" align="flex-end" wrap="wrap">
      <Box width="12rem">
        <SelectField quiet label="Whose week" value={who} choices={choices} change={setWho} />
      </Box>
      <Button onClick={add}>Add inspector</Button>
    </Flex>
  );
}

function Week({ week, act }: { week: WeeksOut["weeks"][number]; act: Act }) {
  const { entry, days_off } = week;
  const set = (field: string, on: boolean) => act(() => changeEntry(entry, { [field]: on }));
  return (
    <Card title={textOf(entry, "name") || "Inspector"} entry={entry} act={act}>
      <Flex gap="1.5" wrap="wrap" mb="4" role="group" aria-label="Works on">
        {DAYS.map(([field, name]) => (
          <Button
            key={field}
            size="sm"
            variant="choice"
            pressed={!entry.values[field]}
            onClick={() => set(field, !entry.values[field])}
          >
            {name.slice(0, 3)}
          </Button>
        ))}
        <Button
          size="sm"
          variant="choice"
          pressed={!!entry.values.on_saturday}
          onClick={() => set("on_saturday", !entry.values.on_saturday)}
        >
          Sat
        </Button>
      </Flex>
      <EntryFields entry={entry} query={QUERY} fields={WEEK} />
      <Text fontWeight="700">Days off</Text>
      {days_off.map((off) => (
        <Box key={off.id} borderTopWidth="1px" borderColor="line" py="2">
          <EntryFields entry={off} query={QUERY} fields={["first_day", "last_day", "reason"]} />
          <Remove entry={off} name={textOf(off, "first_day") ? day(textOf(off, "first_day")) : "day off"} act={act} />
        </Box>
      ))}
      <Button size="sm" onClick={() => act(() => addEntry("day_off", entry.id, {}))}>
        Add days off
      </Button>
      <Text fontWeight="700" mt="4">
        Calendar
      </Text>
      <Calendars whose="inspector" of={entry.id} />
    </Card>
  );
}

interface CardProps {
  title: string;
  entry: Entry;
  act: Act;
  children: React.ReactNode;
}

function Card({ title, entry, act, children }: CardProps) {
  return (
    <Box
      as="section"
      aria-label={title}
      bg="sheet"
      borderWidth="1px"
      borderColor="line"
      borderRadius="lg"
      px="4"
      py="3"
      alignSelf="start"
    >
      <Flex align="baseline" justify="space-between" gap="3" mb="3">
        <Text fontWeight="700" fontSize="lg">
          {title}
        </Text>
        <Remove entry={entry} name={title} act={act} />
      </Flex>
      {children}
    </Box>
  );
}

function Remove({ entry, name, act }: { entry: Entry; name: string; act: Act }) {
  const remove = () =>
    act(async () => {
      await changeEntry(entry, { removed: true });
      tell(`${name} removed.`, () => void act(() => changeEntry(entry, { removed: false })));
    });
  return (
    <Button size="sm" variant="quiet" label={`Remove ${name}`} onClick={remove}>
      Remove
    </Button>
  );
}
