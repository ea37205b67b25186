/** Is there room for a charge point, a shower, a heat pump? The demand by the usual allowances against the service fuse. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { Mark } from "../drawings/Mark";
import { FieldInput } from "../fields/FieldInput";
import { Fields } from "../fields/Fields";
import { children } from "../inspection/model";
import { add, setField, useInspection } from "../inspection/open";
import type { Status } from "../api/client";
import { Button } from "../ui/Button";
import { Section } from "../ui/Page";
import { Table } from "../ui/Table";

/** What clients ask about most, with the words of the table of allowances. */
const ASKED = [
  ["Charge point", "vehicle charge point"],
  ["Shower", "instantaneous water heater or shower"],
  ["Heat pump", "heat pump"],
] as const;

export function RoomForMore({ inspection }: { inspection: string }) {
  const model = useInspection((s) => s.model);
  const room = model?.judgement?.room_for_more;
  if (!model || !room) return null;
  const wanted = children(model, "wanted_load", inspection);
  const most = Math.max(room.fuse_a ?? 0, room.with_a ?? 0, 1);
  const part = (a: number | null) => `${((a ?? 0) / most) * 100}%`;
  return (
    <Section title="Room for more" lead="By the usual allowances: guidance, no rule. An opinion with its sum.">
      <Flex gap="2" align="flex-start" mb="2" role="status">
        <Mark status={room.status as Status} size={18} />
        <Box fontSize="lg">{room.says}</Box>
      </Flex>
      {room.total_a !== null && room.fuse_a !== null && (
        <Box position="relative" height="34px" mb="3" aria-hidden="true" borderBottomWidth="1px" borderColor="line">
          <Box
            position="absolute"
            insetY="6px"
            left="0"
            width={part(room.with_a)}
            borderWidth="2px"
            borderStyle="dashed"
            borderColor="ink"
          />
          <Box position="absolute" insetY="6px" left="0" width={part(room.total_a)} bg="ink" />
          <Box position="absolute" insetY="0" left={part(room.fuse_a)} borderLeftWidth="3px" borderColor="sea" />
        </Box>
      )}
      {room.wanted.length > 0 && (
        <Table
          caption="Sum by kind of load"
          columns={[{ name: "Load" }, { name: "Connected A", figure: true }, { name: "Counted A", figure: true }]}
          rows={room.wanted.map((demandShare) => ({
            key: demandShare.load,
            cells: [demandShare.load, demandShare.connected_a, demandShare.counted_a],
          }))}
          foot={["In all", "", room.with_a]}
        />
      )}
      <Text mt="3" mb="1.5">
        <b>The client asks about:</b>
      </Text>
      {wanted.map((wantedLoad) => (
        <Box key={wantedLoad.id} borderTopWidth="1px" borderColor="line" py="2">
          <Fields
            kind="wanted_load"
            id={wantedLoad.id}
            fields={["what", "current_a", { field: "sheds", hint: "Then it takes what is left." }]}
          />
          <Button
            variant="quiet"
            onClick={() => setField({ kind: "wanted_load", id: wantedLoad.id, field: "removed" }, true)}
          >
            Remove load
          </Button>
        </Box>
      ))}
      <Flex wrap="wrap" gap="2" mb="3">
        {ASKED.map(([words, what]) => (
          <Button key={what} onClick={() => add("wanted_load", inspection, { what })}>
            + {words}
          </Button>
        ))}
      </Flex>
      <Box maxW="16rem">
        <FieldInput
          place={{ kind: "inspection", id: inspection, field: "demand_measured_a" }}
          hint="Round the line of the tails, as the home was used today."
        />
      </Box>
    </Section>
  );
}
