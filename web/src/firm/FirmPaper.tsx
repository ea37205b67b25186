/** What the firm settles about its letters and numbers: own words, reminders, where numbers begin. */
import { Box, Text } from "@chakra-ui/react";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, answer, type Schemas } from "../api/client";
import { explain, fieldErrors } from "../api/errors";
import { Button } from "../ui/Button";
import { CheckGroup } from "../ui/CheckField";
import { Section } from "../ui/Page";
import { Progress, Told } from "../ui/States";
import { TextField } from "../ui/TextField";

type Paper = Schemas["FirmPaperOut"];

export function FirmPaper() {
  const queries = useQueryClient();
  const firmPaper = useQuery({
    queryKey: ["firm paper"],
    queryFn: () => answer(api.GET("/api/firm/paper")),
    staleTime: 0,
  });
  if (firmPaper.isError) return <Told trouble>{explain(firmPaper.error)}</Told>;
  if (!firmPaper.data) return <Progress label="Loading …" />;
  return <Settings paper={firmPaper.data} take={(next) => queries.setQueryData(["firm paper"], next)} />;
}

/** Days before a legal date that are offered; others that were settled stay. */
const DAYS = [21, 14, 7, 3, 1];

function Settings({ paper, take }: { paper: Paper; take: (paper: Paper) => void }) {
  const [texts, setTexts] = useState(Object.fromEntries(paper.texts.map((text) => [text.key, text.text])));
  const [days, setDays] = useState(paper.remind_days.map(String));
  const [numbers, setNumbers] = useState({ first_reference: paper.first_reference, first_job: paper.first_job });
  const disabled = !paper.may_change;
  const save = useMutation({
    mutationFn: () =>
      answer(api.PUT("/api/firm/paper", { body: { texts, remind_days: days.map(Number), ...numbers } })),
    onSuccess: take,
  });
  const refused = fieldErrors(save.error);
  const offered = [...new Set([...DAYS, ...paper.remind_days])].sort((a, b) => b - a);
  return (
    <>
      <Section title="Reminders" lead="Clients get a mail before a legal date that is not met, each once.">
        <CheckGroup
          label="Days before"
          values={days}
          change={setDays}
          disabled={disabled}
          refused={refused.remind_days}
          choices={offered.map((one) => [String(one), one === 1 ? "1 day" : `${one} days`] as const)}
        />
      </Section>
      <Section title="Own words in mails">
        <Box display="grid" gap="4">
          {paper.texts.map((one) => (
            <TextField
              key={one.key}
              label={one.label}
              rows={2}
              maxLength={1000}
              value={texts[one.key] ?? ""}
              change={(text) => setTexts({ ...texts, [one.key]: text })}
              refused={refused[`texts.${one.key}`]}
              disabled={disabled}
            />
          ))}
        </Box>
      </Section>
      <Section title="Numbers" lead="Where a row begins; counted on from there. Empty: as it always was.">
        <Box display="grid" gridTemplateColumns={{ base: "1fr", md: "1fr 1fr" }} gap="4" mb="4">
          <TextField
            label="First report"
            maxLength={40}
            hint={`next: ${paper.next_reference}`}
            value={numbers.first_reference}
            change={(first_reference) => setNumbers({ ...numbers, first_reference })}
            refused={refused.first_reference}
            disabled={disabled}
          />
          <TextField
            label="First job"
            maxLength={40}
            hint={`next: ${paper.next_job}`}
            value={numbers.first_job}
            change={(first_job) => setNumbers({ ...numbers, first_job })}
            refused={refused.first_job}
            disabled={disabled}
          />
        </Box>
        {!disabled && (
          <Button variant="action" busy={save.isPending} onClick={() => save.mutate()}>
            Save letters and numbers
          </Button>
        )}
        {save.isSuccess && <Text mt="2">Saved.</Text>}
        {save.isError && Object.keys(refused).length === 0 && <Told trouble>{explain(save.error)}</Told>}
      </Section>
    </>
  );
}
