/** Whom something was told, when, and what they said: of any observation, not of a danger alone. */
import { Flex, Text } from "@chakra-ui/react";
import { Fields } from "../fields/Fields";
import { NOT_YOURS, useMayChange } from "../fields/mayChange";
import { setField } from "../inspection/open";
import type { Entity } from "../inspection/types";
import { Button } from "../ui/Button";
import { Fold } from "../ui/Fold";
import { moment } from "../ui/when";

export function ToldTo({ observation }: { observation: Entity }) {
  const may = useMayChange("observation", "told_at");
  const v = observation.values;
  const set = (value: string | null) => setField({ kind: "observation", id: observation.id, field: "told_at" }, value);
  const title = v.told_at
    ? `Told ${[v.told_to, moment(String(v.told_at))].filter(Boolean).map(String).join(", ")}`
    : "Told to, and what they said";
  return (
    <Fold small title={title}>
      <Fields kind="observation" id={observation.id} fields={["told_to", { field: "told_said", wide: true }]} />
      <Flex gap="3" mb="3">
        {may ? (
          <Button onClick={() => set(v.told_at ? null : new Date().toISOString())}>
            {v.told_at ? "Undo: not told yet" : "Record: told now"}
          </Button>
        ) : (
          <Text color="quiet">{NOT_YOURS.decide}</Text>
        )}
      </Flex>
    </Fold>
  );
}
