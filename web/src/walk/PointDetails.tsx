/** What else is known of a point: its marks, its circuit, and what its kind and its room ask for. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { Fields, type Named } from "../fields/Fields";
import { HistoryButton } from "../fields/HistoryButton";
import { children } from "../inspection/model";
import { observe } from "../inspection/desk";
import { setField, useInspection } from "../inspection/open";
import type { Entity } from "../inspection/types";
import { nameOf } from "../inspection/words";
import { SetAside } from "../limits/SetAside";
import { Photos } from "../photos/Photos";
import { Button } from "../ui/Button";
import { Fold } from "../ui/Fold";
import { SelectField } from "../ui/SelectField";
import { link, mark, roomsOf, takeOutPoint } from "./walking";

interface Props {
  point: Entity;
  name: string;
  look?: string;
}

export function PointDetails({ point, name, look }: Props) {
  const looks = useInspection((s) => (look ? s.model?.judgement?.looks[look]?.look : undefined));
  const wet = useInspection((s) => {
    const room = s.model?.entities[String(point.values.room_id ?? "")]?.values;
    return room?.kind === "bath or shower" || room?.basin != null;
  });
  const v = point.values;
  return (
    <Box px="1.5" pb="3">
      {looks && (
        <Text color="quiet" fontSize="sm" mb="2">
          {looks}.
        </Text>
      )}
      <Flex gap="2" wrap="wrap" mb="3" role="group" aria-label={`${name}: marks`}>
        <Button variant="choice" pressed={v.opened === true} onClick={() => mark(point, "opened", true)}>
          opened
        </Button>
        <Button variant="choice" pressed={v.tested === true} onClick={() => mark(point, "tested", true)}>
          tested
        </Button>
        <Button onClick={() => observe({ kind: "point", id: point.id, field: "looked" })}>other words …</Button>
      </Flex>
      <Hanging point={point} />
      <Fields
        kind="point"
        id={point.id}
        fields={[
          { field: "not_reached", hint: "Gathers itself among the limitations." },
          v.kind === "alarm" && "alarm",
          v.kind === "alarm" && "replace_by",
          v.kind === "light" && "lampholder",
          v.kind === "light" &&
            String(v.lampholder ?? "").startsWith("screw") && {
              field: "centre_contact",
              hint: "The line belongs to the centre, not to the thread.",
            },
          "functional",
          v.kind === "downlights" && { field: "above", wide: true },
          v.kind === "downlights" && "fire_rated",
          wet && { field: "height_m", hint: "Above the floor; or tap it in the drawing." },
          wet && { field: "distance_m", hint: "From the edge of bath or tray, 0 above it." },
          wet && "water_protection",
          wet && { field: "ip_unmarked", hint: "Looked for on the fitting, its lid and its papers." },
          wet && "inside_basin",
          wet && { field: "no_basin", hint: "Zone 1 is then measured from the fixed shower head." },
          wet && "screened",
          wet && { field: "accessible_with", hint: "The pipe, bath or rail that is within reach of it." },
          wet && { field: "supplementary_ohm", hint: "To pipes and metal within reach." },
          { field: "delicate", hint: "A test above 250 V can harm it: it is listed to come off." },
          "front",
          "class_ii",
          "no_cpc",
          v.front === "metal" && {
            field: "metal_earth_v",
            hint: "A voltage tester between the metal and an earth that is proved.",
          },
          { field: "sample", hint: "Beside what was drawn." },
          v.sample != null && { field: "sample_reason", wide: true },
          "at_end",
          "name",
          "kind",
          { field: "note", wide: true },
        ]}
      />
      <Fold title="Readings at this point" small>
        <Fields kind="point" id={point.id} fields={READINGS} />
      </Fold>
      <SetAside kind="point" id={point.id} />
      <Photos kind="point" id={point.id} shows="overview" label={`Photo of ${name}`} inline />
      <Flex gap="2" mt="2" wrap="wrap">
        <HistoryButton place={{ kind: "point", id: point.id }} label={`History of ${name}`} words="History" />
        <Button variant="quiet" onClick={() => takeOutPoint(point, name)}>
          Remove point
        </Button>
      </Flex>
    </Box>
  );
}

/** What one meter reads here: of the dead tests, then of the voltages. */
const READINGS: readonly Named[] = [
  "line_neutral_ohm",
  "line_cpc_ohm",
  "r2_ohm",
  { field: "two_gangs", hint: "Each gang has contacts of its own." },
  { field: "leg_one_ohm", hint: "An open ring: outward from one end at the board, to this point." },
  { field: "leg_two_ohm", hint: "The same from the other end: the gap lies where both stop." },
  "retested",
  "traced",
  "polarity",
  { field: "line_neutral_v", hint: "Two of the three voltages that fit do not need the third." },
  "line_earth_v",
  "neutral_earth_v",
];

/** In which room and on which circuit it hangs. */
function Hanging({ point }: { point: Entity }) {
  const model = useInspection((s) => s.model);
  if (!model) return null;
  const boards = children(model, "board", model.id);
  const circuits = boards.flatMap((board) =>
    children(model, "circuit", board.id).map((circuit) => ({ circuit, board })),
  );
  const hangs = circuits.some(({ circuit }) => circuit.id === point.parentId) ? point.parentId : "";
  const named = (board: Entity, circuit: Entity) =>
    boards.length > 1 ? `${nameOf(board)}: ${nameOf(circuit)}` : nameOf(circuit);
  return (
    <Flex gap="3" wrap="wrap" mb="3">
      <Box flex="1 1 12rem">
        <SelectField
          label="On circuit"
          value={hangs}
          choices={[
            ["", "not known yet"],
            ...circuits.map((circuit) => [circuit.circuit.id, named(circuit.board, circuit.circuit)] as const),
          ]}
          change={(id) => link([point], id ? (model.entities[id] ?? null) : null)}
        />
      </Box>
      <Box flex="1 1 12rem">
        <SelectField
          label="In room"
          value={String(point.values.room_id ?? "")}
          choices={[["", "none"], ...roomsOf(model).map((room) => [room.id, nameOf(room)] as const)]}
          change={(id) => setField({ kind: "point", id: point.id, field: "room_id" }, id || null)}
        />
      </Box>
    </Flex>
  );
}
