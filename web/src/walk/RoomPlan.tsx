/** The rooms in the order of the walk: a strip on a phone, floors one above the other on a tablet; how far each is. */
import { Box, Flex } from "@chakra-ui/react";
import { memo, useEffect, useRef } from "react";
import { useShallow } from "zustand/react/shallow";
import type { Status } from "../api/client";
import { FLOORS } from "../api/declared.gen";
import { Mark } from "../drawings/Mark";
import { worst } from "../drawings/standing";
import { useAside } from "../inspection/aside";
import { useInspection } from "../inspection/open";
import type { Entity } from "../inspection/types";
import { nameOf } from "../inspection/words";
import { Button } from "../ui/Button";
import { Said } from "../ui/Said";
import { pointsOf } from "./points";
import { goTo, roomsOf } from "./walking";

/** From the roof down, and what lies round the house last. */
const DRAWN = [...FLOORS.filter((floor) => floor !== "outside").reverse(), "outside"];

interface Standing {
  left: number;
  points: number;
  unopened: number;
  worst: Status | undefined;
  seen: boolean;
}

function useStanding(room: Entity): Standing {
  return useInspection(
    useShallow(({ model }) => {
      const view = model?.judgement?.rooms.find((one) => one.id === room.id);
      const points = model ? pointsOf(model, room.id) : [];
      const checks = view?.checks ?? [];
      const ids = new Set([room.id, ...points.map((point) => point.id), ...checks.map((check) => check.check_id)]);
      return {
        left: view?.left ?? 0,
        points: points.length,
        unopened: view?.unopened ?? 0,
        worst: worst(model?.judgement ?? null, (id) => ids.has(id)),
        seen: view?.seen ?? false,
      };
    }),
  );
}

const NO_ROOMS: Entity[] = [];

const useRooms = (): Entity[] => useInspection(useShallow((s) => (s.model ? roomsOf(s.model) : NO_ROOMS)));

interface Props {
  room: Entity | undefined;
  add: () => void;
}

export function RoomStrip({ room, add }: Props) {
  const rooms = useRooms();
  return (
    <Flex
      as="nav"
      aria-label="Rooms"
      gap="1.5"
      overflowX="auto"
      px="2"
      py="1.5"
      borderBottomWidth="1px"
      borderColor="line"
      flex="none"
    >
      {rooms.map((entity) => (
        <StripRoom key={entity.id} room={entity} chosen={entity.id === room?.id} />
      ))}
      <Button onClick={add} label="Add a room">
        + room
      </Button>
    </Flex>
  );
}

const StripRoom = memo(function StripRoom({ room, chosen }: { room: Entity; chosen: boolean }) {
  const { left, seen } = useStanding(room);
  const here = useRef<HTMLButtonElement>(null);
  // The strip runs sideways: the room that is open is brought into sight.
  useEffect(() => {
    if (chosen) here.current?.scrollIntoView({ block: "nearest", inline: "center" });
  }, [chosen]);
  return (
    <Button
      ref={here}
      variant="choice"
      pressed={chosen}
      label={`${nameOf(room)}, ${seen ? "seen" : `${left} left`}`}
      onClick={() => goTo(room.id)}
    >
      {nameOf(room)} <Dot seen={seen} begun={room.values.walked_at != null} />
    </Button>
  );
});

/** Floors from the roof down, the rooms of each in the order of the walk. */
export function RoomPlan({ room, add }: Props) {
  const rooms = useRooms();
  const floors = [...DRAWN, ""].map((floor) => ({
    floor,
    rooms: rooms.filter((entity) => String(entity.values.floor ?? "") === floor),
  }));
  return (
    <Box as="nav" aria-label="Rooms" px="3" py="3">
      {floors
        .filter((floor) => floor.rooms.length > 0)
        .map((floor) => (
          <Box key={floor.floor} mb="3">
            <Box color="quiet" fontSize="sm" mb="1">
              {floor.floor || "no floor said"}
            </Box>
            <Box display="grid" gridTemplateColumns="repeat(2, minmax(0, 1fr))">
              {floor.rooms.map((here) => (
                <PlannedRoom key={here.id} room={here} number={rooms.indexOf(here) + 1} chosen={here.id === room?.id} />
              ))}
            </Box>
          </Box>
        ))}
      <Button onClick={add} label="Add a room">
        + room
      </Button>
    </Box>
  );
}

interface PlannedProps {
  room: Entity;
  number: number;
  chosen: boolean;
}

const PlannedRoom = memo(function PlannedRoom({ room, number, chosen }: PlannedProps) {
  const { left, points, unopened, worst: status, seen } = useStanding(room);
  const leftOut = useAside(room.id);
  const description =
    leftOut?.state ?? (room.values.not_reached ? String(room.values.not_reached) : left ? `${left} left` : "seen");
  return (
    <Button variant="plain" size="bare" pressed={chosen} onClick={() => goTo(room.id)}>
      <Said words={`${number}. ${nameOf(room)}: ${description}, ${points} points`}>
        <Box
          as="span"
          width="full"
          minH="4.6rem"
          p="2"
          m="-1px"
          textAlign="start"
          borderWidth={chosen ? "3px" : "2px"}
          borderColor={chosen ? "lamp" : "ink"}
          borderStyle={room.values.not_reached || leftOut ? "dashed" : "solid"}
          color={leftOut && "quiet"}
          bg={seen ? "half" : "sheet"}
          position="relative"
        >
          <Flex as="span" justify="space-between" gap="1">
            <Box as="b" lineClamp="2" minW="0">
              {nameOf(room)}
            </Box>
            {status && status !== "pass" && status !== "unknown" && <Mark status={status} />}
          </Flex>
          <Box as="small" display="block" color="quiet">
            {description}
            {points > 0 && ` · ${points}`}
            {unopened > 0 && ` · open ${unopened}`}
          </Box>
        </Box>
      </Said>
    </Button>
  );
});

function Dot({ seen, begun }: { seen: boolean; begun: boolean }) {
  return (
    <svg width="12" height="12" viewBox="0 0 12 12" aria-hidden="true" style={{ flex: "none" }}>
      <circle cx="6" cy="6" r="4.6" fill={seen ? "currentColor" : "none"} stroke="currentColor" strokeWidth="1.5" />
      {begun && !seen && <path d="M6 1.4 A4.6 4.6 0 0 0 6 10.6 Z" fill="currentColor" />}
    </svg>
  );
}
