/** A property: its story first, over the years and circuit by circuit; beside it the facts, edited where they stand. */
import { Box, Grid, Text } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import { api, answer, type Schemas } from "../api/client";
import { remembered } from "../api/remembered";
import { fetchProperty } from "../inspection/bag";
import { explain } from "../api/errors";
import type { Value } from "../inspection/types";
import { Button } from "../ui/Button";
import { Fold } from "../ui/Fold";
import { Line, Lines, Page, Section } from "../ui/Page";
import { Empty, Loading, Told, Trouble } from "../ui/States";
import { tell } from "../ui/tell";
import { day } from "../ui/when";
import { AccessWindows, KeyPlace } from "./Access";
import { addEntry, changeEntry, type Entry, EntryField, EntryFields, Quiet, textOf } from "./entry";
import { PastLines } from "./PastLines";
import { Story } from "./Story";

type PropertyOut = Schemas["PropertyOut"];

export default function Property() {
  const { id = "" } = useParams();
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [trouble, setTrouble] = useState("");
  const query = ["property", id];
  const path = { params: { path: { entry_id: id } } };
  const propertyQuery = useQuery({
    queryKey: query,
    queryFn: () => fetchProperty(id),
    staleTime: 0,
  });
  const story = useQuery({
    queryKey: ["story", id],
    queryFn: () => remembered(`story/${id}`, () => answer(api.GET("/api/properties/{entry_id}/story", path))),
    staleTime: 0,
  });
  if (propertyQuery.isPending) return <Loading what="the property" />;
  if (propertyQuery.isError)
    return <Trouble message={explain(propertyQuery.error)} again={() => propertyQuery.refetch()} />;
  const { property, client, jobs, inspections, next_number } = propertyQuery.data;
  const make = async (kind: Entry["kind"], values: Record<string, Value>) => {
    try {
      const made = await addEntry(kind, property.id, values);
      if (kind === "job") navigate(`/job/${made.id}`);
      await queries.invalidateQueries({ queryKey: query });
    } catch (error) {
      setTrouble(explain(error));
    }
  };
  const address = textOf(property, "address");
  const newJob = (
    <Button variant="action" onClick={() => make("job", { number: next_number, state: "asked", purpose: "periodic" })}>
      New job {next_number}
    </Button>
  );
  const dueOn = story.data?.due_on;
  return (
    <Page
      wide
      title={address || "New property"}
      trail={[
        ["/clients", "Clients"],
        [`/client/${client.id}`, textOf(client, "name") || "Client"],
      ]}
      tools={
        dueOn && (
          <Box fontFamily="mono" fontSize="lg" fontWeight="bold">
            due {day(dueOn)}
          </Box>
        )
      }
    >
      {trouble && <Told trouble>{trouble}</Told>}
      <Grid templateColumns={{ base: "minmax(0, 1fr)", lg: "minmax(0, 1fr) 22rem" }} columnGap="8" rowGap="6">
        <Box order={{ base: address ? "0" : "1", lg: "0" }}>
          <Section title="History" first>
            {story.isError && <Told trouble>{explain(story.error)}</Told>}
            {story.data && <Story story={story.data} />}
          </Section>
          <Section title="Jobs" tools={newJob}>
            <Lines label="Jobs">
              {jobs.map((job) => (
                <Line key={job.id} to={`/job/${job.id}`}>
                  <b>{textOf(job, "number") || "no number"}</b>
                  <Box as="span" flex="1 1 12rem">
                    {[textOf(job, "purpose"), textOf(job, "booked_on") && `booked for ${day(textOf(job, "booked_on"))}`]
                      .filter(Boolean)
                      .join(" · ")}
                  </Box>
                  <Quiet>{[textOf(job, "state")]}</Quiet>
                </Line>
              ))}
            </Lines>
          </Section>
          <Section title="Inspections">
            {inspections.length === 0 && <Empty>None yet. A job begins one for each installation.</Empty>}
            <Lines label="Inspections">
              <PastLines inspections={inspections} stage="report" />
            </Lines>
          </Section>
        </Box>
        <Facts page={propertyQuery.data} query={query} make={make} />
      </Grid>
    </Page>
  );
}

interface FactsProps {
  page: PropertyOut;
  query: string[];
  make: (kind: Entry["kind"], values: Record<string, Value>) => Promise<void>;
}

/** What is known of the home: each fact is changed where it stands, and kept as it is left. */
function Facts({ page, query, make }: FactsProps) {
  const { property, installations, access_windows, key_holders } = page;
  const fields = (names: string[]) => (
    <Box display="grid" gap="3" mb="4">
      {names.map((name) => (
        <EntryField key={name} entry={property} query={query} field={name} rows={LONG.has(name) ? 2 : undefined} />
      ))}
    </Box>
  );
  return (
    <Box
      as="aside"
      aria-label="Facts"
      bg="sheet"
      borderWidth="1px"
      borderColor="line"
      borderRadius="lg"
      px="4"
      py="3"
      alignSelf="start"
    >
      {fields(["address"])}
      <Fold title="Access" opened>
        {fields(["occupier_name", "occupier_phone", "occupier_email"])}
        <AccessWindows property={property} windows={access_windows} query={query} />
        <Box mb="3">
          <KeyPlace property={property} holders={key_holders} query={query} />
        </Box>
        {fields(["key_place", "access", "must_stay_on", "parking"])}
      </Fold>
      <Fold title="Due, and where it is" opened={textOf(property, "latitude") === ""}>
        {fields(["due_on", "inspected_on", "reference", "latitude", "longitude"])}
      </Fold>
      <Fold title="The home" opened={!textOf(property, "tenure")}>
        {fields(["nation", "tenure", "built_year", "rewired_year", "notes"])}
      </Fold>
      <Fold title={`Installations: ${installations.length || "none yet"}`} opened={installations.length === 0}>
        <Text color="quiet" mb="2">
          Each has its own report: the house, or an outbuilding with its own earthing.
        </Text>
        <Lines label="Installations">
          {installations.map((registerEntry) => (
            <Installation key={registerEntry.id} one={registerEntry} query={query} />
          ))}
        </Lines>
        <Button onClick={() => make("installation", { name: installations.length ? "Outbuilding" : "House" })}>
          Add an installation
        </Button>
      </Fold>
    </Box>
  );
}

const LONG = new Set(["access", "notes"]);

function Installation({ one, query }: { one: Entry; query: string[] }) {
  const queries = useQueryClient();
  const name = textOf(one, "name") || "it";
  const set = async (removed: boolean) => {
    await changeEntry(one, { removed });
    await queries.invalidateQueries({ queryKey: query });
  };
  const takeOut = async () => {
    await set(true);
    tell(`${name} is taken out.`, () => void set(false));
  };
  return (
    <Box as="li" borderTopWidth="1px" borderColor="line" py="3">
      <EntryFields entry={one} query={query} fields={["name", "supplied_from", "earthing"]} />
      <Button variant="quiet" onClick={takeOut}>
        Remove {name}
      </Button>
    </Box>
  );
}
