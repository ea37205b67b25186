/** What a job covers and what it leaves out, as a picture and in words; what is missing to go there; what to pack. */
import { Box, Grid, Text } from "@chakra-ui/react";
import type { Schemas } from "../api/client";
import { Fold } from "../ui/Fold";
import { Link } from "../ui/Link";
import { Section } from "../ui/Page";
import { day } from "../ui/when";
import { type Entry, EntryFields, textOf } from "./entry";
import { ScopeDrawing } from "./ScopeDrawing";

type JobOut = Schemas["JobOut"];

const number = (job: Entry, field: string) => Number(job.values[field] ?? 0);

export function JobScope({ page, query }: { page: JobOut; query: string[] }) {
  const { job, installations } = page;
  const left = textOf(job, "leave_out")
    .split("\n")
    .map((line) => line.trim())
    .filter(Boolean);
  const agreed = [textOf(job, "agreed_with"), textOf(job, "agreed_on") && day(textOf(job, "agreed_on"))]
    .filter(Boolean)
    .join(", ");
  const size = [
    ["boards", "board"],
    ["rings", "ring"],
    ["radials", "radial"],
    ["points_tested", "point tested"],
    ["points_opened", "point opened"],
  ] as const;
  const counted = size
    .map(([field, one]) => [number(job, field), one] as const)
    .filter(([count]) => count > 0)
    .map(([count, one]) => `${count} ${count === 1 ? one : one.replace(/^(\w+)/, "$1s")}`);
  return (
    <Section title="Scope">
      <ScopeDrawing
        boards={number(job, "boards")}
        rings={number(job, "rings")}
        radials={number(job, "radials")}
        opened={number(job, "points_opened")}
        tested={number(job, "points_tested")}
      />
      <Text fontWeight="700" mb="3">
        {counted.join(" · ") || "Size not known yet"}
      </Text>
      <Grid templateColumns={{ base: "1fr", md: "1fr 1fr" }} gap="5" mb="3">
        <Box borderLeftWidth="3px" borderColor="sea" pl="3">
          <Text fontWeight="700">In</Text>
          {installations.length > 0 && <Text>{installations.map((one) => textOf(one, "name")).join(", ")}</Text>}
          <Text whiteSpace="pre-line">{textOf(job, "extent") || "Extent not agreed yet"}</Text>
        </Box>
        <Box borderLeftWidth="3px" borderStyle="dashed" borderColor="ink" pl="3">
          <Text fontWeight="700">Out</Text>
          {left.length === 0 && <Text color="quiet">Nothing is left out.</Text>}
          {left.map((line) => (
            <Text key={line}>{line}</Text>
          ))}
          {textOf(job, "leave_out_reason") && <Text color="quiet">{textOf(job, "leave_out_reason")}</Text>}
        </Box>
      </Grid>
      <Text color="quiet" mb="2">
        {agreed ? `Agreed with ${agreed}.` : "Agreed with nobody yet."}
      </Text>
      <Fold title="Change scope and size" opened={!textOf(job, "extent") || counted.length === 0} small>
        <EntryFields
          entry={job}
          query={query}
          fields={["extent", "leave_out", "leave_out_reason", "agreed_with", "agreed_on"]}
          wide={["extent", "leave_out"]}
        />
        <EntryFields
          entry={job}
          query={query}
          fields={["boards", "rings", "radials", "points_opened", "points_tested", "travel_km", "return_visits"]}
        />
      </Fold>
    </Section>
  );
}

/** What is still missing before somebody can go; what stops the visit first. */
export function Missing({ page }: { page: JobOut }) {
  const { missing } = page.day;
  return (
    <Box as="section" aria-label="Missing" mb="5">
      <Text fontWeight="700" fontSize="lg" mb="1">
        {missing.length === 0 ? "Ready to go" : "Missing to go there"}
      </Text>
      {missing.length === 0 && <Text color="quiet">Day, scope, access and letters are in order.</Text>}
      <Box as="ul" listStyleType="none">
        {missing.map((one) => (
          <Box
            as="li"
            key={one.what}
            py="1.5"
            pl="3"
            mb="1"
            borderLeftWidth="4px"
            borderColor={one.stops ? "ink" : "line"}
          >
            <Text fontWeight={one.stops ? "700" : "600"}>{one.what}</Text>
            <Text fontSize="sm">
              {["latitude", "key_place"].includes(one.field) ? (
                <Link to={`/property/${page.property.id}`}>{one.next_step}</Link>
              ) : (
                one.next_step
              )}
            </Text>
          </Box>
        ))}
      </Box>
    </Box>
  );
}

/** What to take along for this one, and why. */
export function Pack({ page }: { page: JobOut }) {
  return (
    <Box
      as="section"
      aria-label="To pack"
      bg="sheet"
      borderWidth="1px"
      borderColor="line"
      borderRadius="lg"
      px="4"
      py="3"
    >
      <Text fontWeight="700" fontSize="lg" mb="1">
        To pack
      </Text>
      <Box as="ul" listStyleType="none">
        {page.day.pack.map((one) => (
          <Box as="li" key={one.name} py="1.5" borderTopWidth="1px" borderColor="line">
            <Text fontWeight="600">{one.name}</Text>
            <Text color="quiet" fontSize="sm">
              {one.why}
            </Text>
          </Box>
        ))}
      </Box>
    </Box>
  );
}
