/** Instruments as they stand on the shelf, with the calibration each has left; lead sets with their nulls over time. */
import { Box, Flex, Grid, Text } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, answer, type Me, type Schemas } from "../api/client";
import { explain } from "../api/errors";
import { Mark } from "../drawings/Mark";
import type { Value } from "../inspection/types";
import { Button } from "../ui/Button";
import { Drawer } from "../ui/Dialog";
import { Fold } from "../ui/Fold";
import { loaded } from "../ui/Loaded";
import { Page, Section } from "../ui/Page";
import { Empty, Loading, Told, Trouble } from "../ui/States";
import { tell } from "../ui/tell";
import { addEntry, changeEntry, type Entry, EntryField, EntryFields, Quiet, textOf } from "./entry";

const NullChart = loaded(null, () => import("./NullChart").then((m) => m.default));

const QUERY = ["instruments"];
const ACCURACY = [
  ...["continuity", "insulation", "loop", "trip"].flatMap((test) => [`${test}_percent`, `${test}_digits`]),
  "continuity_top_ohm",
  "insulation_top_mohm",
  "loop_top_ohm",
];
/** Calibration is usually good for a year: the bar is full then. */
const YEAR_DAYS = 365;

export default function Instruments({ me }: { me: Me }) {
  const queries = useQueryClient();
  const [trouble, setTrouble] = useState("");
  const [opened, setOpened] = useState<string | null>(null);
  const instrumentsQuery = useQuery({
    queryKey: QUERY,
    queryFn: () => answer(api.GET("/api/instruments")),
    staleTime: 0,
  });
  if (instrumentsQuery.isPending) return <Loading what="the instruments" />;
  if (instrumentsQuery.isError)
    return <Trouble message={explain(instrumentsQuery.error)} again={() => instrumentsQuery.refetch()} />;
  const act = async (work: () => Promise<unknown>) => {
    try {
      await work();
      setTrouble("");
    } catch (error) {
      setTrouble(explain(error));
    }
    await queries.invalidateQueries({ queryKey: QUERY });
  };
  const make = (kind: Entry["kind"], values: Record<string, Value>) =>
    act(async () => setOpened((await addEntry(kind, me.firm_id, values)).id));
  const takeOut = (entry: Entry) =>
    act(async () => {
      await changeEntry(entry, { removed: true });
      setOpened(null);
      const name = textOf(entry, "name") || "It";
      tell(`${name} is taken out.`, () => void act(() => changeEntry(entry, { removed: false })));
    });
  const { instruments, lead_sets } = instrumentsQuery.data;
  const instrument = instruments.find((one) => one.entry.id === opened)?.entry;
  const leads = lead_sets.find((leadSet) => leadSet.entry.id === opened)?.entry;
  return (
    <Page
      wide
      title="Instruments"
      tools={
        <Button variant="action" onClick={() => make("instrument", {})}>
          Add an instrument
        </Button>
      }
    >
      {trouble && <Told trouble>{trouble}</Told>}
      {instruments.length === 0 && (
        <Empty title="No instrument yet">Serial number and calibration go into every report.</Empty>
      )}
      <Shelf>
        {instruments.map((one) => (
          <Instrument key={one.entry.id} one={one} open={() => setOpened(one.entry.id)} />
        ))}
      </Shelf>
      <Section
        title="Lead sets"
        lead="A null is compared with the mean of the accepted ones before it (rule 1.4); until there are some, with the value entered here."
        tools={<Button onClick={() => make("leads", {})}>Add a lead set</Button>}
      >
        <Shelf>
          {lead_sets.map((leadSet) => (
            <LeadSet key={leadSet.entry.id} one={leadSet} open={() => setOpened(leadSet.entry.id)} />
          ))}
        </Shelf>
      </Section>
      {instrument && (
        <Drawer
          title={textOf(instrument, "name") || "New instrument"}
          close={() => setOpened(null)}
          footer={
            <Button variant="quiet" onClick={() => takeOut(instrument)}>
              Remove {textOf(instrument, "name") || "instrument"}
            </Button>
          }
        >
          <EntryFields
            entry={instrument}
            query={QUERY}
            fields={[
              "name",
              "serial",
              "kind",
              "bought_on",
              "calibrated_on",
              "calibration_due",
              "certificate",
              "retired",
            ]}
            wide={["name", "kind"]}
          />
          <Fold title="Accuracy, where it differs from the usual">
            <EntryFields entry={instrument} query={QUERY} fields={ACCURACY} />
          </Fold>
        </Drawer>
      )}
      {leads && (
        <Drawer
          title={textOf(leads, "name") || "New lead set"}
          close={() => setOpened(null)}
          footer={
            <Button variant="quiet" onClick={() => takeOut(leads)}>
              Remove {textOf(leads, "name") || "leads"}
            </Button>
          }
        >
          <Grid gap="4">
            <EntryField entry={leads} query={QUERY} field="name" />
            <EntryField entry={leads} query={QUERY} field="known_ohm" hint="Both tips together, as bought." />
            <EntryField entry={leads} query={QUERY} field="retired" />
          </Grid>
        </Drawer>
      )}
    </Page>
  );
}

function Shelf({ children }: { children: React.ReactNode }) {
  return (
    <Box
      as="ul"
      listStyleType="none"
      display="grid"
      gridTemplateColumns="repeat(auto-fill, minmax(min(17rem, 100%), 1fr))"
      gap="4"
      mb="6"
    >
      {children}
    </Box>
  );
}

interface CardProps {
  open: () => void;
  name: string;
  retired: boolean;
  children: React.ReactNode;
  serial?: string;
}

/** Something on the shelf; what is out of use stands back. */
function Card({ open, name, retired, serial, children }: CardProps) {
  return (
    <Flex
      as="li"
      direction="column"
      gap="2"
      bg="sheet"
      borderWidth="1.5px"
      borderStyle={retired ? "dashed" : "solid"}
      borderColor="line"
      borderRadius="lg"
      px="4"
      py="3"
      data-instrument={serial}
    >
      <Flex justify="space-between" align="center" gap="2">
        <Box minW="0">
          <Text as="h3" fontWeight="bold" truncate>
            {name}
          </Text>
          <Quiet>{[serial, retired && "out of use"]}</Quiet>
        </Box>
        <Button size="sm" label={`Change ${name}`} onClick={open}>
          Change
        </Button>
      </Flex>
      {children}
    </Flex>
  );
}

function Instrument({ one, open }: { one: Schemas["InstrumentOut"]; open: () => void }) {
  const { entry, calibration } = one;
  const left = calibration.days_left;
  const share = left === null ? 0 : Math.min(Math.max(left / YEAR_DAYS, 0), 1);
  return (
    <Card
      open={open}
      name={textOf(entry, "name") || "New instrument"}
      serial={textOf(entry, "serial")}
      retired={!!entry.values.retired}
    >
      <Flex align="baseline" gap="1.5">
        <Box as="b" fontFamily="mono" fontSize="2xl" lineHeight="1.1">
          {left ?? "–"}
        </Box>
        <Box as="span" color="quiet">
          {left === null ? "no date" : "days of calibration left"}
        </Box>
      </Flex>
      <Box height="2.5" borderRadius="full" borderWidth="1.5px" borderColor="ink" overflow="hidden" aria-hidden="true">
        <Box height="full" width={`${share * 100}%`} bg="ink" />
      </Box>
      <Text fontSize="sm">
        <Mark status={calibration.status} /> {calibration.reason}
      </Text>
      <Quiet>{[textOf(entry, "kind"), textOf(entry, "certificate")]}</Quiet>
    </Card>
  );
}

function LeadSet({ one, open }: { one: Schemas["LeadSetOut"]; open: () => void }) {
  const { entry, known_ohm, nulls, log } = one;
  return (
    <Card open={open} name={textOf(entry, "name") || "New lead set"} retired={!!entry.values.retired}>
      <Flex align="baseline" gap="1.5" wrap="wrap">
        <Box as="b" fontFamily="mono" fontSize="2xl" lineHeight="1.1">
          {known_ohm === null ? "–" : `${known_ohm.toFixed(2)} Ω`}
        </Box>
        <Box as="span" color="quiet">
          {nulls ? `mean of ${nulls} accepted ${nulls === 1 ? "null" : "nulls"}` : "no null yet"}
        </Box>
      </Flex>
      {log.length > 0 && (
        <Box minH="6rem">
          <NullChart log={log} mean={known_ohm} />
        </Box>
      )}
    </Card>
  );
}
