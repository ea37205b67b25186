/** A board's insulation circuit by circuit: each one's part, causes in the order of likelihood, words for the client. */
import { Box, Flex } from "@chakra-ui/react";
import { useState } from "react";
import { useShallow } from "zustand/react/shallow";
import { useFieldSpec } from "../api/reference";
import { InsulationBar } from "../drawings/InsulationBar";
import { Mark } from "../drawings/Mark";
import { FieldInput } from "../fields/FieldInput";
import { children } from "../inspection/model";
import { setField as keep, useInspection } from "../inspection/open";
import { type Entity, placeOf, valueIn } from "../inspection/types";
import { nameOf } from "../inspection/words";
import { Dialog } from "../ui/Dialog";
import { Segments } from "../ui/Segments";
import { SelectField } from "../ui/SelectField";
import { type ServedInsulation as Served, useServedInsulation } from "./useServedInsulation";

export function InsulationDialog({ board, close }: { board: Entity; close: () => void }) {
  const served = useServedInsulation(board.id);
  return (
    <Dialog title={`Insulation of ${nameOf(board)}`} close={close} width="60rem">
      <Parts board={board} served={served} />
    </Dialog>
  );
}

function Parts({ board, served }: { board: Entity; served: Served[] }) {
  const [field, choose] = useState<string | null>(null);
  const insulationBench = served.find((each) => each.field === field) ?? served[0];
  const circuits = useInspection(
    useShallow((s) => (s.model ? children(s.model, "circuit", board.id).filter(({ values }) => !values.spare) : [])),
  );
  return (
    <>
      {served.length > 1 && (
        <Segments
          label="Pairing"
          choices={served.map((each): [string, string] => [each.field, each.pairing])}
          value={insulationBench?.field ?? ""}
          change={choose}
        />
      )}
      {insulationBench && (
        <Box my="3">
          <Mark status={insulationBench.status} />{" "}
          <Box as="b" fontFamily="mono" fontSize="3xl">
            {insulationBench.combined} MΩ
          </Box>{" "}
          {insulationBench.pairing}. {insulationBench.says}
        </Box>
      )}
      <WholeBoard boardId={board.id} />
      <EveryCircuit circuits={circuits} />
      <Box as="ul" listStyleType="none">
        {circuits.map((circuit) => (
          <Line key={circuit.id} circuit={circuit} bench={insulationBench} />
        ))}
      </Box>
      {insulationBench && <AfterAll bench={insulationBench} />}
    </>
  );
}

/** A circuit: what it takes of the board, and how it is tested. */
function Line({ circuit, bench }: { circuit: Entity; bench: Served | undefined }) {
  const row = bench?.rows.find((each) => each.circuit_id === circuit.id);
  const name = nameOf(circuit);
  const apart = row?.parts_apart.length ? row.parts_apart.join(", ") : row?.apart ? "" : null;
  return (
    <Flex as="li" wrap="wrap" columnGap="3" align="center" py="1" borderTopWidth="1px" borderColor="line">
      <Box flex="0 1 11rem" minW="0" fontWeight={row?.first || row?.low ? "bold" : undefined}>
        {name}
        {row?.first && <Box color="sea">open first</Box>}
        {apart !== null && !row?.first && <Box color="sea">{apart} far below its neighbours</Box>}
      </Box>
      <Box flex="1 1 10rem" minW="0">
        {row && bench && <InsulationBar row={row} minimum={bench.minimum_mohm} attention={bench.attention_mohm} />}
      </Box>
      <Box flex="0 0 5rem" textAlign="end" fontFamily="mono" fontWeight="bold">
        {row?.text ?? "–"}
      </Box>
      <Box flex="0 0 9.5rem" hideBelow="md">
        <Chosen circuitId={circuit.id} field={PAIRINGS} none="pairings" name={name} />
      </Box>
      <Box flex="0 0 6rem" hideBelow="md">
        <Chosen circuitId={circuit.id} field={VOLTS} none="– V" unit=" V" name={name} />
      </Box>
      <Box flex="0 0 8rem" hideBelow="md">
        <Chosen circuitId={circuit.id} field={SWITCHES} none="switches" name={name} />
      </Box>
      {row && row.parts !== "" && (
        <Box flexBasis="100%" ps="11.75rem" fontFamily="mono" fontSize="sm">
          {row.parts} MΩ
        </Box>
      )}
      <StoodOpen kind="circuit" id={circuit.id} />
    </Flex>
  );
}

/** The pairings of every circuit of the board by one tap. */
function EveryCircuit({ circuits }: { circuits: Entity[] }) {
  const choices = useFieldSpec("circuit", PAIRINGS)?.choices ?? [];
  const all = new Set(circuits.map(({ values }) => String(values[PAIRINGS] ?? FIRM)));
  return (
    <Flex my="3" gap="3" align="center" wrap="wrap">
      <span>Every circuit</span>
      <Segments
        label="Pairings of every circuit"
        choices={[
          [FIRM, "as the firm does"],
          ...choices.map((choice): [string, string] => [choice, SAID[choice] ?? choice]),
        ]}
        value={all.size === 1 ? ([...all][0] ?? "") : ""}
        change={(to) => {
          for (const { id } of circuits) keep({ kind: "circuit", id, field: PAIRINGS }, to === FIRM ? null : to);
        }}
      />
    </Flex>
  );
}

function AfterAll({ bench }: { bench: Served }) {
  return (
    <>
      {bench.missing.length > 0 && <Box mt="3">Not measured, or not whole: {bench.missing.join(", ")}.</Box>}
      {bench.causes.length > 0 && (
        <Box mt="4">
          <b>Before you record a fault, in this order.</b> Isolated and proved dead:
          <Box as="ol" ps="6" listStyleType="decimal">
            {bench.causes.map((cause) => (
              <li key={cause}>{cause}</li>
            ))}
          </Box>
        </Box>
      )}
      {bench.client !== "" && (
        <Box mt="4">
          <b>For the client.</b> {bench.client}
        </Box>
      )}
    </>
  );
}

const PAIRINGS = "insulation_pairings";
const SAID: Record<string, string> = { "all three": "L–N, L–E, N–E" };
/** No choice of its own: the firm's rule. */
const FIRM = "firm";
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
  const value = useInspection((s) => valueIn(s.model?.entities[circuitId], field));
  return (
    <SelectField
      quiet
      label={`${name}: ${spec?.label ?? ""}`}
      value={String(value ?? "")}
      choices={[
        ["", none],
        ...(spec?.choices ?? []).map((choice): [string, string] => [choice, `${SAID[choice] ?? choice}${unit}`]),
      ]}
      change={(to) => keep(placeOf("circuit", circuitId, field), to || null)}
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
      <FieldInput place={{ kind, id, field: "insulation_open_at" }} hint="What lies beyond it is a limitation." />
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
