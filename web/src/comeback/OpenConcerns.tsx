/** What client and occupier asked about, with what was found: answered where it is read. */
import { Box, Flex } from "@chakra-ui/react";
import { FieldInput } from "../fields/FieldInput";
import { children } from "../inspection/model";
import { setField, useInspection } from "../inspection/open";
import type { Entity, Place } from "../inspection/types";
import { nameOf } from "../inspection/words";
import { tell } from "../ui/tell";
import { SelectField } from "../ui/SelectField";

export const isAnswered = ({ values: v }: Entity): boolean => !!v.answer || !!v.observation_id;

export function OpenConcerns() {
  const model = useInspection((s) => s.model);
  if (!model) return null;
  const asked = children(model, "concern", model.id);
  if (asked.length === 0) return null;
  return (
    <Box as="section" aria-label="What people ask about" mt="6">
      <Box as="h3" fontWeight="bold" fontSize="lg" mb="1">
        What people ask about
      </Box>
      {asked.map((concern) => (
        <Box key={concern.id} borderTopWidth="1px" borderColor="line" py="2.5">
          <p>
            <b>“{String(concern.values.what ?? "")}”</b>{" "}
            {concern.values.asked_by ? String(concern.values.asked_by) : ""}
          </p>
          <Answer concern={concern} />
        </Box>
      ))}
    </Box>
  );
}

/** In words, by an observation that was recorded, or by both. */
export function Answer({ concern }: { concern: Entity }) {
  const model = useInspection((s) => s.model);
  if (!model) return null;
  const observations = children(model, "observation", model.id);
  const by = String(concern.values.observation_id ?? "");
  return (
    <Flex direction="column" gap="2">
      <FieldInput place={{ kind: "concern", id: concern.id, field: "answer" }} rows={2} />
      {observations.length > 0 && (
        <SelectField
          label="Answered by observation"
          value={by}
          choices={[
            ["", "none"],
            ...observations.map(
              (observation) =>
                [observation.id, [observation.values.code, nameOf(observation)].filter(Boolean).join(" ")] as const,
            ),
          ]}
          change={(id) => setField({ kind: "concern", id: concern.id, field: "observation_id" }, id || null)}
        />
      )}
    </Flex>
  );
}

export function removeConcern(id: string): void {
  const removed: Place = { kind: "concern", id, field: "removed" };
  setField(removed, true);
  tell("The question is removed.", () => setField(removed, null));
}
