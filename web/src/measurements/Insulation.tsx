/** A board's insulation as it adds up: one line under the board, and behind it each circuit's part, causes, words for the client. */
import { Box, Flex } from "@chakra-ui/react";
import { useState } from "react";
import type { Schemas } from "../api/client";
import { useFieldSpec } from "../api/reference";
import { InsulationBar } from "../drawings/InsulationBar";
import { Mark } from "../drawings/Mark";
import { FieldInput } from "../fields/FieldInput";
import { setField, useInspection } from "../inspection/open";
import type { Entity } from "../inspection/types";
import { nameOf } from "../inspection/words";
import { Button } from "../ui/Button";
import { SelectField } from "../ui/ChoiceField";
import { Dialog } from "../ui/Dialog";

type Served = Schemas["InsulationOut"];

export function Insulation({ board }: { board: Entity }) {
  const [opened, setOpened] = useState(false);
  const one = useInspection((s) => s.model?.judgement?.insulation.find((each) => each.board_id === board.id));
  if (!one) return null;
  const first = one.rows.filter((row) => row.first).map((row) => row.name);
  return (
    <Flex wrap="wrap" columnGap="3.5" rowGap="1" align="center" justify="space-between" px="4" pb="1.5" fontSize="sm">
      <span>
        {one.status !== "pass" && <Mark status={one.status} />} Insulation together{" "}
        <Box as="b" fontFamily="mono">
          {one.combined} MΩ
        </Box>
        {one.missing.length > 0 && `, ${one.missing.length} not in it`}.
        {first.length > 0 && (
          <b>
            {" "}
            Open {first.join(", ")} first{one.without ? `: ${one.without} MΩ without` : ""}.
          </b>
        )}
      </span>
      <Button size="sm" label="Insulation circuit by circuit" onClick={() => setOpened(true)}>
        Circuit by circuit
      </Button>
      {opened && (
        <Dialog title={`Insulation of ${nameOf(board)}`} close={() => setOpened(false)} width="54rem">
          <Parts one={one} />
        </Dialog>
      )}
    </Flex>
  );
}

function Parts({ one }: { one: Served }) {
  return (
    <>
      <Box mb="3">
        <Mark status={one.status} />{" "}
        <Box as="b" fontFamily="mono" fontSize="3xl">
          {one.combined} MΩ
        </Box>{" "}
        to earth. {one.says}
      </Box>
      <WholeBoard boardId={one.board_id} />
      <Box as="ul" listStyleType="none">
        {one.rows.map((row) => (
          <Flex
            as="li"
            key={row.circuit_id}
            wrap="wrap"
            columnGap="3"
            align="center"
            py="1"
            borderTopWidth="1px"
            borderColor="line"
          >
            <Box flex="0 1 11rem" minW="0" fontWeight={row.first || row.low ? "bold" : undefined}>
              {row.name}
              {row.first && <Box color="sea">open first</Box>}
              {row.apart && !row.first && <Box color="sea">far below its neighbours</Box>}
            </Box>
            <Box flex="1 1 10rem" minW="0">
              <InsulationBar row={row} minimum={one.minimum_mohm} attention={one.attention_mohm} />
            </Box>
            <Box flex="0 0 5rem" textAlign="end" fontFamily="mono" fontWeight="bold">
              {row.text}
            </Box>
            <Box flex="0 0 6rem" hideBelow="md">
              <Chosen circuitId={row.circuit_id} field={VOLTS} none="– V" unit=" V" name={row.name} />
            </Box>
            <Box flex="0 0 8rem" hideBelow="md">
              <Chosen circuitId={row.circuit_id} field={SWITCHES} none="switches" name={row.name} />
            </Box>
            <StoodOpen kind="circuit" id={row.circuit_id} />
          </Flex>
        ))}
      </Box>
      {one.missing.length > 0 && <p>Not measured, or not whole: {one.missing.join(", ")}.</p>}
      {one.causes.length > 0 && (
        <Box mt="4">
          <b>Before damage is spoken of, in this order.</b> Isolated and proved dead:
          <Box as="ol" ps="6" listStyleType="decimal">
            {one.causes.map((cause) => (
              <li key={cause}>{cause}</li>
            ))}
          </Box>
        </Box>
      )}
      <Box mt="4">
        <b>For the client.</b> {one.client}
      </Box>
    </>
  );
}

const VOLTS = "insulation_test_v";
const SWITCHES = "insulation_switches";

interface ChosenProps {
  circuitId: string;
  name: string;
  field: string;
  /** What stands while nothing is chosen. */
  none: string;
  unit?: string;
}

/** How it was tested: at which voltage, and whether every switch was closed. */
function Chosen({ circuitId, name, field, none, unit = "" }: ChosenProps) {
  const spec = useFieldSpec("circuit", field);
  const value = useInspection((s) => s.model?.entities[circuitId]?.values[field]);
  return (
    <SelectField
      quiet
      label={`${name}: ${spec?.label ?? ""}`}
      value={String(value ?? "")}
      choices={[["", none], ...(spec?.choices ?? []).map((one): [string, string] => [one, `${one}${unit}`])]}
      change={(to) => setField({ kind: "circuit", id: circuitId, field }, to || null)}
    />
  );
}

/** What stood open is not in the reading, and is named. */
function StoodOpen({ kind, id }: { kind: "circuit" | "board"; id: string }) {
  const choices = useFieldSpec(kind, SWITCHES)?.choices ?? [];
  const state = useInspection((s) => s.model?.entities[id]?.values[SWITCHES]);
  if (state == null || state !== choices.at(-1)) return null;
  return (
    <Box flexBasis="100%" py="1">
      <FieldInput
        place={{ kind, id, field: "insulation_open_at" }}
        hint="What lies beyond it stands as a limitation."
      />
    </Box>
  );
}

/** The same of a board that was measured as one. */
function WholeBoard({ boardId }: { boardId: string }) {
  const values = useInspection((s) => s.model?.entities[boardId]?.values);
  if (values?.insulation_lne_mohm == null && values?.insulation_ln_mohm == null) return null;
  return (
    <Box mb="3">
      <FieldInput place={{ kind: "board", id: boardId, field: SWITCHES }} />
      <StoodOpen kind="board" id={boardId} />
    </Box>
  );
}
