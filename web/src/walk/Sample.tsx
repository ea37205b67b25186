/** What is opened: the risk in a few taps, the share that follows, the draw in walking order, and what it can say. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import type { Schemas } from "../api/client";
import { Fields } from "../fields/Fields";
import { setField, useInspection } from "../inspection/open";
import { nameOf } from "../inspection/words";
import { Button } from "../ui/Button";
import { Section } from "../ui/Page";
import { Progress } from "../ui/States";
import { StageBody } from "../ui/StageHead";
import { mark, roomsOf } from "./walking";
import type { FieldOf } from "../inspection/types";

export function Sample() {
  const model = useInspection((s) => s.model);
  const judgement = model?.judgement;
  const [own, setOwn] = useState(false);
  if (!model || !judgement) return null;
  const { sampling, sample_proposal: proposal } = judgement;
  const here = model.entities[model.id]?.values ?? {};
  const drawn = here.sampling_seed != null;
  const share = here.sample_share != null ? Number(here.sample_share) : Math.round(proposal.share * 100);
  const set = (field: FieldOf<"inspection">, value: number | null) =>
    setField({ kind: "inspection", id: model.id, field }, value);
  const draw = () => set("sampling_seed", crypto.getRandomValues(new Uint32Array(1))[0]! % 2 ** 31);
  return (
    <StageBody wide>
      <Flex gap="7" wrap="wrap" align="start">
        <Box flex="1 1 22rem">
          <Section title="Risk" first>
            <Fields
              kind="inspection"
              id={model.id}
              fields={[
                { field: "records", hint: "Earlier reports and certificates.", wide: true },
                { field: "condition_on_sight", wide: true },
                "other_hands",
                "damp",
                "age_years",
                "last_report_years",
                { field: "walk_direction", wide: true, hint: "One direction all the way round misses nothing." },
              ]}
            />
          </Section>
        </Box>
        <Box flex="1 1 16rem">
          <Section title="Open" first>
            <Box fontFamily="mono" fontSize="4xl" fontWeight="bold" lineHeight="tight">
              {share} %
            </Box>
            <Box as="ul" listStyleType="none" mb="2">
              {proposal.reasons.map((reason) => (
                <li key={reason}>{reason}</li>
              ))}
            </Box>
            <Text color="quiet" mb="2">
              Every circuit is tested; every room and every circuit has at least one point opened, ends of lines and
              past defects always (rule 12.1).
            </Text>
            {own || here.sample_share != null ? (
              <Fields
                kind="inspection"
                id={model.id}
                fields={["sample_share", { field: "sample_share_reason", hint: "It is printed in the report." }]}
              />
            ) : (
              <Button variant="quiet" onClick={() => setOwn(true)}>
                another share …
              </Button>
            )}
            <Flex gap="3" align="center" mt="2">
              {!drawn && (
                <Button variant="action" disabled={!sampling} onClick={draw}>
                  Pick at random
                </Button>
              )}
              {drawn && (
                <Text>
                  Drawn, seed{" "}
                  <Box as="b" fontFamily="mono">
                    {String(here.sampling_seed)}
                  </Box>
                  : the same points come out again.
                </Text>
              )}
            </Flex>
          </Section>
        </Box>
      </Flex>
      {!sampling && <Text color="quiet">No points are counted yet: count them room by room, then draw.</Text>}
      {sampling && <Drawn sampling={sampling} drawn={drawn} />}
    </StageBody>
  );
}

function Drawn({ sampling, drawn }: { sampling: Schemas["SampleState"]; drawn: boolean }) {
  const model = useInspection((s) => s.model);
  if (!model?.judgement) return null;
  const wanted = new Set(sampling.to_open);
  const points = model.judgement.points.filter((point) => wanted.has(point.id));
  const rooms = [
    ...roomsOf(model).map((room) => ({ id: room.id, name: nameOf(room) })),
    { id: "", name: "In no room" },
  ];
  const roomOf = (point: Schemas["PointView"]) =>
    rooms.some((room) => room.id === point.room_id) ? point.room_id : "";
  const opened = sampling.to_open.length - sampling.still.length;
  return (
    <>
      {sampling.widenings.length > 0 && (
        <Section title="Sample widened">
          <Box as="ul" listStyleType="disc" ml="4">
            {sampling.widenings.map((widening) => (
              <li key={widening.group + widening.defect}>
                {widening.says}
                {widening.added.length > 0 && `: ${widening.added.length} more`}
              </li>
            ))}
          </Box>
        </Section>
      )}
      <Section title={drawn ? "In walking order" : "What would be opened"}>
        <Progress label={`${opened} of ${sampling.to_open.length} opened`} done={opened} of={sampling.to_open.length} />
        {rooms.map((room) => {
          const here = points.filter((point) => roomOf(point) === room.id);
          if (here.length === 0) return null;
          return (
            <Flex key={room.id} gap="3" align="baseline" wrap="wrap" py="1.5" borderTopWidth="1px" borderColor="line">
              <Box as="b" flex="0 0 8rem">
                {room.name}
              </Box>
              <Flex gap="1.5" wrap="wrap" flex="1">
                {here.map((one) => {
                  const point = model.entities[one.id];
                  return (
                    <Button
                      key={one.id}
                      size="sm"
                      variant="choice"
                      pressed={point?.values.opened === true}
                      title={one.to_open}
                      onClick={() => point && mark(point, "opened", true)}
                    >
                      {one.name}
                    </Button>
                  );
                })}
              </Flex>
            </Flex>
          );
        })}
      </Section>
      <Section title="What it says">
        <Text fontSize="lg" mb="2">
          {sampling.says}
        </Text>
        <Text color="quiet" mb="1">
          For the client:
        </Text>
        <Box bg="sand" borderRadius="lg" px="4" py="3">
          {sampling.plainly}
        </Box>
      </Section>
    </>
  );
}
