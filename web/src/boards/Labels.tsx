/** Labels one by one: found, missing, out of date, removed, fitted; and the interval that the one at an RCD says. */
import { Box, Flex, Text } from "@chakra-ui/react";
import type { Schemas } from "../api/client";
import { useFieldSpec } from "../api/reference";
import { FieldInput } from "../fields/FieldInput";
import { add, setField, useInspection } from "../inspection/open";
import { Button, LinkButton } from "../ui/Button";
import { Fold } from "../ui/Fold";
import { Section } from "../ui/Page";

type Label = Schemas["LabelView"];
/** The one whose words name an interval. */
const RCD = "rcd-test";
const NONE: Label[] = [];

export function Labels({ about }: { about: string }) {
  const all = useInspection((s) => s.model?.judgement?.labels) ?? NONE;
  const inspection = useInspection((s) => s.model?.id) ?? "";
  const dated = useInspection((s) => s.model?.entities[inspection]?.values.next_years != null);
  const here = all.filter((label) => label.entity_id === about);
  if (here.length === 0) return null;
  const shown = here.filter((label) => label.needed || label.state);
  const others = here.filter((label) => !label.needed && !label.state);
  const board = here[0]?.entity === "board";
  return (
    <Section
      title="Labels"
      tools={
        board && (
          <Flex gap="2" align="center" wrap="wrap">
            <LinkButton file to={`/api/inspections/${inspection}/board-chart.pdf`}>
              Print circuit chart
            </LinkButton>
            {dated ? (
              <LinkButton file to={`/api/inspections/${inspection}/labels.pdf`}>
                Print labels
              </LinkButton>
            ) : (
              <Box color="quiet">To print labels, choose the next inspection under Report.</Box>
            )}
          </Flex>
        )
      }
    >
      <Box as="ul" listStyleType="none" aria-label="Labels">
        {shown.map((label) => (
          <Row key={label.kind} label={label} />
        ))}
      </Box>
      {others.length > 0 && (
        <Fold small title={`${others.length} more, where the home has what they are for`}>
          <Box as="ul" listStyleType="none">
            {others.map((label) => (
              <Row key={label.kind} label={label} />
            ))}
          </Box>
        </Fold>
      )}
    </Section>
  );
}

function Row({ label }: { label: Label }) {
  const states = useFieldSpec("label", "state")?.choices ?? [];
  const inspection = useInspection((s) => s.model?.id) ?? "";
  const set = (state: string) => {
    if (label.id) setField({ kind: "label", id: label.id, field: "state" }, label.state === state ? null : state);
    else add("label", inspection, { about_entity: label.entity, about_id: label.entity_id, kind: label.kind, state });
  };
  return (
    <Box as="li" borderTopWidth="1px" borderColor="line" py="1.5">
      <Flex wrap="wrap" align="center" columnGap="2.5" rowGap="1">
        <Text flex="1 1 12rem">{label.label}</Text>
        <Flex role="group" aria-label={`${label.where}: ${label.label}`} gap="1" wrap="wrap">
          {states.map((state) => (
            <Button key={state} size="sm" variant="choice" pressed={label.state === state} onClick={() => set(state)}>
              {state}
            </Button>
          ))}
        </Flex>
      </Flex>
      {label.kind === RCD && label.id && (
        <Box my="2">
          <FieldInput place={{ kind: "label", id: label.id, field: "interval" }} />
        </Box>
      )}
    </Box>
  );
}
