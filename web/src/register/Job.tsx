/** A job: the day it makes as one picture, with time and price; where it begins; how far it goes; and its letters. */
import { Box, Flex, Grid, Text } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { api, answer, type Me, type Schemas } from "../api/client";
import { explain, explainField } from "../api/errors";
import { useAsKept } from "../api/asKept";
import { draftOfJob } from "../drafts/draft";
import { PaperButton } from "../drafts/PaperButton";
import { Mark } from "../drawings/Mark";
import { notLeft } from "../letters/told";
import { fetchHome } from "../inspection/atHome";
import { fetchJob, fetchLetters } from "../inspection/bag";
import { add, begin } from "../inspection/open";
import { Occupier } from "../occupier/Occupier";
import type { Value } from "../inspection/types";
import { Button, LinkButton } from "../ui/Button";
import { Lines, Page, Section } from "../ui/Page";
import { Loading, Told, Trouble } from "../ui/States";
import { TextField } from "../ui/TextField";
import { hours, today } from "../ui/when";
import { type Entry, textOf } from "./entry";
import { Estimate } from "./Estimate";
import { JobDay } from "./JobDay";
import { JobScope, Missing, Pack } from "./JobScope";
import { PastLines } from "./PastLines";

type JobOut = Schemas["JobOut"];

export default function Job({ me }: { me: Me }) {
  const { id = "" } = useParams();
  const query = ["job", id];
  const jobQuery = useQuery({
    queryKey: query,
    queryFn: () => fetchJob(id),
    staleTime: 0,
  });
  // Their words come along: for a day on which the server is away.
  const asKept = useAsKept((s) => `job/${id}` in s);
  useQuery({
    queryKey: ["job letters", id, jobQuery.dataUpdatedAt],
    queryFn: () => fetchLetters(id),
    enabled: jobQuery.isSuccess && !asKept,
    retry: false,
  });
  if (jobQuery.isPending) return <Loading what="the job" />;
  if (jobQuery.isError) return <Trouble message={explain(jobQuery.error)} again={() => jobQuery.refetch()} />;
  const { job, property, client, estimate, day } = jobQuery.data;
  return (
    <Page
      wide
      title={`Job ${textOf(job, "number")}`}
      trail={[
        [`/client/${client.id}`, textOf(client, "name") || "Client"],
        [`/property/${property.id}`, textOf(property, "address") || "Property"],
      ]}
      tools={
        <Box fontFamily="mono" fontSize="2xl" fontWeight="bold" data-figure="estimate">
          {hours(estimate.minutes)} · {estimate.currency}
          {estimate.price.toFixed(2)}
        </Box>
      }
    >
      <Grid templateColumns={{ base: "minmax(0, 1fr)", lg: "minmax(0, 1fr) 20rem" }} columnGap="8">
        <Box>
          <JobDay page={jobQuery.data} query={query} />
          {job.values.work === "repairs" ? <Repairs job={job} /> : <Begin me={me} page={jobQuery.data} />}
          <JobScope page={jobQuery.data} query={query} />
        </Box>
        <Box>
          <Missing page={jobQuery.data} />
          <Pack page={jobQuery.data} />
        </Box>
      </Grid>
      <Section title="Time and price">
        <Estimate estimate={estimate} />
      </Section>
      <Section title="Letters">
        <Flex wrap="wrap" gap="2" mb="3.5">
          <JobLetter job={job.id} which="confirmation">
            Confirmation for the client
          </JobLetter>
          <JobLetter job={job.id} which="power-off">
            Power-off notice for the occupier
          </JobLetter>
        </Flex>
        <Mail job={job} to={textOf(client, "email")} query={query} />
      </Section>
      {day.visit_id && (
        <Section title="Occupier">
          <Box maxW="34rem">
            <Occupier
              visit={{ id: day.visit_id, booked: day.booked, day: day.on }}
              changed={() => void jobQuery.refetch()}
            />
          </Box>
        </Section>
      )}
    </Page>
  );
}

function JobLetter({ job, which, children }: { job: string; which: "confirmation" | "power-off"; children: string }) {
  const asKept = useAsKept((s) => `job/${job}` in s);
  return (
    <PaperButton
      to={`/api/jobs/${job}/${which}.pdf`}
      title={children}
      make={() => draftOfJob(job, which)}
      asKept={asKept}
    >
      {children}
    </PaperButton>
  );
}

/** Putting right what an inspection found: the work is entered where it was found. */
function Repairs({ job }: { job: Entry }) {
  return (
    <Flex gap="3" wrap="wrap" align="center" mb="4">
      <Text>
        <b>Repairs by an offer that was accepted.</b> Tests and certificates are with the observations.
      </Text>
      <LinkButton to={`/inspection/${textOf(job, "inspection_id")}/observations`}>Open observations</LinkButton>
      <LinkButton file to={`/api/reports/${textOf(job, "offer_id")}.pdf`}>
        Print offer
      </LinkButton>
    </Flex>
  );
}

/** The confirmation by mail, with the notice to hand on. */
function Mail({ job, to, query }: { job: Entry; to: string; query: string[] }) {
  const queries = useQueryClient();
  const [address, setAddress] = useState(to);
  const [trouble, setTrouble] = useState("");
  const [busy, setBusy] = useState(false);
  const send = async (event: FormEvent) => {
    event.preventDefault();
    setBusy(true);
    setTrouble("");
    try {
      const params = { path: { entry_id: job.id } };
      const { sent } = await answer(api.POST("/api/jobs/{entry_id}/confirmation", { params, body: { to: address } }));
      setTrouble(notLeft(sent));
      await queries.invalidateQueries({ queryKey: query });
    } catch (error) {
      setTrouble(explainField(error, "to"));
    }
    setBusy(false);
  };
  return (
    <form onSubmit={send}>
      <Flex wrap="wrap" gap="3" align="flex-end">
        <Box flex="0 1 24rem">
          <TextField label="Mail both to" type="email" value={address} change={setAddress} refused={trouble} />
        </Box>
        <Button type="submit" busy={busy} disabled={!address.trim()}>
          Send
        </Button>
        {!!job.values.confirmation_sent && !trouble && <p role="status">Sent to {textOf(job, "confirmation_sent")}</p>}
      </Flex>
    </form>
  );
}

function Begin({ me, page }: { me: Me; page: JobOut }) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [message, setTold] = useState("");
  const { beginnings, inspections, instruments } = page;
  const inUse = instruments.filter((instrument) => !instrument.entry.values.retired);
  const trouble = inUse.filter(
    (instrument) => instrument.calibration.status === "fail" || instrument.calibration.status === "attention",
  );
  // What is taken over from the job comes with it.
  const start = async (beginning: JobOut["beginnings"][number]) => {
    setTold("");
    const home = await queries
      .fetchQuery({ queryKey: ["home"], queryFn: fetchHome, staleTime: 0 })
      .catch((error: unknown) => setTold(explain(error)));
    if (!home) return;
    const { house_rules, table_corrections } = home.beginning;
    const values = {
      reference: home.next_reference,
      inspected_on: today(),
      ...(house_rules && Object.keys(house_rules).length > 0 && { house_rules }),
      ...(table_corrections?.length && {
        table_corrections: table_corrections.map((tableCorrection) => ({ ...tableCorrection })),
      }),
      ...(beginning.fields as Record<string, Value>),
    };
    // The server names what is begun: pressed on two devices, it is one inspection.
    const id = begin(me, values, beginning.inspection_id);
    for (const { id: limitation, ...fields } of beginning.limitations)
      add("limitation", id, fields as Record<string, Value>, String(limitation));
    navigate(`/inspection/${id}/brief`);
  };
  return (
    <Box mb="4">
      {message && <Told trouble>{message}</Told>}
      {trouble.map((instrument) => (
        <Text key={instrument.entry.id} mb="2">
          <Mark status={instrument.calibration.status} /> {textOf(instrument.entry, "name")}{" "}
          {textOf(instrument.entry, "serial")}: {instrument.calibration.reason}
        </Text>
      ))}
      <Lines label="Begun for this job">
        <PastLines inspections={inspections} stage="brief" />
      </Lines>
      <Flex wrap="wrap" gap="2">
        {beginnings.map((beginning) => (
          <Button key={beginning.installation_id ?? "whole"} variant="action" onClick={() => start(beginning)}>
            Begin the inspection{beginning.name ? ` of ${beginning.name}` : ""}
          </Button>
        ))}
      </Flex>
    </Box>
  );
}
