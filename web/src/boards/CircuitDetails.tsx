/** What else decides over a circuit: how its cable runs, what it feeds, what protects it. Opened where it is wanted. */
import { Box, Flex } from "@chakra-ui/react";
import { FieldInput } from "../fields/FieldInput";
import { Fields } from "../fields/Fields";
import { HistoryButton } from "../fields/HistoryButton";
import { children } from "../inspection/model";
import { add, setField, useInspection } from "../inspection/open";
import type { Entity } from "../inspection/types";
import { nameOf } from "../inspection/words";
import { SetAside } from "../limits/SetAside";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { FieldGrid } from "../ui/Page";
import { SelectField } from "../ui/SelectField";

const METHODS: Record<string, string> = {
  "100": "100: above a ceiling, up to 100 mm of insulation",
  "101": "101: above a ceiling, more insulation",
  "102": "102: in a stud wall with insulation, touching the wall face",
  "103": "103: in a stud wall with insulation, not touching",
  C: "C: clipped direct",
  A: "A: in conduit in an insulated wall",
  B: "B: in conduit or trunking on a wall",
  D: "D: in the ground",
  "not known": "not known: judged by the mildest and the worst",
};

interface Props {
  circuit: Entity;
  moveBy: (step: number) => void;
}

export function CircuitDetails({ circuit, moveBy }: Props) {
  const v = circuit.values;
  return (
    <Box px="1" py="2.5">
      <Where circuit={circuit} moveBy={moveBy} />
      <Fields
        kind="circuit"
        id={circuit.id}
        fields={[
          { field: "cable_method", words: METHODS, wide: true },
          { field: "cable_type", wide: true },
          { field: "imperial", hint: "Strands and diameter, where the cable is of an imperial size." },
          { field: "rating_factor", hint: "Where cables lie together or in the warm." },
          "cable_length_m",
          "design_current_a",
          {
            field: "device_breaking_ka",
            hint: "As marked on the device; the table's usual value where it is empty.",
          },
          { field: "serves", hint: "What its points are; the RCD and disconnection times that it needs go by it." },
          { field: "untraced", hint: "Trace it by what goes dead; otherwise a limitation." },
          "cable_hidden",
          "outdoors",
          "bathroom",
          v.bathroom === true && {
            field: "supplementary_bonding",
            hint: "Pipes, bath and rail joined to the cpcs there.",
          },
          { field: "afdd", hint: "Its test button is then asked for among the live tests." },
          { field: "no_cpc", hint: "Wired without one, as lighting before 1966 often is." },
          { field: "outlet_with_socket", hint: "A cooker outlet with a socket counts as a socket." },
          "one_fused_load",
          v.one_fused_load === true && "load_fuse_a",
          "appliance",
          { field: "load", hint: "What its RCD has to see.", wide: true },
          ...(v.load === "vehicle" ? OF_A_VEHICLE : []),
          EARTHED.includes(String(v.appliance ?? "")) && "earthed_by",
          (v.load === "vehicle" || v.appliance === "hot tub") && "own_rcd",
          v.load === "inverter" && "both_ways",
          { field: "rcd_group", hint: "Circuits with the same letter share one RCD." },
          ...(v.rcd_rated_ma == null ? [] : OF_ITS_RCD),
          v.rcd_rated_ma != null && (v.load === "vehicle" || v.load === "inverter") && "dc_detection",
          {
            field: "joined_by",
            hint: "Its line, neutral or ends were found joined with those of another circuit.",
          },
          v.joined_by != null && "joined_with",
          { field: "continuity_method", hint: "It decides what each point should read.", wide: true },
          { field: "neutral_at", hint: "Where its number is not that of its way." },
          { field: "second_csa_mm2", hint: "Where part of it is run in another size." },
          v.second_csa_mm2 != null && { field: "second_at", hint: "Where it changes.", wide: true },
          { field: "core_colours", hint: "They tell its years.", wide: true },
          { field: "fitted_from", hint: "Judged by the edition of its own day." },
          v.fitted_from != null && "fitted_to",
          v.fitted_from != null && "fitted_by",
        ]}
      />
      <SetAside kind="circuit" id={circuit.id} />
      {v.cable_method === "not known" && <MethodLimitation circuit={circuit} />}
      <HistoryButton
        place={{ kind: "circuit", id: circuit.id }}
        label="History of this circuit"
        words="History of this circuit"
      />
    </Box>
  );
}

const OF_ITS_RCD = [
  "rcd_kind",
  "rcd_standard",
  "rcd_delay",
  "fault_protection",
  { field: "leakage_ma", label: "Standing leakage behind this RCD" },
];

/** What can be charged outdoors, and what guards it where the neutral of the supply breaks. */
const OF_A_VEHICLE = ["vehicle_outdoors", "neutral_guard", "earthed_by"];

/** What may stand on an earth of its own. */
const EARTHED = ["hot tub", "swimming pool", "caravan hook-up", "boat supply"];

/** What could not be seen is a limitation of the report: one tap records it. */
function MethodLimitation({ circuit }: { circuit: Entity }) {
  const model = useInspection((s) => s.model);
  if (!model) return null;
  const what = `How the cable of ${nameOf(circuit)} is installed`;
  const there = children(model, "limitation", model.id).some((limitation) => limitation.values.what === what);
  if (there) return <Box color="quiet">Recorded as a limitation.</Box>;
  return (
    <Button onClick={() => add("limitation", model.id, { what, reason: "Its run cannot be seen" })}>
      Record as a limitation
    </Button>
  );
}

/** On which board, phase and way it stands. */
function Where({ circuit, moveBy }: Props) {
  const model = useInspection((s) => s.model);
  if (!model) return null;
  const boards = children(model, "board", model.id);
  const here = model.entities[circuit.parentId];
  const three = (here?.values.phases ?? model.entities[model.id]?.values.phases) === "3";
  return (
    <FieldGrid>
      <Field group label={`Way ${String(circuit.values.way ?? "?")}`}>
        <Flex gap="2">
          <Button onClick={() => moveBy(-1)}>one way back</Button>
          <Button onClick={() => moveBy(1)}>one way on</Button>
        </Flex>
      </Field>
      {boards.length > 1 && (
        <SelectField
          label="On board"
          value={circuit.parentId}
          choices={boards.map((board) => [board.id, nameOf(board)])}
          change={(board) => setField({ kind: "circuit", id: circuit.id, field: "board" }, board)}
        />
      )}
      {three && <FieldInput place={{ kind: "circuit", id: circuit.id, field: "phase" }} />}
    </FieldGrid>
  );
}
