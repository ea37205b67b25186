/** Boards: how they hang together, what stands in front of the circuits, and what was looked at. */
import { Box, Flex } from "@chakra-ui/react";
import { useState } from "react";
import { BoardDrawing } from "../drawings/BoardDrawing";
import { Drawing } from "../drawings/Drawing";
import { Fields } from "../fields/Fields";
import { children, type Model, refusal } from "../inspection/model";
import { add, setField, useInspection } from "../inspection/open";
import type { Entity } from "../inspection/types";
import { nameOf } from "../inspection/words";
import { SetAside } from "../limits/SetAside";
import { EarlierPapers } from "../papers/EarlierPapers";
import { Photos } from "../photos/Photos";
import { Banner } from "../ui/Banner";
import { Button } from "../ui/Button";
import { type Choice } from "../ui/ChoiceField";
import { Fold } from "../ui/Fold";
import { Section } from "../ui/Page";
import { SelectField } from "../ui/SelectField";
import { StageBody, StageHead } from "../ui/StageHead";
import { Empty } from "../ui/States";
import { BoardChecks } from "./BoardChecks";
import { Circuits } from "./CircuitTable";
import { Labels } from "./Labels";
import { Rcds } from "./Rcds";
import { Years } from "./Years";

export default function Boards() {
  const model = useInspection((s) => s.model);
  const [chosen, choose] = useState<string | null>(null);
  const [circuit, chooseCircuit] = useState<string | null>(null);
  if (!model) return null;
  const boards = children(model, "board", model.id);
  const tree = model.judgement?.board_tree;
  const drawn = tree?.parts.filter((part) => part.key).map((part) => part.key) ?? [];
  // Entered, and not judged yet: the drawing comes with the verdicts.
  const waiting = boards.length > 1 ? boards.filter((one) => !drawn.includes(one.id)) : [];
  const board = [chosen, ...drawn, boards[0]?.id].map((id) => boards.find((one) => one.id === id)).find(Boolean);
  const addBoard = () => {
    const n = boards.length + 1;
    choose(add("board", model.id, { name: `Board ${n}`, position: n }));
  };
  if (!board) {
    return (
      <>
        <StageHead title="Boards" />
        <StageBody>
          <Empty
            title="No board yet"
            act={
              <Button variant="action" onClick={addBoard}>
                Add the first board
              </Button>
            }
          >
            Begin with the board that the tails go to; its circuits follow way by way.
          </Empty>
          <Section title="Or take it from earlier papers">
            <EarlierPapers />
          </Section>
        </StageBody>
      </>
    );
  }
  return (
    <>
      <StageHead title={nameOf(board)} line={String(board.values.location ?? "")}>
        <Button variant="quiet" onClick={addBoard}>
          Another board
        </Button>
      </StageHead>
      {tree && (
        <Box px="4" pb="2.5" overflowX="auto" aria-label="Boards" role="group">
          {/* In its own size; with boards behind boards behind boards it is moved sideways. */}
          <Drawing
            drawing={tree}
            chosen={board.id}
            choose={choose}
            buttons
            style={{ width: `${tree.width}px`, maxWidth: tree.width < 700 ? "100%" : undefined }}
          />
        </Box>
      )}
      {waiting.length > 0 && (
        <Flex px="4" pb="2.5" gap="2" wrap="wrap" role="group" aria-label="Boards not drawn yet">
          {waiting.map((one) => (
            <Button key={one.id} variant="choice" pressed={one.id === board.id} onClick={() => choose(one.id)}>
              {nameOf(one)}
            </Button>
          ))}
        </Flex>
      )}
      <Unconfirmed board={board} />
      <BoardDrawing board={board} movable chosen={circuit ?? undefined} choose={(entity) => chooseCircuit(entity.id)} />
      <Photos key={`photos-${board.id}`} kind="board" id={board.id} shows="circuit chart" label="Photo of the chart" />
      <Box px="4">
        <Fields
          kind="board"
          id={board.id}
          fields={[
            { field: "name", label: "Name" },
            "location",
            "ways",
            "main_switch_a",
            { field: "conditional_ka", label: "Conditional rating" },
            { field: "main_switch_at", wide: true },
            board.values.main_switch_at === "in the middle" && {
              field: "ways_left",
              hint: "The others are to its right.",
            },
            { field: "main_switch_kind", wide: true },
          ]}
        />
      </Box>
      <Circuits key={board.id} board={board} chosen={circuit} />
      <Rcds key={`rcds-${board.id}`} board={board} />
      <Box px="4">
        <Fold key={`feed-${board.id}`} title={feedOf(board, model)}>
          <Feed board={board} />
        </Fold>
        <SetAside key={`aside-${board.id}`} kind="board" id={board.id} />
        <Fields
          kind="board"
          id={board.id}
          fields={[
            "spd_state",
            ...(board.values.spd_state == null || board.values.spd_state === "none"
              ? []
              : ["spd_uc_v", { field: "spd_u_dc_v", hint: "Not required; module out of the board." }]),
          ]}
        />
      </Box>
      <BoardChecks board={board} />
      <Box px="4">
        <Labels key={`labels-${board.id}`} about={board.id} />
        <Fold small title="Labels at the origin">
          <Labels about={model.id} />
        </Fold>
        <Years />
      </Box>
    </>
  );
}

const feedOf = (board: Entity, model: Model): string => {
  const feeding = model.entities[String(board.values.fed_by ?? "")];
  const parts = [
    feeding ? `Fed from way ${nameOf(feeding)}` : "Fed from the origin",
    board.values.phases ? `${board.values.phases === "3" ? "three phases" : "one phase"}` : "",
    board.values.earthing === "own electrode" ? "with an electrode of its own" : "",
  ];
  return parts.filter(Boolean).join(", ");
};

function Feed({ board }: { board: Entity }) {
  const model = useInspection((s) => s.model);
  const refused = useInspection((s) => (s.model ? refusal(s.model, board.id, "fed_by") : undefined));
  if (!model) return null;
  const others = children(model, "board", model.id).filter((child) => child.id !== board.id);
  const ways = others.flatMap((other) =>
    children(model, "circuit", other.id).map((circuit): Choice => [circuit.id, `${nameOf(other)}: ${nameOf(circuit)}`]),
  );
  const own = board.values.earthing === "own electrode";
  return (
    <>
      {others.length > 0 && (
        <Box mb="4" maxW="24rem">
          <SelectField
            label="Fed from"
            value={String(board.values.fed_by ?? "")}
            choices={[["", "the origin"], ...ways]}
            refused={refused}
            change={(way) => setField({ kind: "board", id: board.id, field: "fed_by" }, way || null)}
          />
        </Box>
      )}
      <Fields
        kind="board"
        id={board.id}
        fields={[
          { field: "phases", words: { "1": "one", "3": "three" } },
          "earthing",
          board.values.zdb_retested === true && "zdb_retested",
          own && { field: "electrode_ohm", hint: "Measured with everything parallel taken off." },
          own && { field: "electrode_alone", hint: "Bonds and pipes would help it." },
          "outbuilding",
          board.values.outbuilding === true && {
            field: "extraneous",
            hint: "Water, gas or steel of its own there.",
            wide: true,
          },
          "only_way_out",
          { field: "no_cpc_notice", hint: "That lighting has no earth, and what must not be fitted." },
        ]}
      />
    </>
  );
}

/** What was carried over from earlier papers and not seen yet. */
function Unconfirmed({ board }: { board: Entity }) {
  const model = useInspection((s) => s.model);
  const circuits = model ? children(model, "circuit", board.id).filter((circuit) => circuit.values.unconfirmed) : [];
  const devices = model ? children(model, "rcd", board.id).filter((rcd) => rcd.values.unconfirmed) : [];
  if (!circuits.length && !devices.length && !board.values.unconfirmed) return null;
  const confirm = () => {
    setField({ kind: "board", id: board.id, field: "unconfirmed" }, null);
    for (const circuit of circuits) setField({ kind: "circuit", id: circuit.id, field: "unconfirmed" }, null);
    for (const rcd of devices) setField({ kind: "rcd", id: rcd.id, field: "unconfirmed" }, null);
  };
  const from = model?.entities[model.id]?.values.carried_from;
  return (
    <Banner
      role="note"
      acts={
        <Button variant="action" onClick={confirm}>
          Confirm whole board
        </Button>
      }
    >
      <b>
        {circuits.length
          ? `${circuits.length} ${circuits.length === 1 ? "circuit" : "circuits"} not confirmed yet.`
          : "This board is not confirmed yet."}
      </b>{" "}
      {from ? `Carried over from ${String(from)}.` : "Carried over."} Dashed ways were not seen on site yet; confirm
      each, or the board.
    </Banner>
  );
}
