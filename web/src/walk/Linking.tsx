/** Points to circuits: choose several, then tap the circuit; or drag them onto it. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { type ReactNode, useState } from "react";
import { children } from "../inspection/model";
import { useInspection } from "../inspection/open";
import type { Entity } from "../inspection/types";
import { nameOf } from "../inspection/words";
import { Button } from "../ui/Button";
import { Drag, useDragged, useDropPlace } from "../ui/Drag";
import { Section } from "../ui/Page";
import { Empty } from "../ui/States";
import { pointsOf, shortNames } from "./points";
import { link, roomsOf } from "./walking";

/** The place of points that hang on no circuit. */
const NONE = "none";

export function Linking() {
  const model = useInspection((s) => s.model);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  if (!model) return null;
  const boards = children(model, "board", model.id);
  const circuits = boards.flatMap((board) =>
    children(model, "circuit", board.id).filter((circuit) => !circuit.values.spare),
  );
  const rooms = [
    ...roomsOf(model).map((room) => ({ id: room.id, name: nameOf(room) })),
    { id: "", name: "In no room" },
  ];
  const hanging = (point: Entity) => circuits.find((circuit) => circuit.id === point.parentId);
  const toggle = (ids: readonly string[]) => {
    const next = new Set(chosen);
    const all = ids.every((id) => next.has(id));
    for (const id of ids) {
      if (all) next.delete(id);
      else next.add(id);
    }
    setChosen(next);
  };
  const hang = (ids: Iterable<string>, circuit: Entity | null) => {
    const points = [...ids].flatMap((id) => model.entities[id] ?? []);
    if (points.length) link(points, circuit);
    setChosen(new Set());
  };
  const drop = (pointId: string, onto: string) =>
    hang(chosen.has(pointId) ? chosen : [pointId], circuits.find((circuit) => circuit.id === onto) ?? null);
  const called = (id: string) => {
    const entity = circuits.find((circuit) => circuit.id === id) ?? model.entities[id];
    return entity ? nameOf(entity) : "no circuit yet";
  };
  const served = model.judgement?.points_served ?? {};
  if (rooms.every((room) => pointsOf(model, room.id).length === 0)) {
    return (
      <Empty title="No points yet">Count them room by room; here you assign them to circuits, several at once.</Empty>
    );
  }
  return (
    <Drag called={called} drop={drop}>
      <Box
        px="4"
        pb="6"
        display="grid"
        gridTemplateColumns={{ base: "minmax(0, 1fr)", md: "minmax(0, 3fr) minmax(12rem, 2fr)" }}
        gap="5"
        alignItems="start"
      >
        <Box>
          {rooms.map((room) => {
            const points = pointsOf(model, room.id);
            if (points.length === 0) return null;
            const names = shortNames(points);
            const kinds = [...new Set(points.map((point) => String(point.values.kind ?? "point")))];
            return (
              <Section
                key={room.id}
                title={room.name}
                tools={
                  <Flex gap="1" wrap="wrap">
                    {kinds.map((kind) => {
                      const ids = points
                        .filter((point) => String(point.values.kind ?? "point") === kind)
                        .map((point) => point.id);
                      return (
                        <Button key={kind} size="sm" variant="quiet" onClick={() => toggle(ids)}>
                          every {kind}
                        </Button>
                      );
                    })}
                  </Flex>
                }
              >
                <Flex gap="2" wrap="wrap">
                  {points.map((point, at) => (
                    <Chip
                      key={point.id}
                      id={point.id}
                      name={names[at] ?? "point"}
                      hangs={hanging(point) ? nameOf(hanging(point)) : "no circuit"}
                      chosen={chosen.has(point.id)}
                      toggle={() => toggle([point.id])}
                    />
                  ))}
                </Flex>
              </Section>
            );
          })}
        </Box>
        <Box position="sticky" top="2" bottom="0" bg="sheet" py="2" aria-label="Circuits" role="group">
          <Text mb="2">
            {chosen.size > 0 ? (
              <>
                <b>{chosen.size} chosen.</b> Tap their circuit, or drag them onto it.
              </>
            ) : (
              "Choose points, then tap their circuit; or drag them onto it."
            )}
          </Text>
          <Flex direction="column" gap="1.5">
            {circuits.map((circuit) => (
              <Onto key={circuit.id} id={circuit.id}>
                <Button wide disabled={chosen.size === 0} onClick={() => hang(chosen, circuit)}>
                  <Box as="span" flex="1" textAlign="start" truncate>
                    {nameOf(circuit)}
                  </Box>
                  <Box as="span" fontFamily="mono" fontWeight="normal">
                    {served[circuit.id] ?? 0}
                  </Box>
                </Button>
              </Onto>
            ))}
            {circuits.length === 0 && <Text color="quiet">No circuit yet: they come with the boards.</Text>}
            <Onto id={NONE}>
              <Button wide variant="quiet" disabled={chosen.size === 0} onClick={() => hang(chosen, null)}>
                on no circuit yet
              </Button>
            </Onto>
          </Flex>
        </Box>
      </Box>
    </Drag>
  );
}

interface ChipProps {
  id: string;
  name: string;
  hangs: string;
  chosen: boolean;
  toggle: () => void;
}

/** A point to choose, or to drag. */
function Chip({ id, name, hangs, chosen, toggle }: ChipProps) {
  return (
    <Box {...useDragged(id)}>
      <Button variant="choice" pressed={chosen} onClick={toggle}>
        <span>
          {name}
          <Box as="small" display="block" fontWeight="normal" opacity="0.8">
            {hangs}
          </Box>
        </span>
      </Button>
    </Box>
  );
}

/** A circuit on which points are hung. */
function Onto({ id, children }: { id: string; children: ReactNode }) {
  const { ref, isOver } = useDropPlace(id);
  return (
    <Box ref={ref} borderRadius="md" outline={isOver ? "3px solid {colors.lamp}" : undefined}>
      {children}
    </Box>
  );
}
