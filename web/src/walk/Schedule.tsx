/** The inspection schedule: filled from what was looked at, entered, tested and recorded; what is left, and where. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import type { Schemas } from "../api/client";
import { CHECK_STATES } from "../api/declared.gen";
import { CodeMark } from "../drawings/Mark";
import { children } from "../inspection/model";
import { add, setField, useInspection } from "../inspection/open";
import { observe } from "../inspection/desk";
import { STAGES } from "../inspection/stages";
import { Button } from "../ui/Button";
import { Link } from "../ui/Link";
import { Section } from "../ui/Page";
import { Segments } from "../ui/Segments";
import { StageBody } from "../ui/StageHead";
import { answerWord } from "../inspection/words";

type Line = Schemas["Filled"];
export function Schedule() {
  const lines = useInspection((s) => s.model?.judgement?.schedule) ?? [];
  const [shown, setShown] = useState("left");
  const left = lines.filter((filled) => filled.state === "left");
  const wanted = shown === "left" ? left : lines;
  const parts = [...new Set(wanted.map((filled) => filled.part))];
  return (
    <StageBody wide>
      <Flex align="center" gap="4" wrap="wrap" mb="3">
        <Text fontSize="xl" flex="1">
          <b>{lines.length - left.length}</b> of {lines.length} lines answered
          {left.length > 0 && (
            <>
              , <b>{left.length}</b> left
            </>
          )}
        </Text>
        <Segments
          label="Which lines"
          value={shown}
          choices={[
            ["left", "what is left"],
            ["all", "all of it"],
          ]}
          change={setShown}
        />
      </Flex>
      {left.length === 0 && shown === "left" && <Text color="quiet">Every line has its answer.</Text>}
      {parts.map((part) => (
        <Section key={part} title={part}>
          <Box as="ul" listStyleType="none">
            {wanted
              .filter((filled) => filled.part === part)
              .map((filled) => (
                <ScheduleLine key={filled.key} line={filled} />
              ))}
          </Box>
        </Section>
      ))}
    </StageBody>
  );
}

function ScheduleLine({ line }: { line: Line }) {
  const model = useInspection((s) => s.model);
  if (!model) return null;
  const made = children(model, "check", model.id).find((check) => check.values.item === line.key);
  const own = made?.values.state ?? null;
  const set = (state: string) => {
    if (!made) add("check", model.id, { item: line.key, state });
    else setField({ kind: "check", id: made.id, field: "state" }, own === state ? null : state);
  };
  return (
    <Flex as="li" wrap="wrap" align="center" columnGap="3" rowGap="1" py="2" borderTopWidth="1px" borderColor="line">
      <Box flex="1 1 16rem" minW="0">
        {line.label}
        <Box as="small" display="block" color="quiet">
          {line.clause} · {line.because}
        </Box>
      </Box>
      {line.codes.map((code) => (
        <CodeMark key={code} code={code} />
      ))}
      {!line.asked && line.codes.length === 0 && line.state !== "left" && <b>{answerWord(line.state)}</b>}
      {line.state === "left" && line.stage && (
        <Link to={`/inspection/${model.id}/${line.stage}`} style={{ textDecoration: "underline" }}>
          {STAGES.find((one) => one.stage === line.stage)?.name ?? line.stage}
        </Link>
      )}
      {line.asked && (
        <Flex role="group" aria-label={line.label} gap="1">
          {CHECK_STATES.map((state) => (
            <Button
              key={state}
              size="sm"
              variant="choice"
              pressed={own === state || (own === null && line.state === state)}
              onClick={() => set(state)}
            >
              {answerWord(state)}
            </Button>
          ))}
        </Flex>
      )}
      {own === "not good" && made && (
        <Button size="sm" onClick={() => observe({ kind: "check", id: made.id })}>
          Observation
        </Button>
      )}
    </Flex>
  );
}
