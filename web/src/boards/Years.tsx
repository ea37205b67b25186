/** The home in its layers: each part with the years that its evidence allows, and what else tells of them. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import type { Schemas } from "../api/client";
import { useFieldSpec } from "../api/reference";
import { children } from "../inspection/model";
import { add, setField, useInspection } from "../inspection/open";
import type { Entity, Place } from "../inspection/types";
import { Button } from "../ui/Button";
import { type Choice } from "../ui/ChoiceField";
import { Fold } from "../ui/Fold";
import { Section } from "../ui/Page";
import { SelectField } from "../ui/SelectField";
import { NumberField, TextField } from "../ui/TextField";
import { tell } from "../ui/tell";

type Part = Schemas["Part"];

/** The years that are drawn. */
const FIRST = 1950;
const LAST = 2030;
const place = (year: number) => ((Math.min(LAST, Math.max(FIRST, year)) - FIRST) / (LAST - FIRST)) * 100;

export function Years() {
  const parts = useInspection((s) => s.model?.judgement?.parts) ?? [];
  const id = useInspection((s) => s.model?.id) ?? "";
  if (parts.length === 0) return null;
  return (
    <Section title="Parts and their years" lead="Each part is compared with the edition of its own day.">
      <Box as="ul" listStyleType="none" aria-label="Parts and their years">
        {parts.map((part) => (
          <Row key={part.key} part={part} />
        ))}
      </Box>
      <Flex justify="space-between" color="quiet" fontFamily="mono" fontSize="sm" ml={{ md: "50%" }} mb="3" aria-hidden>
        {[1950, 1970, 1990, 2010, 2030].map((year) => (
          <span key={year}>{year}</span>
        ))}
      </Flex>
      <Fold small title="Add evidence">
        <AddEvidence inspection={id} parts={parts} />
      </Fold>
    </Section>
  );
}

const range = ({ from_year, to_year, agrees }: Part): string => {
  if (!agrees) return "evidence does not agree";
  if (from_year && to_year) return from_year === to_year ? `${from_year}` : `${from_year} to ${to_year}`;
  if (from_year) return `${from_year} or later`;
  return to_year ? `${to_year} or earlier` : "not known";
};

function Row({ part }: { part: Part }) {
  const left = place(part.from_year ?? FIRST);
  const right = place(part.to_year ?? LAST);
  const known = part.agrees && (part.from_year !== null || part.to_year !== null);
  return (
    <Box as="li" borderTopWidth="1px" borderColor="line" py="2">
      <Flex gap="3" align="center" wrap={{ base: "wrap", md: "nowrap" }}>
        <Box flex="1 1 50%" minW="0">
          <b>{part.name}</b> {range(part)}
          <Text color="quiet" fontSize="sm">
            {part.evidence.join("; ")}
          </Text>
        </Box>
        <Box flex="1 1 50%" minW="8rem" height="22px" position="relative" borderBottomWidth="1px" borderColor="line">
          {known && (
            <Box
              position="absolute"
              insetY="2px"
              left={`${left}%`}
              width={`${Math.max(1.5, right - left)}%`}
              bg={part.from_year !== null && part.to_year !== null ? "ink" : "half"}
              borderWidth="2px"
              borderColor="ink"
              borderStyle={part.from_year !== null && part.to_year !== null ? "solid" : "dashed"}
              borderRadius="md"
            />
          )}
        </Box>
      </Flex>
      {part.offered.map((offered) => (
        <Flex key={offered.says} gap="2" align="center" wrap="wrap" mt="1">
          <Box flex="1 1 14rem">{offered.says}</Box>
          <Button size="sm" label={`Take for ${part.name}: ${offered.says}`} onClick={() => take(part, offered)}>
            Take
          </Button>
        </Flex>
      ))}
      <Evidence part={part} />
      {part.entity === "circuit" && <BelongsTo part={part} />}
    </Box>
  );
}

/** A circuit of an extension is as old as the extension: its years are said once, for all of its circuits. */
function BelongsTo({ part }: { part: Part }) {
  const model = useInspection((s) => s.model);
  if (!model) return null;
  const all = children(model, "dating", model.id);
  const named = new Set(
    all.filter(({ values: v }) => v.about_entity === "inspection" && v.part).map(({ values: v }) => String(v.part)),
  );
  if (named.size === 0) return null;
  const own = all.find(({ values: v }) => v.about_id === part.entity_id && v.part);
  const set = (name: string) => {
    if (own) setField({ kind: "dating", id: own.id, field: "removed" }, true);
    if (own?.values.part !== name)
      add("dating", model.id, { about_entity: "circuit", about_id: part.entity_id, part: name });
  };
  return (
    <Flex gap="2" wrap="wrap" align="center" mt="1" role="group" aria-label={`${part.name} belongs to`}>
      <Box as="span" color="quiet">
        Belongs to
      </Box>
      {[...named].map((name) => (
        <Button key={name} size="sm" variant="choice" pressed={own?.values.part === name} onClick={() => set(name)}>
          {name}
        </Button>
      ))}
    </Flex>
  );
}

/** What belongs to that part and to no other. */
const isOf = (part: Part, { values: v }: Entity): boolean =>
  part.entity === "inspection" && part.key !== part.entity_id
    ? v.part === part.key
    : v.about_id === part.entity_id && !v.part;

function take(part: Part, offered: Part["offered"][number]): void {
  const made = state(part, offered.from_year, offered.to_year, offered.known_by, offered.says);
  tell(`${part.name}: ${offered.says}.`, () => setField({ kind: "dating", id: made, field: "removed" }, true));
}

function state(
  part: Pick<Part, "key" | "entity" | "entity_id">,
  from: number | null,
  to: number | null,
  by: string,
  says: string,
): string {
  const inspection = useInspection.getState().model?.id ?? "";
  return add("dating", inspection, {
    about_entity: part.entity,
    about_id: part.entity_id,
    ...(part.entity === "inspection" && part.key !== part.entity_id && { part: part.key }),
    ...(from !== null && { from_year: from }),
    ...(to !== null && { to_year: to }),
    ...(by && { known_by: by }),
    ...(says && { says }),
  });
}

function Evidence({ part }: { part: Part }) {
  const model = useInspection((s) => s.model);
  if (!model) return null;
  const own = children(model, "dating", model.id).filter((dating) => isOf(part, dating));
  return own.map(({ id, values: v }) => (
    <Button
      key={id}
      size="sm"
      variant="quiet"
      onClick={() => {
        const removed: Place = { kind: "dating", id, field: "removed" };
        setField(removed, true);
        tell("The evidence is removed.", () => setField(removed, null));
      }}
    >
      Remove: {String(v.says ?? v.known_by ?? "evidence")}
    </Button>
  ));
}

const NEW = "a part of the home …";

function AddEvidence({ inspection, parts }: { inspection: string; parts: Part[] }) {
  const model = useInspection((s) => s.model);
  const known = useFieldSpec("dating", "known_by")?.choices ?? [];
  const [key, setKey] = useState(inspection);
  const [name, setName] = useState("");
  const [by, setBy] = useState("");
  const [from, setFrom] = useState("");
  const [to, setTo] = useState("");
  const [says, setSays] = useState("");
  const [trouble, setTrouble] = useState("");
  if (!model) return null;
  const boards = children(model, "board", model.id);
  const circuits = boards.flatMap((board) => children(model, "circuit", board.id));
  const listed = new Set(parts.map((part) => part.key));
  const choices: Choice[] = [
    ...parts.map((part): Choice => [part.key, part.name]),
    ...circuits
      .filter((circuit) => !listed.has(circuit.id) && !circuit.values.spare)
      .map((circuit): Choice => [
        circuit.id,
        [circuit.values.way, circuit.values.designation].filter(Boolean).join(" "),
      ]),
    [NEW, NEW],
  ];
  const save = () => {
    const years = [from, to].map((text) => (/^(19|20)\d\d$/.test(text.trim()) ? Number(text) : null));
    if (!years[0] && !years[1]) return setTrouble("Enter a year, such as 2006.");
    const there = parts.find((one) => one.key === key);
    const part = there ?? {
      key: key === NEW ? name.trim() || "Part of the home" : key,
      entity: key === NEW ? "inspection" : "circuit",
      entity_id: key === NEW ? inspection : key,
    };
    state(part, years[0] ?? null, years[1] ?? null, by, says.trim());
    for (const clear of [setFrom, setTo, setSays, setName, setTrouble]) clear("");
  };
  return (
    <Flex direction="column" gap="3" maxW="34rem">
      <SelectField label="Of which part" value={key} choices={choices} change={setKey} />
      {key === NEW && <TextField label="Part of the home" value={name} change={setName} maxLength={80} />}
      <Flex gap="3">
        <NumberField label="Not before" value={from} change={setFrom} refused={trouble} maxLength={4} />
        <NumberField label="Not after" value={to} change={setTo} maxLength={4} />
      </Flex>
      <SelectField
        label="Known by"
        value={by}
        choices={[["", "not said"], ...known.map((one): Choice => [one, one])]}
        change={setBy}
      />
      <TextField label="Evidence" value={says} change={setSays} maxLength={200} />
      <Box>
        <Button variant="action" onClick={save}>
          Save evidence
        </Button>
      </Box>
    </Flex>
  );
}
