/** Going round: the rooms, the one that is open, and the counters under the thumb. */
import { Box, Flex } from "@chakra-ui/react";
import { useEffect } from "react";
import { useInspection } from "../inspection/open";
import { Dialog } from "../ui/Dialog";
import { Section } from "../ui/Page";
import { Empty } from "../ui/States";
import { useNarrow } from "../ui/layout";
import { DefectSheet } from "./DefectSheet";
import { Dock } from "./Dock";
import { NewRoom } from "./NewRoom";
import { PointRow } from "./PointRow";
import { shortNames, usePoints } from "./points";
import { Room } from "./Room";
import { RoomPlan, RoomStrip } from "./RoomPlan";
import { useKeys } from "./useKeys";
import { adding, openRoom, useWalking } from "./walking";

export function Rooms() {
  const chosen = useWalking((s) => s.room);
  const room = useInspection((s) => (s.model ? openRoom(s.model, chosen) : undefined));
  const choosing = useWalking((s) => s.choosing);
  const narrow = useNarrow();
  const isAdding = useWalking((s) => s.adding);
  useKeys();
  // What is told in passing stands above the counters, not over them.
  useEffect(() => {
    document.documentElement.dataset.dock = "walk";
    return () => {
      delete document.documentElement.dataset.dock;
    };
  }, []);
  const add = () => adding(true);
  const plan = narrow ? <RoomStrip room={room} add={add} /> : <RoomPlan room={room} add={add} />;
  return (
    <>
      {!room && (
        <Box px="4" pb="6">
          <Empty title="Where do you begin?">
            Go round in one direction, room by room. Tap the first one; the next is offered as you go on.
          </Empty>
          <NewRoom />
        </Box>
      )}
      {room && (
        <Box
          display={narrow ? "flex" : "grid"}
          flexDirection="column"
          gridTemplateColumns="minmax(13rem, 17rem) minmax(0, 1fr)"
          flex="1"
          minH="0"
        >
          {plan}
          <Flex
            direction="column"
            minW="0"
            // The counters stand at the foot of the screen from the first moment, however little the room holds: what
            // moves under a thumb between press and release gets no tap.
            flex="1"
            minH={narrow ? "0" : "full"}
            borderInlineStartWidth={narrow ? "0" : "1px"}
            borderColor="line"
          >
            <Box flex="1">
              <Room key={room.id} room={room} />
              <WithoutRoom />
            </Box>
            <Dock room={room} />
          </Flex>
        </Box>
      )}
      {choosing && <DefectSheet id={choosing} />}
      {isAdding && (
        <Dialog title="Add a room" close={() => adding(false)} width="34rem">
          <NewRoom done={() => adding(false)} />
        </Dialog>
      )}
    </>
  );
}

/** Points that hang in no room: listed under a circuit before the walk, or left over from a room that was taken out. */
function WithoutRoom() {
  const points = usePoints("");
  if (points.length === 0) return null;
  const names = shortNames(points);
  return (
    <Box px={{ base: "2", md: "4" }}>
      <Section
        title={`${points.length} in no room`}
        lead="Only their circuit is known, or their room was removed. Tap one to assign it to a room."
      >
        <Box as="ul" listStyleType="none" aria-label="Points in no room">
          {points.map((point, at) => (
            <PointRow key={point.id} point={point} name={names[at] ?? "point"} />
          ))}
        </Box>
      </Section>
    </Box>
  );
}
