/** The day of a job: when, with whom, beside which other visits, and how long it takes. */
import { Box, Text } from "@chakra-ui/react";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../api/client";
import { explain } from "../api/errors";
import { DayStrip } from "../drawings/DayStrip";
import { type Choice } from "../ui/ChoiceField";
import { Fold } from "../ui/Fold";
import { SelectField } from "../ui/SelectField";
import { clockOf } from "../ui/minutes";
import { day, hours } from "../ui/when";
import { changeEntry, type Entry, EntryFields, textOf } from "./entry";

type JobOut = Schemas["JobOut"];

const TASK = { visit: "", "fetch key": "fetch keys: ", "return key": "return keys: " } as const;
const LONG = { weekday: "long", day: "numeric", month: "long", year: "numeric" } as const;

export function JobDay({ page, query }: { page: JobOut; query: string[] }) {
  const { job, property, day: its } = page;
  const own = its.stops.find((stop) => stop.this);
  const at = textOf(job, "booked_at") || (own ? clockOf(own.begins) : "");
  const name = textOf(property, "address").split(",")[0] ?? "";
  const { length } = its;
  const parts = own
    ? its.stops
        .filter((stop) => stop.task === "visit")
        .map((stop) => ({
          key: stop.name,
          at: clockOf(stop.begins),
          minutes: stop.ends - stop.begins,
          km: 0,
          name: stop.name,
          other: !stop.this,
        }))
    : [{ key: job.id, at, minutes: length.minutes, km: Number(job.values.travel_km ?? 0), name }];
  const how = !its.on ? "" : its.booked || textOf(job, "booked_on") ? "booked" : "as planned, not booked";
  return (
    <Box mb="4">
      <Text fontSize="xl" mb="1">
        <b>
          {its.on ? day(its.on, LONG) : "No day yet"}
          {its.on && at && `, ${at}`}
        </b>{" "}
        <Box as="span" color="quiet" fontSize="md">
          {[its.inspector && `with ${its.inspector}`, how].filter(Boolean).join(" · ")}
        </Box>
      </Text>
      <DayStrip parts={parts} label={`${name}, ${at || "no hour agreed"}, ${hours(length.minutes)}`} />
      {its.stops.length > 1 && (
        <Box as="ol" listStyleType="none" mb="2" aria-label="The day">
          {its.stops.map((stop) => (
            <Box as="li" key={`${stop.task} ${stop.name} ${stop.begins}`} display="flex" gap="3">
              <Box as="span" fontFamily="mono">
                {clockOf(stop.begins)}
              </Box>
              <Box as="span" fontWeight={stop.this ? "700" : "400"} color={stop.this ? undefined : "quiet"}>
                {TASK[stop.task]}
                {stop.name}
              </Box>
            </Box>
          ))}
        </Box>
      )}
      <Text color="quiet">
        About {hours(length.minutes)} on site
        {length.visits > 0
          ? `: half of ${length.visits} visits of this firm took ${hours(length.low)} to ${hours(length.high)}.`
          : length.low === length.high
            ? ", as entered."
            : ", by the estimate alone."}
        {its.leaves !== null && ` Leave at ${clockOf(its.leaves)}.`}
      </Text>
      <Fold title="Change day and time" opened={!its.on} small>
        <EntryFields
          entry={job}
          query={query}
          fields={[
            "number",
            "booked_on",
            "booked_at",
            "power_off",
            "last_day",
            "visit_min",
            "spent_min",
            "state",
            "purpose",
          ]}
          wide={["state", "purpose"]}
        />
        <Who job={job} weeks={page.weeks} query={query} />
      </Fold>
    </Box>
  );
}

/** Who goes, of those who make visits. */
function Who({ job, weeks, query }: { job: Entry; weeks: Entry[]; query: string[] }) {
  const queries = useQueryClient();
  const [refused, setRefused] = useState("");
  const choices: Choice[] = [
    ["", "nobody yet"],
    ...weeks.map((one): Choice => [one.id, textOf(one, "name") || "Inspector"]),
  ];
  const change = async (chosen: string) => {
    try {
      await changeEntry(job, { booked_with: chosen || null });
      setRefused("");
    } catch (error) {
      setRefused(explain(error));
    }
    await queries.invalidateQueries({ queryKey: query });
  };
  return (
    <Box maxW="20rem" mb="4">
      <SelectField
        label="Inspector"
        refused={refused || undefined}
        value={textOf(job, "booked_with")}
        choices={choices}
        change={change}
      />
    </Box>
  );
}
