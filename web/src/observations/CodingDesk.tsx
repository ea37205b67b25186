/** Which code? The three views side by side, what is known and what is asked, colleagues, a second opinion. */
import { Box, Flex, Heading, Text } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, answer, type Me, type Schemas } from "../api/client";
import { useFieldSpec } from "../api/reference";
import { CodeRow } from "../drawings/CodeRow";
import { CodeMark } from "../drawings/Mark";
import { Fields } from "../fields/Fields";
import { useCatalogue } from "../inspection/catalogue";
import { observe } from "../inspection/desk";
import { setField, useInspection, useMay } from "../inspection/open";
import type { FieldOf, Entity, Kind, Value } from "../inspection/types";
import { Photos } from "../photos/Photos";
import { Button } from "../ui/Button";
import { Fold } from "../ui/Fold";
import { Said } from "../ui/Said";
import { TextField } from "../ui/TextField";
import { moment } from "../ui/when";
import { CodeHistory } from "./CodeHistory";
import { Danger } from "./Danger";
import { Mended } from "./Mended";
import { ToldTo } from "./ToldTo";
import { OwnRepairs } from "./OwnRepairs";
import { isBlind, opinionsOn } from "./opinions";

const VIEWS: Record<string, string> = { mainstream: "Usual view", stricter: "Stricter view", milder: "Milder view" };

export function CodingDesk({ observation, me }: { observation: Entity; me: Me }) {
  const model = useInspection((s) => s.model);
  const coding = useInspection((s) => s.model?.judgement?.coding.find((one) => one.id === observation.id));
  const entry = useCatalogue().find((catalogue) => catalogue.key === observation.values.catalogue_key);
  const decides = useMay("decide");
  const repaired = useInspection((s) =>
    s.model?.judgement?.repairs?.some((repair) => repair.observation_id === observation.id),
  );
  const [reason, setReason] = useState<string | null>(null);
  const length = useFieldSpec("observation", "code_reason")?.max_length;
  if (!model) return null;
  const v = observation.values;
  const set = (field: FieldOf<"observation">, value: Value) =>
    setField({ kind: "observation", id: observation.id, field }, value);
  const code = String(v.code ?? "");
  const blind = isBlind(model, observation);
  const settle = (next: string, why: string | null) => {
    if (next === code) return;
    set("code", next);
    set("code_reason", why);
    setReason(null);
  };
  const reply = (fact: string, yes: boolean) => set("answers", { ...((v.answers ?? {}) as object), [fact]: yes });
  const leave = () => {
    if (reason !== null) set("code_reason", reason.trim() || null);
    setReason(null);
  };
  return (
    <Box as="article" aria-label={`Which code: ${String(v.text ?? "")}`} minW="0">
      <Flex align="baseline" gap="3" wrap="wrap" mb="2">
        <Heading as="h2" size="lg">
          Which code?
        </Heading>
        <Box as="span" color="quiet" flex="1">
          {String(v.place ?? "no place said")}
        </Box>
        <Button
          size="sm"
          variant="quiet"
          onClick={() =>
            observe({
              kind: (v.about_entity as Kind | undefined) ?? "inspection",
              id: String(v.about_id ?? model.id),
              existing: observation.id,
            })
          }
        >
          Edit wording and place …
        </Button>
      </Flex>
      <Text fontSize="lg" fontWeight="bold">
        {String(v.text ?? "No words yet")}
      </Text>
      <Photos kind="observation" id={observation.id} shows="defect" label="Photo as found" inline only big />
      {coding && <Facts coding={coding} reply={reply} decides={decides} />}
      {blind ? (
        <Text my="3">
          <b>You are asked for a second opinion.</b> The first code stays covered until you have given yours, under
          Second opinions.
        </Text>
      ) : (
        <>
          {coding && <Views coding={coding} code={code} settle={settle} decides={decides} />}
          {coding && code && code !== coding.code && (
            <Text mb="2">
              What is known leads to <b>{coding.code}</b>
              {coding.moved && `: ${coding.moved}`} You chose <b>{code}</b>.
            </Text>
          )}
          {entry && <Colleagues inspection={model.id} entry={entry.key} />}
          <CodeRow label="Code" chosen={code} choose={(one) => settle(one, null)} disabled={!decides} />
          {code && (!coding || code !== coding.code || v.code_reason) && (
            <Box mb="3">
              <TextField
                label={`Why ${code}`}
                hint="A code that is rethought keeps its reason."
                value={reason ?? String(v.code_reason ?? "")}
                change={setReason}
                leave={leave}
                maxLength={length}
                disabled={!decides}
              />
            </Box>
          )}
        </>
      )}
      {entry && (entry.plain || entry.remedy) && (
        <Box bg="sand" borderRadius="lg" px="4" py="3" mb="4">
          <b>In plain words for the landlord</b>
          <Text>
            {entry.plain}{" "}
            <Box as="span" color="quiet">
              {entry.remedy}
            </Box>
          </Text>
        </Box>
      )}
      {code === "C1" && !blind && <Danger observation={observation} />}
      {code !== "C1" && !blind && <ToldTo observation={observation} />}
      {repaired ? null : <Mended observation={observation} />}
      <OwnRepairs observation={observation} me={me} />
      {!blind && <Second observation={observation} me={me} />}
      {!blind && <CodeHistory inspection={model.id} observation={observation.id} />}
    </Box>
  );
}

interface FactsProps {
  coding: Schemas["CodingView"];
  reply: (fact: string, yes: boolean) => void;
  decides: boolean;
}

/** What is known and counted, and one tap for what is not. */
function Facts({ coding, reply, decides }: FactsProps) {
  const counted = coding.known.filter((known) => known.so && !known.answered);
  const answered = coding.known.filter((known) => known.answered);
  return (
    <Box my="2">
      {counted.length > 0 && (
        <Text>
          Already known: <b>{counted.map((known) => known.says).join(" · ")}</b>
        </Text>
      )}
      {answered.map((known) => (
        <Flex key={known.fact} align="center" gap="2" wrap="wrap" mt="1">
          <Box as="span" flex="1 1 12rem">
            {known.says}
          </Box>
          <YesNo chosen={known.so} choose={(yes) => reply(known.fact, yes)} label={known.says} disabled={!decides} />
        </Flex>
      ))}
      {coding.questions
        .filter((question) => !answered.some((known) => known.fact === question.fact))
        .map((question) => (
          <Flex key={question.fact} align="center" gap="2" wrap="wrap" mt="1">
            <Box as="span" flex="1 1 12rem">
              {question.ask}
            </Box>
            <YesNo chosen={null} choose={(yes) => reply(question.fact, yes)} label={question.ask} disabled={!decides} />
          </Flex>
        ))}
    </Box>
  );
}

interface YesNoProps {
  chosen: boolean | null;
  choose: (yes: boolean) => void;
  label: string;
  disabled: boolean;
}

function YesNo({ chosen, choose, label, disabled }: YesNoProps) {
  return (
    <Flex gap="1" role="group" aria-label={label}>
      <Button variant="choice" pressed={chosen === true} disabled={disabled} onClick={() => choose(true)}>
        yes
      </Button>
      <Button variant="choice" pressed={chosen === false} disabled={disabled} onClick={() => choose(false)}>
        no
      </Button>
    </Flex>
  );
}

interface ViewsProps {
  coding: Schemas["CodingView"];
  code: string;
  settle: (code: string, why: string | null) => void;
  decides: boolean;
}

/** Each school's code and its one reason; the house's own is lit. A tap takes it. */
function Views({ coding, code, settle, decides }: ViewsProps) {
  return (
    <Flex direction="column" gap="2" my="3" role="group" aria-label="The three views">
      {coding.views.map((view) => {
        const house = view.school === coding.school;
        return (
          <Button
            key={view.school}
            variant="plain"
            size="bare"
            wide
            pressed={view.code === code}
            disabled={!decides}
            onClick={() => settle(view.code, `${VIEWS[view.school]}: ${view.reason}`)}
          >
            <Said words={`${VIEWS[view.school]}: ${view.code}. ${view.reason}`}>
              <Flex
                as="span"
                flex="1"
                gap="3"
                align="center"
                textAlign="start"
                px="3"
                py="2"
                borderWidth="1.5px"
                borderColor={house ? "lamp" : "line"}
                borderRadius="lg"
                bg={house ? "lampWash" : undefined}
                fontWeight="normal"
              >
                <CodeMark code={view.code} large />
                <Box as="span" flex="1">
                  <b>
                    {VIEWS[view.school]}
                    {house ? ", and the firm's rule" : ""}
                  </b>
                  <Box as="span" display="block" color="quiet">
                    {view.reason}
                  </Box>
                </Box>
              </Flex>
            </Said>
          </Button>
        );
      })}
    </Flex>
  );
}

/** What colleagues chose for the same entry elsewhere. */
function Colleagues({ inspection, entry }: { inspection: string; entry: string }) {
  const chosen = useQuery({
    queryKey: ["chosen", inspection, entry],
    queryFn: () =>
      answer(
        api.GET("/api/inspections/{inspection_id}/chosen", {
          params: { path: { inspection_id: inspection }, query: { key: entry } },
        }),
      ),
    staleTime: 60_000,
  }).data;
  const codes = Object.entries(chosen?.codes ?? {}).sort(([, a], [, b]) => b - a);
  if (codes.length === 0) return null;
  const times = (count: number) => (count === 1 ? "once" : count === 2 ? "twice" : `${count} times`);
  return (
    <Text mb="1">
      Colleagues on this entry: <b>{codes.map(([code, count]) => `${code} ${times(count)}`).join(", ")}</b>.
    </Text>
  );
}

/** A second opinion: asked for, and once it is there shown beside the first. */
function Second({ observation, me }: { observation: Entity; me: Me }) {
  const model = useInspection((s) => s.model);
  if (!model) return null;
  const given = opinionsOn(model, observation);
  const asked = observation.values.opinion_asked_at;
  const ask = (at: string | null) =>
    setField({ kind: "observation", id: observation.id, field: "opinion_asked_at" }, at);
  return (
    <Box mb="4">
      {given.map((entity) => (
        <Flex key={entity.id} gap="3" align="center" mb="2">
          <CodeMark code={String(entity.values.code)} />
          <Text flex="1">
            <b>Second opinion, {String(entity.values.by ?? "a supervisor")}</b>, given without seeing the first code
            {entity.values.reason ? `: ${String(entity.values.reason)}` : "."}
          </Text>
        </Flex>
      ))}
      {given.length === 0 && asked && (
        <Flex gap="3" align="center" wrap="wrap">
          <Text flex="1">A second opinion was asked for on {moment(String(asked))}.</Text>
          <Button size="sm" variant="quiet" onClick={() => ask(null)}>
            Cancel request
          </Button>
        </Flex>
      )}
      {given.length === 0 && !asked && !me.may.includes("give a second opinion") && (
        <Button onClick={() => ask(new Date().toISOString())}>Ask for a second opinion (your code stays hidden)</Button>
      )}
      <Fold small title="What was found, in its own words">
        <Box pt="2">
          <Fields kind="observation" id={observation.id} fields={["place", { field: "text", rows: 2, wide: true }]} />
        </Box>
      </Fold>
    </Box>
  );
}
