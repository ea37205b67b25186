/** The circuits of a board way by way, with the builder under them. Alt and an arrow key move a circuit to the next way. */
import { Box, Flex, Table, VisuallyHidden } from "@chakra-ui/react";
import { memo, useState } from "react";
import { useReference } from "../api/reference";
import { children, refusal } from "../inspection/model";
import { add, setField, useInspection } from "../inspection/open";
import type { FieldOf, Entity, Value } from "../inspection/types";
import { nameOf } from "../inspection/words";
import { movedTo, nextWay } from "../drawings/ways";
import { Button, IconButton, LinkButton } from "../ui/Button";
import { ChosenCell, TypedCell } from "../ui/Cell";
import type { Choice } from "../ui/ChoiceField";
import { Empty } from "../ui/States";
import { tell } from "../ui/tell";
import css from "./CircuitTable.module.css";
import { CircuitDetails } from "./CircuitDetails";
import { carriedOn } from "./quick";
import { QuickAdd } from "./QuickAdd";

export function Circuits({ board, chosen }: { board: Entity; chosen: string | null }) {
  const model = useInspection((s) => s.model);
  const circuits = model ? children(model, "circuit", board.id) : [];
  const [added, setAdded] = useState<string | null>(null);
  const usual = useReference()?.usual_circuits ?? [];
  const buttons = usual.filter((usualCircuit) => usualCircuit.button).sort((a, b) => a.at - b.at);
  const put = (fields: Record<string, Value>): string => {
    const way = nextWay(circuits);
    const before = circuits.filter((c) => !c.values.spare).at(-1)?.values;
    return add("circuit", board.id, { position: way, way: String(way), ...fields, ...carriedOn(before, fields) });
  };
  return (
    <Box position="relative" px="4" pb="6" overflowX="auto">
      <Table.Root className={css.table}>
        <Table.Header>
          <Table.Row>
            {HEADS.map((head) => (
              <Table.ColumnHeader key={head}>{head}</Table.ColumnHeader>
            ))}
            <Table.ColumnHeader>
              <VisuallyHidden>Remove</VisuallyHidden>
            </Table.ColumnHeader>
          </Table.Row>
        </Table.Header>
        <Table.Body>
          {circuits.map((circuit) => (
            <CircuitRow
              key={circuit.id}
              circuit={circuit}
              fresh={circuit.id === added}
              chosen={circuit.id === chosen}
            />
          ))}
        </Table.Body>
      </Table.Root>
      {circuits.length > 0 && (
        <Box textAlign="end">
          <LinkButton file variant="quiet" size="sm" to={`/api/inspections/${model?.id}/circuits.csv`}>
            All circuits as CSV
          </LinkButton>
        </Box>
      )}
      {circuits.length === 0 && (
        <Empty title="No circuits yet">
          Type them from the first way on; usual ones come with their cable and breaker.
        </Empty>
      )}
      <QuickAdd way={nextWay(circuits)} put={put} />
      <Flex wrap="wrap" gap="2" pt="3.5" role="group" aria-label="Add a circuit">
        {buttons.map(({ button, fields }) => (
          <Button key={button} variant="choice" onClick={() => setAdded(put(fields))}>
            + {button}
          </Button>
        ))}
        <Button variant="choice" onClick={() => setAdded(put({}))}>
          + Another circuit
        </Button>
      </Flex>
    </Box>
  );
}

const HEADS = ["Way", "Circuit", "Form", "Points", "Cable mm²", "Device", "Rating A", "RCD mA"];
const EMPTY: Choice = ["", ""];
const same = (text: string): Choice => [text, text];
const FORMS = [EMPTY, same("ring"), same("radial")];
const TYPED = ["way", "designation", "points_served", "device_rating_a", "rcd_rated_ma"];
const NONE: readonly string[] = [];

interface RowProps {
  circuit: Entity;
  fresh: boolean;
  chosen: boolean;
}

/** Drawn anew when its own circuit changed. */
const CircuitRow = memo(function CircuitRow({ circuit, fresh, chosen }: RowProps) {
  const v = circuit.values;
  const keep = (field: FieldOf<"circuit">, value: Value) => setField({ kind: "circuit", id: circuit.id, field }, value);
  const refused = useInspection((s) =>
    TYPED.map((field) => (s.model ? refusal(s.model, circuit.id, field) : undefined))
      .filter(Boolean)
      .join(" "),
  );
  const name = nameOf(circuit);
  const [opened, setOpened] = useState(false);
  const takeOut = () => {
    keep("removed", true);
    tell(`${name} is taken out.`, () => keep("removed", null));
  };
  const moveBy = (step: number) => {
    const way = (Number.parseInt(String(v.way ?? ""), 10) || 0) + step;
    if (way < 1) return;
    const { model } = useInspection.getState();
    const circuits = model ? children(model, "circuit", circuit.parentId) : [];
    for (const { place, value } of movedTo(circuits, circuit, way)) setField(place, value);
  };
  const keys = (event: React.KeyboardEvent) => {
    if (!event.altKey || (event.key !== "ArrowUp" && event.key !== "ArrowDown")) return;
    event.preventDefault();
    moveBy(event.key === "ArrowUp" ? -1 : 1);
  };
  const text = (field: FieldOf<"circuit">) => String(v[field] ?? "");
  return (
    <>
      <Table.Row
        ref={(element: HTMLTableRowElement | null) => {
          if (chosen) element?.scrollIntoView({ block: "nearest" });
        }}
        data-spare={v.spare ? true : undefined}
        data-unconfirmed={v.unconfirmed ? true : undefined}
        data-chosen={chosen || undefined}
        onKeyDown={keys}
      >
        <Table.Cell>
          <TypedCell value={text("way")} keep={(typed) => keep("way", typed)} label={`Way of ${name}`} width="2.4rem" />
        </Table.Cell>
        <Table.Cell>
          <TypedCell
            value={text("designation")}
            keep={(typed) => keep("designation", typed)}
            label={`Name of circuit ${text("way")}`}
            focus={fresh}
          />
        </Table.Cell>
        {v.spare ? (
          <Table.Cell colSpan={6} color="quiet">
            spare way
          </Table.Cell>
        ) : (
          <Described circuit={circuit} keep={keep} />
        )}
        <Table.Cell className={css.hands}>
          {!!v.unconfirmed && (
            <Button size="sm" label={`Confirm ${name}`} onClick={() => keep("unconfirmed", null)}>
              confirm
            </Button>
          )}
          {!v.spare && (
            <Button
              variant="quiet"
              size="sm"
              expanded={opened}
              label={`${opened ? "less" : "more"} about ${name}`}
              onClick={() => setOpened(!opened)}
            >
              {opened ? "less" : "more"}
            </Button>
          )}
          <IconButton icon="close" size="sm" label={`Remove ${name}`} onClick={takeOut} />
        </Table.Cell>
      </Table.Row>
      {opened && (
        <Table.Row className={css.details}>
          <Table.Cell colSpan={9}>
            <CircuitDetails circuit={circuit} moveBy={moveBy} />
          </Table.Cell>
        </Table.Row>
      )}
      {refused && (
        <Table.Row>
          <Table.Cell colSpan={9} role="alert" fontWeight="bold" borderLeftWidth="4px" borderColor="ink">
            {refused}
          </Table.Cell>
        </Table.Row>
      )}
    </>
  );
});

interface DescribedProps {
  circuit: Entity;
  keep: (field: FieldOf<"circuit">, value: Value) => void;
}

/** Its form, points, cable, device and RCD. */
function Described({ circuit, keep }: DescribedProps) {
  const reference = useReference();
  const v = circuit.values;
  const name = nameOf(circuit);
  const text = (field: FieldOf<"circuit">) => String(v[field] ?? "");
  const devices = [...new Set((reference?.devices ?? []).map((d) => `${d.standard} ${d.type}`))];
  const cable = v.line_csa_mm2 != null && v.cpc_csa_mm2 != null ? `${v.line_csa_mm2}/${v.cpc_csa_mm2}` : "";
  const device = v.device_standard && v.device_type ? `${v.device_standard} ${v.device_type}` : "";
  const behind = useInspection((s) => {
    const rcd = v.rcd_id ? s.model?.entities[String(v.rcd_id)] : undefined;
    return rcd && !rcd.values.removed && rcd.parentId === circuit.parentId ? rcd : null;
  });
  // Points that were hung on it count themselves, until somebody types another number.
  const counted = useInspection((s) => s.model?.judgement?.points_served[circuit.id]);
  const figure = (field: FieldOf<"circuit">, label: string, width: string, instead?: string) => (
    <TypedCell
      figure
      value={text(field)}
      keep={(typed) => keep(field, typed)}
      label={`${label} of ${name}`}
      width={width}
      instead={instead}
    />
  );
  const chooseCable = (chosenCable: string) => {
    const [line, cpc] = chosenCable.split("/").map(Number);
    keep("line_csa_mm2", line || null);
    keep("cpc_csa_mm2", cpc || null);
  };
  const chooseDevice = (chosenDevice: string) => {
    const at = chosenDevice.lastIndexOf(" ");
    keep("device_standard", chosenDevice.slice(0, at) || null);
    keep("device_type", chosenDevice.slice(at + 1) || null);
  };
  const usual = reference?.usual_cables ?? NONE;
  const cables = usual.includes(cable) || !cable ? usual : [...usual, cable];
  return (
    <>
      <Table.Cell data-label="Form">
        <ChosenCell
          label={`Form of ${name}`}
          value={text("form")}
          choices={FORMS}
          change={(form) => keep("form", form || null)}
        />
      </Table.Cell>
      <Table.Cell data-label="Points">{figure("points_served", "Points", "2.6rem", counted?.toString())}</Table.Cell>
      <Table.Cell data-label="Cable mm²">
        <ChosenCell
          label={`Cable of ${name}`}
          value={cable}
          choices={[EMPTY, ...cables.map(same)]}
          change={chooseCable}
        />
      </Table.Cell>
      <Table.Cell data-label="Device">
        <ChosenCell
          label={`Device of ${name}`}
          value={device}
          choices={[EMPTY, ...devices.map((one): Choice => [one, one.replace(/^BS (EN )?/, "")])]}
          change={chooseDevice}
        />
      </Table.Cell>
      <Table.Cell data-label="Rating A">{figure("device_rating_a", "Rating", "3rem")}</Table.Cell>
      <Table.Cell data-label="RCD mA">
        {behind ? (
          <Box as="span" display="block" px="1" maxW="5.5rem" truncate fontSize="sm" title={nameOf(behind)}>
            {nameOf(behind)}
          </Box>
        ) : (
          figure("rcd_rated_ma", "RCD", "3rem")
        )}
      </Table.Cell>
    </>
  );
}
