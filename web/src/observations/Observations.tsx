/** Every observation, the most pressing first, and what the verdicts would raise that is not recorded yet. */
import { Box, Flex, Text } from "@chakra-ui/react";
import type { ReactNode } from "react";
import type { Schemas } from "../api/client";
import { useReference } from "../api/reference";
import { CodeMark } from "../drawings/Mark";
import { observe } from "../inspection/desk";
import { children } from "../inspection/model";
import { useInspection } from "../inspection/open";
import type { Entity, Kind } from "../inspection/types";
import { Photos } from "../photos/Photos";
import { Button } from "../ui/Button";
import { Lines, Section } from "../ui/Page";
import { StageBody, StageHead } from "../ui/StageHead";
import { Empty } from "../ui/States";

export default function Observations() {
  const model = useInspection((s) => s.model);
  const order = useReference()?.code_order ?? [];
  if (!model) return null;
  // The most pressing first; what has no code yet comes last.
  const weight = (code: unknown) => (order.includes(String(code ?? "")) ? order.indexOf(String(code)) : order.length);
  const found = children(model, "observation", model.id).sort((a, b) => weight(a.values.code) - weight(b.values.code));
  const outcome = model.judgement?.outcome_says;
  const because = model.judgement?.outcome_because.length ?? 0;
  const offers = (model.judgement?.suggested ?? [])
    .filter((s) => !s.recorded)
    .sort((a, b) => weight(a.code) - weight(b.code));
  return (
    <>
      <StageHead title="Observations" line={found.length === 0 ? "none yet" : `${found.length} recorded`}>
        <Button hotkey="O" onClick={() => observe({ kind: "inspection", id: model.id })}>
          Add one
        </Button>
      </StageHead>
      <StageBody>
        {outcome && (
          <Text fontSize="xl" mb="3">
            By the open codes: <b>{outcome}</b>
            {because > 0 && `, because of ${because} ${because === 1 ? "observation" : "observations"}`}
          </Text>
        )}
        {found.length === 0 && (
          <Empty>
            Press O wherever you are when you see something: where and what are taken from the figure in focus.
          </Empty>
        )}
        <Lines label="Recorded">
          {found.map((one) => (
            <Recorded key={one.id} one={one} />
          ))}
        </Lines>
        {offers.length > 0 && (
          <Section title="The figures speak of these, nothing is recorded yet">
            <Lines>
              {offers.map((one) => (
                <Offered key={one.entity_id + one.key} one={one} />
              ))}
            </Lines>
          </Section>
        )}
      </StageBody>
    </>
  );
}

function Row({ code, act, children: inside }: { code: string; act: ReactNode; children: ReactNode }) {
  return (
    <Flex as="li" align="center" gap="3.5" py="3" borderTopWidth="1px" borderColor="line">
      <CodeMark code={code} large />
      <Box flex="1" minW="0">
        {inside}
      </Box>
      {act}
    </Flex>
  );
}

function Offered({ one }: { one: Schemas["SuggestionOut"] }) {
  const raise = (code: string, reason?: string) =>
    observe({ kind: one.entity as Kind, id: one.entity_id, raise: one.key, code, reason });
  return (
    <Row
      code={one.code}
      act={
        <Button label={`Record: ${one.title}`} onClick={() => raise(one.code, one.moved || undefined)}>
          Record
        </Button>
      }
    >
      <b>{one.title}</b>
      {one.because.map((reason) => (
        <Text key={reason} color="quiet">
          {reason}
        </Text>
      ))}
      <Text color="quiet" fontSize="sm">
        {one.moved ? `${one.moved} Usually: ${one.why}` : `House view ${one.code}: ${one.why}`}
      </Text>
      {one.questions.map((question) => (
        <Flex key={question.fact} wrap="wrap" align="center" gap="2" mt="1">
          {question.ask}
          <Button size="sm" onClick={() => raise(question.code, `${question.code}, since ${question.says}`)}>
            Yes: {question.code}
          </Button>
        </Flex>
      ))}
    </Row>
  );
}

function Recorded({ one }: { one: Entity }) {
  const v = one.values;
  const kind = (v.about_entity as Kind | undefined) ?? "inspection";
  const change = () => observe({ kind, id: String(v.about_id ?? one.parentId), existing: one.id });
  const good =
    v.as_left && v.retest
      ? `${String(v.as_left)} Retest: ${String(v.retest)}`
      : "It counts until as left and the retest are given.";
  return (
    <Row code={String(v.code ?? "?")} act={<Button onClick={change}>Change</Button>}>
      <b>{String(v.text ?? "No words yet")}</b>
      {v.place ? ` · ${String(v.place)}` : ""}
      {v.code_reason ? <Text color="quiet">{String(v.code_reason)}</Text> : null}
      {v.mended ? <Text color="quiet">Made good on the day. {good}</Text> : null}
      {!v.code && <Text color="quiet">Its code is still to be chosen.</Text>}
      <Photos inline kind="observation" id={one.id} shows="defect" label="Photo" />
    </Row>
  );
}
