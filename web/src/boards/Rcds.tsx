/** The residual current devices of a board: what is marked on each, and which ways stand behind it. */
import { Box, Flex } from "@chakra-ui/react";
import { Fields } from "../fields/Fields";
import { children } from "../inspection/model";
import { add, setField, useInspection } from "../inspection/open";
import type { Entity } from "../inspection/types";
import { nameOf } from "../inspection/words";
import { Button } from "../ui/Button";
import { Lines, Section } from "../ui/Page";

export function Rcds({ board }: { board: Entity }) {
  const model = useInspection((s) => s.model);
  if (!model) return null;
  const devices = children(model, "rcd", board.id);
  const circuits = children(model, "circuit", board.id).filter((circuit) => !circuit.values.spare);
  const addDevice = (whole: boolean) =>
    add("rcd", board.id, {
      position: devices.length + 1,
      name: `RCD ${devices.length + 1}`,
      place: whole ? "whole board" : "its circuits",
      rated_ma: 30,
      delay: "none",
    });
  return (
    <Box px="4">
      <Section
        title="Residual current devices"
        lead="Each is tested once, for all circuits behind it. A circuit with an RCD of its own can keep its mA in its row."
      >
        <Lines>
          {devices.map((device) => (
            <Device key={device.id} device={device} circuits={circuits} />
          ))}
        </Lines>
        <Flex wrap="wrap" gap="2">
          <Button onClick={() => addDevice(false)}>+ RCD for some ways</Button>
          <Button onClick={() => addDevice(true)}>+ RCD for the whole board</Button>
        </Flex>
      </Section>
    </Box>
  );
}

function Device({ device, circuits }: { device: Entity; circuits: Entity[] }) {
  const v = device.values;
  const put = (circuit: Entity) =>
    setField(
      { kind: "circuit", id: circuit.id, field: "rcd_id" },
      circuit.values.rcd_id === device.id ? null : device.id,
    );
  return (
    <Box as="li" borderTopWidth="1px" borderColor="line" py="3">
      <Flex justify="space-between" align="center" gap="3">
        <b>{nameOf(device)}</b>
        <Button
          variant="quiet"
          label={`Remove ${nameOf(device)}`}
          onClick={() => setField({ kind: "rcd", id: device.id, field: "removed" }, true)}
        >
          Remove
        </Button>
      </Flex>
      <Fields
        kind="rcd"
        id={device.id}
        fields={[
          { field: "name", label: "Name" },
          "rated_ma",
          "rating_a",
          "kind",
          "standard",
          { field: "delay", words: { none: "none", S: "time-delayed (S)" } },
          v.delay === "S" && v.standard === "BS 4293" && "delay_ms",
          { field: "both_ways", hint: "Only asked where solar or a battery feeds through it." },
          { field: "place", wide: true },
        ]}
      />
      {v.place === "whole board" ? (
        <Box color="quiet">Everything on this board is behind it.</Box>
      ) : (
        <Flex wrap="wrap" gap="1.5" role="group" aria-label={`Ways behind ${nameOf(device)}`}>
          {circuits.map((circuit) => {
            const other = circuit.values.rcd_id && circuit.values.rcd_id !== device.id;
            return (
              <Button
                key={circuit.id}
                variant="choice"
                pressed={circuit.values.rcd_id === device.id}
                title={other ? "Behind another device now" : undefined}
                onClick={() => put(circuit)}
              >
                <b>{String(circuit.values.way ?? "?")}</b> {String(circuit.values.designation ?? "Unnamed")}
                {other ? " ·" : ""}
              </Button>
            );
          })}
        </Flex>
      )}
    </Box>
  );
}
