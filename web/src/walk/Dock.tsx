/** Under the thumb: counters of the room, the camera, and on to the next room. */
import { Box, Flex } from "@chakra-ui/react";
import { useState } from "react";
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
import { pointsOf, unlooked, useRoomView } from "./points";
import { addPoint, likelyNext, nextRoom, restFine, roomsOf, useWalking } from "./walking";

/** So many counters stand under the thumb, in the same places in every room; the others are one tap further. */
const COUNTERS = 8;
/** What fills the places that a room's own kinds leave. */
const ANYWHERE = ["socket", "light", "switch", "fused unit", "alarm", "joint", "fan"];

export function usualKinds(room: Entity, usual: readonly { name: string; kind: string; points: string[] }[]): string[] {
  const own = usual.find((one) => one.name === room.values.name) ?? usual.find((one) => one.kind === room.values.kind);
  return [...new Set([...(own?.points ?? []), ...ANYWHERE])].slice(0, COUNTERS - 1);
}

export function Dock({ room }: { room: Entity }) {
  const model = useInspection((s) => s.model);
  const usual = useReference()?.usual_rooms ?? [];
  const checks = useRoomView(room.id)?.checks ?? [];
  const point = useWalking((s) => s.point);
  const recorded = useWalking((s) => s.recorded);
  const [more, setMore] = useState(false);
  const [trouble, setTrouble] = useState<string[]>([]);
  const [busy, setBusy] = useState(false);
  if (!model) return null;
  const points = pointsOf(model, room.id);
  const count = (kind: string) => points.filter((one) => one.values.kind === kind).length;
  const kinds = usualKinds(room, usual);
  const rooms = roomsOf(model);
  const at = rooms.findIndex((one) => one.id === room.id);
  const following = rooms[at + 1];
  const likely = likelyNext(model, usual);
  const next = following ? nameOf(following) : likely?.name;
  const left = unlooked(points).length + checks.filter((one) => !one.state).length;
  const onward = () => {
    restFine(room, checks);
    nextRoom(room, likely);
  };
  const seen = recorded
    ? { kind: "observation" as const, id: recorded, shows: "defect" }
    : point
      ? { kind: "point" as const, id: point, shows: "overview" }
      : { kind: "room" as const, id: room.id, shows: "overview" };
  const take = async (files: File[]) => {
    setBusy(true);
    setTrouble(await takeIn(model.id, files, seen));
    setBusy(false);
  };
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
      {trouble.length > 0 && <Told trouble>{trouble.join(" ")}</Told>}
      <Box display="grid" gridTemplateColumns="repeat(4, minmax(0, 1fr))" gap="1.5">
        {kinds.map((kind, number) => (
          <Counter key={kind} kind={kind} count={count(kind)} number={number + 1} add={() => addPoint(room, kind)} />
        ))}
        <Button onClick={() => setMore(true)}>other …</Button>
      </Box>
      <Flex gap="1.5" mt="1.5">
        <Box flex="1" minW="0">
          <FileButton label="Take a photo" accept={PHOTO_FILES} several wide take={take}>
            <Button variant="ink" hotkey="P" wide>
              {busy ? "…" : recorded ? "Photo of it" : point ? "Photo" : "Photo of room"}
            </Button>
          </FileButton>
        </Box>
        <Box flex="2" minW="0">
          <Button variant="action" hotkey="N" wide onClick={onward}>
            <Box as="span" truncate>
              {left > 0 ? "rest fine" : "all seen"}
              {next ? `, ${following ? "" : "new: "}${next}` : ", done"}
            </Box>
          </Button>
        </Box>
      </Flex>
      {more && <OtherKinds room={room} shown={kinds} close={() => setMore(false)} />}
    </Box>
  );
}

function Counter({ kind, count, number, add }: { kind: string; count: number; number: number; add: () => void }) {
  return (
    <Button onClick={add}>
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
}

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
