/** Under the thumb: counters of the room, the camera, and on to the next room. */
import { Box, Flex } from "@chakra-ui/react";
import { memo, useState } from "react";
import type { Schemas } from "../api/client";
import { useFieldSpec, useReference } from "../api/reference";
import { useInspection } from "../inspection/open";
import type { Entity } from "../inspection/types";
import { nameOf } from "../inspection/words";
import { PHOTO_FILES, takeIn } from "../photos/photos";
import { Button } from "../ui/Button";
import { Dialog } from "../ui/Dialog";
import { FileButton } from "../ui/FileDrop";
import { Said } from "../ui/Said";
import { Told } from "../ui/States";
import { pointsOf, unlooked, usePoints, useRoomView } from "./points";
import { addPoint, likelyNext, nextRoom, restFine, roomsOf, type UsualRoom, useWalking } from "./walking";

/** So many counters stand under the thumb, in the same places in every room; the others are one tap further. */
const COUNTERS = 8;
/** What fills the places that a room's own kinds leave. */
const ANYWHERE = ["socket", "light", "switch", "fused unit", "alarm", "joint", "fan"];

const NO_USUAL: UsualRoom[] = [];
const NO_CHECKS: Schemas["CheckView"][] = [];

export function usualKinds(room: Entity, usual: readonly { name: string; kind: string; points: string[] }[]): string[] {
  const own = usual.find((one) => one.name === room.values.name) ?? usual.find((one) => one.kind === room.values.kind);
  return [...new Set([...(own?.points ?? []), ...ANYWHERE])].slice(0, COUNTERS - 1);
}

export function Dock({ room }: { room: Entity }) {
  const usual = useReference()?.usual_rooms ?? NO_USUAL;
  const points = usePoints(room.id);
  const [more, setMore] = useState(false);
  const count = (kind: string) => points.filter((point) => point.values.kind === kind).length;
  const kinds = usualKinds(room, usual);
  return (
    <Box
      position="sticky"
      bottom="0"
      bg="sand"
      borderTopWidth="1px"
      borderColor="line"
      px="2"
      py="2"
      zIndex="docked"
      role="group"
      aria-label="Count and go on"
    >
      <Box display="grid" gridTemplateColumns="repeat(4, minmax(0, 1fr))" gap="1.5">
        {kinds.map((kind, number) => (
          <Counter key={kind} room={room} kind={kind} count={count(kind)} number={number + 1} />
        ))}
        <Button onClick={() => setMore(true)}>other …</Button>
      </Box>
      <Flex gap="1.5" mt="1.5" wrap="wrap">
        <Camera room={room} />
        <Box flex="2" minW="0">
          <Onward room={room} usual={usual} />
        </Box>
      </Flex>
      {more && <OtherKinds room={room} shown={kinds} close={() => setMore(false)} />}
    </Box>
  );
}

/** A photo of what was tapped last: the defect just recorded, else the point, else the room. */
const Camera = memo(function Camera({ room }: { room: Entity }) {
  const inspection = useInspection((s) => s.model?.id ?? "");
  const point = useWalking((s) => s.point);
  const recorded = useWalking((s) => s.recorded);
  const [trouble, setTrouble] = useState<string[]>([]);
  const [busy, setBusy] = useState(false);
  const seen = recorded
    ? { kind: "observation" as const, id: recorded, shows: "defect" }
    : point
      ? { kind: "point" as const, id: point, shows: "overview" }
      : { kind: "room" as const, id: room.id, shows: "overview" };
  const take = async (files: File[]) => {
    setBusy(true);
    setTrouble(await takeIn(inspection, files, seen));
    setBusy(false);
  };
  return (
    <>
      {trouble.length > 0 && (
        <Box flexBasis="100%">
          <Told trouble>{trouble.join(" ")}</Told>
        </Box>
      )}
      <Box flex="1" minW="0">
        <FileButton label="Take a photo" accept={PHOTO_FILES} several wide take={take}>
          <Button variant="ink" hotkey="P" wide>
            {busy ? "…" : recorded ? "Photo of it" : point ? "Photo" : "Photo of room"}
          </Button>
        </FileButton>
      </Box>
    </>
  );
});

/** On to the next room; whatever nobody has spoken of in this one is fine. */
const Onward = memo(function Onward({ room, usual }: { room: Entity; usual: readonly UsualRoom[] }) {
  const checks = useRoomView(room.id)?.checks ?? NO_CHECKS;
  const open = checks.filter((check) => !check.state).length;
  const left = useInspection((s) => (s.model ? unlooked(pointsOf(s.model, room.id)).length : 0)) + open;
  const following = useInspection((s) => {
    const rooms = s.model ? roomsOf(s.model) : [];
    return rooms[rooms.findIndex((entity) => entity.id === room.id) + 1];
  });
  const likely = useInspection((s) => s.model && likelyNext(s.model, usual));
  const next = following ? nameOf(following) : likely?.name;
  const onward = () => {
    restFine(room, checks);
    nextRoom(room, likely ?? undefined);
  };
  return (
    <Button variant="action" hotkey="N" wide onClick={onward}>
      <Box as="span" truncate>
        {[left > 0 && "Rest OK", next ? `next: ${following ? "" : "new "}${next}` : "done"]
          .filter(Boolean)
          .join(", ")
          .replace(/^./, (first) => first.toUpperCase())}
      </Box>
    </Button>
  );
});

interface CounterProps {
  room: Entity;
  kind: string;
  count: number;
  number: number;
}

const Counter = memo(function Counter({ room, kind, count, number }: CounterProps) {
  return (
    <Button onClick={() => addPoint(room, kind)}>
      <Said words={`One more ${kind}, ${count} so far`}>
        <Box as="span" minW="0" width="full">
          <Box as="span" display="block" fontFamily="mono">
            {count} +
            <Box as="kbd" color="quiet" fontSize="xs" ml="1" hideBelow="md">
              {number}
            </Box>
          </Box>
          <Box as="span" display="block" fontWeight="normal" fontSize="sm" truncate mx="-3">
            {kind}
          </Box>
        </Box>
      </Said>
    </Button>
  );
});

/** Every other kind of point there is. */
function OtherKinds({ room, shown, close }: { room: Entity; shown: readonly string[]; close: () => void }) {
  const kinds = useFieldSpec("point", "kind")?.choices ?? [];
  return (
    <Dialog title="Count something else" close={close} width="28rem">
      <Box display="grid" gridTemplateColumns="repeat(2, minmax(0, 1fr))" gap="2">
        {kinds
          .filter((kind) => !shown.includes(kind))
          .map((kind) => (
            <Button
              key={kind}
              onClick={() => {
                addPoint(room, kind);
                close();
              }}
            >
              {kind}
            </Button>
          ))}
      </Box>
    </Dialog>
  );
}
