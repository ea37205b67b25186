/** What planning goes by: slack before a deadline, how far ahead, how fast, and a table of travel times. */
import { Box, Flex } from "@chakra-ui/react";
import { useState } from "react";
import { api, answer, type Schemas } from "../api/client";
import { explain } from "../api/errors";
import { Button } from "../ui/Button";
import { FileDrop } from "../ui/FileDrop";
import { FieldGrid, Section } from "../ui/Page";
import { Told } from "../ui/States";
import { TextField } from "../ui/TextField";

type Settings = Schemas["PlanSettings"];

interface Props {
  settings: Settings;
  travel: number;
  act: (work: () => Promise<unknown>) => Promise<void>;
}

const FIELDS = [
  ["slack_days", "Working days kept free before a deadline", ""],
  ["ahead_days", "Days planned ahead", ""],
  ["speed_kmh", "Speed on the road", "km/h"],
  ["detour", "Road longer than the straight line", "times"],
] as const;

export function PlanSettings({ settings, travel, act }: Props) {
  const [typed, setTyped] = useState<Partial<Record<keyof Settings, string>>>({});
  const [message, setTold] = useState("");
  const save = async () => {
    const numbers = Object.fromEntries(Object.entries(typed).map(([name, text]) => [name, Number(text)]));
    const wrong = FIELDS.find(([name]) => Number.isNaN(numbers[name]));
    if (wrong) {
      setTold(`${wrong[1]}: enter a number, such as 2.`);
      return;
    }
    try {
      await answer(api.PUT("/api/planner/settings", { body: { ...settings, ...numbers } }));
      setTyped({});
      setTold("");
    } catch (error) {
      setTold(explain(error));
    }
    await act(() => Promise.resolve());
  };
  const takeTable = async (file: File) => {
    try {
      const taken = await answer(
        api.POST("/api/planner/weeks/travel", {
          params: { query: { name: file.name.slice(0, 200) } },
          body: file as never,
          bodySerializer: (body: unknown) => body as never,
          headers: { "Content-Type": "application/octet-stream" },
        }),
      );
      const wrong = taken.mistakes.slice(0, 4).map((one) => `row ${one.row}: ${one.reason}`);
      setTold([`${taken.ways} ways taken.`, ...wrong, taken.mistakes.length > 4 && "…"].filter(Boolean).join(" "));
    } catch (error) {
      setTold(explain(error));
    }
    await act(() => Promise.resolve());
  };
  const endTable = () => act(() => answer(api.DELETE("/api/planner/weeks/travel")));
  return (
    <Section title="What planning goes by" lead="The next planning takes it; nothing moves by itself.">
      {message && <Told>{message}</Told>}
      <FieldGrid>
        {FIELDS.map(([name, label, unit]) => (
          <TextField
            key={name}
            figure
            label={label}
            unit={unit || undefined}
            value={typed[name] ?? String(settings[name])}
            change={(text) => setTyped({ ...typed, [name]: text })}
          />
        ))}
      </FieldGrid>
      <Flex gap="3" align="center" wrap="wrap">
        <Button disabled={Object.keys(typed).length === 0} onClick={save}>
          Save
        </Button>
        <Box flex="1 1 16rem">
          <FileDrop
            label="Table of travel times"
            title="Travel times from a table"
            line="CSV or XLSX: from, to, minutes"
            accept={{
              "text/csv": [".csv"],
              "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet": [".xlsx"],
            }}
            take={([file]) => file && takeTable(file)}
          />
        </Box>
        {travel > 0 && <Button onClick={endTable}>Remove table</Button>}
        <Box color="quiet">
          {travel > 0
            ? `Travel times of ${travel} ways come from a table.`
            : "Travel times come from coordinates: straight line, detour and speed."}
        </Box>
      </Flex>
    </Section>
  );
}
