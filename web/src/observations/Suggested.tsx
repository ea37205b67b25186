/** What the verdicts would raise and nobody has decided over: taken as it is, changed, or refused with a reason. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import type { Schemas } from "../api/client";
import { useFieldSpec } from "../api/reference";
import { CodeMark } from "../drawings/Mark";
import { observe } from "../inspection/desk";
import { add, setField, useInspection, useMay } from "../inspection/open";
import { children } from "../inspection/model";
import type { Kind } from "../inspection/types";
import { Button } from "../ui/Button";
import { Fold } from "../ui/Fold";
import { Lines, Section } from "../ui/Page";
import { TextField } from "../ui/TextField";
import { record } from "./record";

type Suggestion = Schemas["Suggestion"];

export function Suggested({ weight }: { weight: (code: unknown) => number }) {
  const suggested = useInspection((s) => s.model?.judgement?.suggested) ?? [];
  const waiting = suggested
    .filter((suggestion) => !suggestion.recorded && !suggestion.declined)
    .sort((a, b) => weight(a.code) - weight(b.code));
  const refused = suggested.filter((suggestion) => suggestion.declined && !suggestion.recorded);
  return (
    <>
      {waiting.length > 0 && (
        <Section title="Suggested by the readings">
          <Lines>
            {waiting.map((suggestion) => (
              <Offered key={suggestion.entity_id + suggestion.key} one={suggestion} />
            ))}
          </Lines>
        </Section>
      )}
      {refused.length > 0 && (
        <Fold title={`${refused.length} refused, with the reason`}>
          <Lines>
            {refused.map((suggestion) => (
              <Refused key={suggestion.entity_id + suggestion.key} one={suggestion} />
            ))}
          </Lines>
        </Fold>
      )}
    </>
  );
}

function Offered({ one }: { one: Suggestion }) {
  const model = useInspection((s) => s.model);
  const decides = useMay("decide");
  const [refusing, setRefusing] = useState(false);
  const [reason, setReason] = useState("");
  const length = useFieldSpec("declined", "reason")?.max_length;
  if (!model) return null;
  const change = (code: string, why?: string) =>
    observe({ kind: one.entity as Kind, id: one.entity_id, raise: one.key, code, reason: why });
  const take = () => record(one, decides);
  const refuse = () => {
    if (!reason.trim()) return;
    add("declined", model.id, {
      about_id: one.entity_id,
      catalogue_key: one.key,
      code: one.code,
      reason: reason.trim(),
    });
  };
  return (
    <Flex as="li" gap="3" py="3" borderTopWidth="1px" borderColor="line">
      <CodeMark code={one.code} large />
      <Box flex="1" minW="0">
        <b>{one.title}</b>
        {one.because.map((because) => (
          <Text key={because} color="quiet">
            {because}
          </Text>
        ))}
        <Text color="quiet" fontSize="sm">
          {one.moved ? `${one.moved} Usually: ${one.why}` : `House view ${one.code}: ${one.why}`}
        </Text>
        {one.questions.map((question) => (
          <Flex key={question.fact} wrap="wrap" align="center" gap="2" mt="1">
            {question.ask}
            <Button size="sm" onClick={() => change(question.code, `${question.code}, since ${question.says}`)}>
              Yes: {question.code}
            </Button>
          </Flex>
        ))}
        <Flex gap="2" wrap="wrap" mt="2">
          <Button size="sm" variant="action" label={`Record: ${one.title}`} onClick={take}>
            Record
          </Button>
          <Button size="sm" label={`Change: ${one.title}`} onClick={() => change(one.code, one.moved || undefined)}>
            Change …
          </Button>
          {decides && !refusing && (
            <Button size="sm" variant="quiet" label={`Dismiss: ${one.title}`} onClick={() => setRefusing(true)}>
              Dismiss …
            </Button>
          )}
        </Flex>
        {refusing && (
          <Flex gap="2" align="flex-end" wrap="wrap" mt="2">
            <Box flex="1 1 12rem">
              <TextField
                label="Why it is not raised"
                hint="It is printed in the report."
                value={reason}
                change={setReason}
                maxLength={length}
                autoFocus
                enter={refuse}
              />
            </Box>
            <Button disabled={!reason.trim()} onClick={refuse}>
              Dismiss
            </Button>
          </Flex>
        )}
      </Box>
    </Flex>
  );
}

function Refused({ one }: { one: Suggestion }) {
  const decides = useMay("decide");
  const model = useInspection((s) => s.model);
  if (!model) return null;
  const takeBack = () => {
    for (const entry of children(model, "declined", model.id)) {
      const same = entry.values.about_id === one.entity_id && entry.values.catalogue_key === one.key;
      if (same) setField({ kind: "declined", id: entry.id, field: "removed" }, true);
    }
  };
  return (
    <Flex as="li" gap="3" py="2" borderTopWidth="1px" borderColor="line" align="center">
      <Box flex="1">
        <b>{one.title}</b>
        <Text color="quiet">{one.because.join(" ")}</Text>
        <p>{one.declined}</p>
      </Box>
      {decides && (
        <Button size="sm" variant="quiet" onClick={takeBack}>
          Reopen
        </Button>
      )}
    </Flex>
  );
}
