/** A bath or shower: its zones from typed distances and fixed partitions, and the points of the room placed in them. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import type { Schemas } from "../api/client";
import { Drawing } from "../drawings/Drawing";
import { useReference } from "../api/reference";
import { Fields } from "../fields/Fields";
import { setField } from "../inspection/open";
import { type FieldOf, type Entity, placeOf } from "../inspection/types";
import { Button } from "../ui/Button";
import { ButtonsField } from "../ui/ChoiceField";
import { Fold } from "../ui/Fold";
import { Segments } from "../ui/Segments";
import { TextField } from "../ui/TextField";
import { usePoints } from "./points";
import { select, useWalking } from "./walking";

interface Partition {
  x1: number;
  y1: number;
  x2: number;
  y2: number;
  top_m?: number;
}

const LOW = { maxHeight: "15rem" } as const;

export function Bathroom({ room, zones }: { room: Entity; zones: Schemas["BathDrawings"] | null }) {
  const [from, setFrom] = useState("side");
  const points = usePoints(room.id);
  const chosen = useWalking((s) => s.point);
  const partitions = (room.values.partitions ?? []) as unknown as Partition[];
  const basin = room.values.basin ?? null;
  const [length, width] = useUsualBasin(room);
  const set = (field: FieldOf<"room">, value: number | string | null) =>
    setField({ kind: "room", id: room.id, field }, value);
  const place = (fields: Record<string, number>) => {
    if (!chosen || !points.some((point) => point.id === chosen)) return;
    for (const [field, value] of Object.entries(fields)) setField(placeOf("point", chosen, field), value);
  };
  if (basin === null) {
    return (
      <Box mb="2">
        <ButtonsField
          label="What is there?"
          value={null}
          choices={[
            ["bath", "bath"],
            ["shower tray", "shower tray"],
            ["no tray", "no tray"],
          ]}
          change={(what) => set("basin", what)}
        />
      </Box>
    );
  }
  return (
    <Box mb="3">
      {zones && (
        <>
          <Box bg="paper" borderRadius="lg" p="2">
            {from === "side" ? (
              <Drawing
                drawing={zones.side}
                chosen={chosen}
                choose={select}
                place={(distance_m, height_m) => place({ height_m, distance_m })}
                style={LOW}
              />
            ) : (
              <Drawing
                drawing={zones.above}
                chosen={chosen}
                choose={select}
                place={(plan_x_m, plan_y_m) => place({ plan_x_m, plan_y_m })}
                style={LOW}
              />
            )}
          </Box>
          <Flex align="center" gap="3" wrap="wrap" mt="1.5">
            <Segments
              label="Seen from"
              value={from}
              choices={[
                ["side", "from the side"],
                ["above", "from above"],
              ]}
              change={setFrom}
            />
            <Text as="small" color="quiet" flex="1">
              {chosen ? "Tap its place." : "Tap a point below, then its place."}
            </Text>
          </Flex>
        </>
      )}
      <Fold small title="Sizes and fixed partitions">
        <Box pt="2">
          <Fields
            kind="room"
            id={room.id}
            fields={[
              "basin",
              "shower_head_m",
              basin !== "no tray" && { field: "basin_length_m", hint: `${length} m where it is empty.` },
              basin !== "no tray" && { field: "basin_width_m", hint: `${width} m where it is empty.` },
              "basin_x_m",
              "basin_y_m",
              "length_m",
              "width_m",
              "jets",
            ]}
          />
          <Partitions room={room} partitions={partitions} />
        </Box>
      </Fold>
    </Box>
  );
}

const ENDS = ["x1", "y1", "x2", "y2"] as const;
const WORDS: Record<(typeof ENDS)[number] | "top_m", string> = {
  x1: "from left",
  y1: "from far wall",
  x2: "to left",
  y2: "to far wall",
  top_m: "height",
};

/** Screens and walls that stay: from where to where on the plan, and how high. */
function Partitions({ room, partitions }: { room: Entity; partitions: readonly Partition[] }) {
  const keep = (next: Partition[]) =>
    setField({ kind: "room", id: room.id, field: "partitions" }, next.length ? (next as never) : null);
  const change = (at: number, name: keyof Partition, text: string) => {
    const metres = text.trim() === "" ? undefined : Number(text.replace(",", "."));
    if (metres !== undefined && Number.isNaN(metres)) return;
    keep(
      partitions.map((partition, index) => {
        if (index !== at) return partition;
        const { top_m, ...ends } = partition;
        if (name === "top_m") return metres === undefined ? ends : { ...ends, top_m: metres };
        return { ...partition, ...(top_m === undefined ? {} : { top_m }), [name]: metres ?? 0 };
      }),
    );
  };
  const [length] = useUsualBasin(room);
  const right = Number(room.values.basin_x_m ?? 0) + Number(room.values.basin_length_m ?? length);
  return (
    <Box>
      {partitions.map((partition, at) => (
        <Flex key={at} gap="2" align="flex-end" wrap="wrap" mb="2" role="group" aria-label={`Partition ${at + 1}`}>
          {([...ENDS, "top_m"] as const).map((name) => (
            <Box key={name} width="5.2rem">
              <Metres label={`${WORDS[name]} (m)`} value={partition[name]} keep={(text) => change(at, name, text)} />
            </Box>
          ))}
          <Button
            variant="quiet"
            label={`Remove partition ${at + 1}`}
            onClick={() => keep(partitions.filter((_, index) => index !== at))}
          >
            Remove
          </Button>
        </Flex>
      ))}
      <Button onClick={() => keep([...partitions, { x1: right, y1: 0, x2: right, y2: 0.75 }])}>
        + fixed partition
      </Button>
    </Box>
  );
}

/** Length and width (m) that a bath or a tray is drawn with until its size is typed. */
function useUsualBasin(room: Entity): readonly number[] {
  const usual = useReference()?.usual_basins_m;
  return usual?.[String(room.values.basin ?? "")] ?? NO_SIZE;
}
const NO_SIZE: readonly number[] = [0, 0];

function Metres({ label, value, keep }: { label: string; value: number | undefined; keep: (text: string) => void }) {
  const [draft, setDraft] = useState<string | null>(null);
  return (
    <TextField
      label={label}
      figure
      value={draft ?? String(value ?? "")}
      change={setDraft}
      leave={() => {
        if (draft !== null) keep(draft);
        setDraft(null);
      }}
    />
  );
}
