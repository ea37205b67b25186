/** A board's insulation as it adds up: one line under the board, and behind it each circuit's part, causes, words for the client. */
import { Box, Flex } from "@chakra-ui/react";
import { useState } from "react";
import type { Schemas } from "../api/client";
import { useFieldSpec } from "../api/reference";
import { InsulationBar } from "../drawings/InsulationBar";
import { Mark } from "../drawings/Mark";
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
        <Dialog title={`Insulation of ${nameOf(board)}`} close={() => setOpened(false)} width="44rem">
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
      <Box as="ul" listStyleType="none">
        {one.rows.map((row) => (
          <Flex as="li" key={row.circuit_id} gap="3" align="center" py="1" borderTopWidth="1px" borderColor="line">
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
              <Volts circuitId={row.circuit_id} name={row.name} />
            </Box>
          </Flex>
        ))}
      </Box>
      {one.missing.length > 0 && <p>Not measured: {one.missing.join(", ")}.</p>}
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

/** At which voltage it was tested. */
function Volts({ circuitId, name }: { circuitId: string; name: string }) {
  const spec = useFieldSpec("circuit", FIELD);
  const value = useInspection((s) => s.model?.entities[circuitId]?.values[FIELD]);
  return (
    <SelectField
      quiet
      label={`${name}: ${spec?.label ?? ""}`}
      value={String(value ?? "")}
      choices={[["", "– V"], ...(spec?.choices ?? []).map((volts): [string, string] => [volts, `${volts} V`])]}
      change={(to) => setField({ kind: "circuit", id: circuitId, field: FIELD }, to || null)}
    />
  );
}

const FIELD = "insulation_test_v";
