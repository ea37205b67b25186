/** One room: its bath with the zones drawn, its points, and what is looked at once in it. */
import { Box, Flex, Heading, Text } from "@chakra-ui/react";
import { memo, useLayoutEffect, useState } from "react";
import type { Schemas } from "../api/client";
import { CHECK_STATES } from "../api/declared.gen";
import { observe, setAround } from "../inspection/desk";
import { useInspection } from "../inspection/open";
import type { Entity } from "../inspection/types";
import { nameOf, answerWord } from "../inspection/words";
import { Photos } from "../photos/Photos";
import { Button } from "../ui/Button";
import { Bathroom } from "./Bathroom";
import { PointRow } from "./PointRow";
import { shortNames, usePoints, useRoomView } from "./points";
import { RoomAbout } from "./RoomAbout";
import { answer } from "./walking";

export const Room = memo(function Room({ room }: { room: Entity }) {
  const points = usePoints(room.id);
  const view = useRoomView(room.id);
  const [about, setAbout] = useState(false);
  const names = shortNames(points);
  const v = room.values;
  useLayoutEffect(() => {
    setAround({ kind: "room", id: room.id });
    return () => setAround(null);
  }, [room.id]);
  return (
    <Box px={{ base: "2", md: "4" }} pt="2" pb="4">
      <Flex align="baseline" gap="2" wrap="wrap" mb="1">
        <Heading as="h2" size="lg">
          {nameOf(room)}
        </Heading>
        <Box as="span" color="quiet" flex="1">
          {[v.kind, v.floor].filter(Boolean).join(", ")}
        </Box>
        <Button variant="quiet" size="sm" expanded={about} onClick={() => setAbout(!about)}>
          about this room
        </Button>
      </Flex>
      {about && <RoomAbout room={room} />}
      {v.not_reached != null && (
        <Text mb="2">
          <b>Not reached: {String(v.not_reached)}.</b> It is a limitation for all that is in it.
        </Text>
      )}
      {(v.kind === "bath or shower" || v.basin != null) && <Bathroom room={room} zones={view?.zones ?? null} />}
      {points.length === 0 && (
        <Text color="quiet" my="2">
          Nothing counted here yet: tap a counter below for each thing on the walls and the ceiling.
        </Text>
      )}
      <Box
        as="ul"
        listStyleType="none"
        borderBottomWidth="1px"
        borderColor="line"
        aria-label="Points"
        _empty={{ display: "none" }}
      >
        {points.map((point, at) => (
          <PointRow key={point.id} point={point} name={names[at] ?? "point"} />
        ))}
      </Box>
      {(view?.unopened ?? 0) > 0 && (
        <Text mt="2">
          Sample: open <b>{view?.unopened} more</b> here.
        </Text>
      )}
      {view && view.checks.length > 0 && <Once room={room} checks={view.checks} />}
      <Photos kind="room" id={room.id} shows="overview" label="Photo of the room" inline />
    </Box>
  );
});

/** What is looked at once in a room. */
const Once = memo(function Once({ room, checks }: { room: Entity; checks: Schemas["CheckView"][] }) {
  const notes = useInspection((s) => s.model?.judgement?.notes) ?? [];
  return (
    <Box as="ul" listStyleType="none" mt="3" aria-label="Looked at once in this room">
      {checks.map((check) => {
        const recorded = notes.some((note) => note.id === check.check_id && note.on_record);
        return (
          <Flex
            as="li"
            key={check.key}
            wrap="wrap"
            align="center"
            columnGap="2"
            rowGap="1"
            py="1.5"
            px="1.5"
            borderTopWidth="1px"
            borderColor="line"
          >
            <Box as="span" flex="1 1 10rem">
              {check.label}
            </Box>
            <Flex role="group" aria-label={check.label} gap="1">
              {CHECK_STATES.map((state) => (
                <Button
                  key={state}
                  size="sm"
                  variant="choice"
                  pressed={check.state === state}
                  onClick={() => answer(room, check.key, state)}
                >
                  {answerWord(state)}
                </Button>
              ))}
            </Flex>
            {check.state === "not good" && check.check_id && (
              <Flex flexBasis="100%" justify="flex-end">
                {recorded ? (
                  <Box as="span" color="quiet">
                    observation recorded
                  </Box>
                ) : (
                  <Button
                    size="sm"
                    onClick={() =>
                      observe({ kind: "check", id: check.check_id ?? room.id, raise: check.observation || null })
                    }
                  >
                    Observation
                  </Button>
                )}
              </Flex>
            )}
          </Flex>
        );
      })}
    </Box>
  );
});
