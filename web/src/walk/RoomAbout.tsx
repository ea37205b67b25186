/** What a room is called, where it lies on the walk, and whether it was reached. */
import { Box, Flex } from "@chakra-ui/react";
import { Fields } from "../fields/Fields";
import { useInspection, setField } from "../inspection/open";
import type { Entity } from "../inspection/types";
import { SetAside } from "../limits/SetAside";
import { Button } from "../ui/Button";
import { roomsOf, takeOutRoom } from "./walking";

export function RoomAbout({ room }: { room: Entity }) {
  const model = useInspection((s) => s.model);
  if (!model) return null;
  const rooms = roomsOf(model);
  const at = rooms.findIndex((entity) => entity.id === room.id);
  const place = (entity: Entity, position: number) =>
    setField({ kind: "room", id: entity.id, field: "position" }, position);
  /** Every room gets the number it has on the walk, these two the other way round. */
  const swap = (step: 1 | -1) => {
    const order = [...rooms];
    const [here, there] = [order[at], order[at + step]];
    if (!here || !there) return;
    order[at] = there;
    order[at + step] = here;
    order.forEach((entity, index) => entity.values.position !== index + 1 && place(entity, index + 1));
  };
  return (
    <Box mb="3" pl="3" borderLeftWidth="3px" borderColor="line">
      <Fields
        kind="room"
        id={room.id}
        fields={[
          "name",
          "kind",
          "floor",
          { field: "escape_route", hint: "Halls and landings are, unless you say otherwise." },
          { field: "not_reached", hint: "Then nothing more is asked here: it is a limitation." },
          "note",
        ]}
      />
      <SetAside kind="room" id={room.id} />
      <Flex gap="2" wrap="wrap">
        <Button disabled={at <= 0} onClick={() => swap(-1)}>
          earlier on the walk
        </Button>
        <Button disabled={at >= rooms.length - 1} onClick={() => swap(1)}>
          later on the walk
        </Button>
        <Button variant="quiet" onClick={() => takeOutRoom(room)}>
          Remove room
        </Button>
      </Flex>
    </Box>
  );
}
