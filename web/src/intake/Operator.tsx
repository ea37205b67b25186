/** The network operator: each call with its reference and what was promised, the letter, the hold, and what came of it. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { useState } from "react";
import { useReference } from "../api/reference";
import { draftHere } from "../drafts/draft";
import { PaperButton } from "../drafts/PaperButton";
import { Mark } from "../drawings/Mark";
import { Fields } from "../fields/Fields";
import { children } from "../inspection/model";
import { add, setField, settled, useInspection } from "../inspection/open";
import type { FieldOf, Entity } from "../inspection/types";
import { Button } from "../ui/Button";
import { Section } from "../ui/Page";
import { tell } from "../ui/tell";
import { DateField } from "../ui/DateField";
import { clock, moment } from "../ui/when";

const now = () => new Date().toISOString();

export function Operator({ inspection }: { inspection: string }) {
  const model = useInspection((s) => s.model);
  const faults = useReference()?.operator_faults ?? [];
  if (!model) return null;
  const calls = children(model, "operator_call", inspection);
  const call = (fault: string) => add("operator_call", inspection, { fault, called_at: now() });
  return (
    <Section title="Network operator" lead="Calls, letters and promises: what is on their side of the meter.">
      {calls.map((operatorCall) => (
        <Call key={operatorCall.id} call={operatorCall} inspection={inspection} />
      ))}
      <Text mb="1.5">
        <b>Called now about:</b>
      </Text>
      <Flex wrap="wrap" gap="2" role="group" aria-label="Called now about">
        {faults.map((operatorFault) => (
          <Button key={operatorFault.key} onClick={() => call(operatorFault.key)}>
            {operatorFault.label}
          </Button>
        ))}
      </Flex>
    </Section>
  );
}

function Call({ call, inspection }: { call: Entity; inspection: string }) {
  const faults = useReference()?.operator_faults ?? [];
  const held = useInspection((s) => s.model?.entities[inspection]?.values.held_at);
  const shared = useInspection((s) => s.model?.entities[inspection]?.values.supply_shared_with);
  const v = call.values;
  const fault = faults.find((operatorFault) => operatorFault.key === v.fault);
  const at = (field: FieldOf<"operator_call">) => ({ kind: "operator_call" as const, id: call.id, field });
  // As the screen was opened: a promise does not run out under one's eyes.
  const [opened] = useState(now);
  const overdue = !v.closed_at && !!v.promised_by && String(v.promised_by) < opened;
  const hold = () => {
    const of = (field: FieldOf<"inspection">) => ({ kind: "inspection" as const, id: inspection, field });
    setField(of("held_at"), now());
    setField(of("held_reason"), `Network operator: ${fault?.label ?? "called"}`.slice(0, 500));
    if (v.promised_by) setField(of("return_on"), String(v.promised_by).slice(0, 10));
    // Last of them: the homes that share the supply are held as this one is.
    if (v.holds) setField(at("holds"), null);
    setField(at("holds"), true);
    tell(
      shared
        ? `This inspection and ${shared} are on hold: the return visit is under Brief.`
        : "The inspection is on hold: the return visit is under Brief.",
    );
  };
  const remove = () => {
    setField(at("removed"), true);
    tell("The call is removed.", () => setField(at("removed"), null));
  };
  return (
    <Box
      as="article"
      aria-label={`Call about ${fault?.label ?? "the supply"}`}
      borderTopWidth="1px"
      borderColor="line"
      py="3"
      {...(overdue && { bg: "lampWash", pl: "3", borderLeftWidth: "4px", borderLeftColor: "ink" })}
    >
      <Flex gap="3" align="baseline" wrap="wrap" mb="2">
        <b>{fault?.label ?? "About what?"}</b>
        <Box as="span" color="quiet">
          called {moment(String(v.called_at))}
        </Box>
        {overdue && (
          <Box as="b" role="status">
            <Mark status="attention" size={14} /> Promise overdue since {moment(String(v.promised_by))}
          </Box>
        )}
        {v.closed_at != null && <span>settled {moment(String(v.closed_at))}</span>}
      </Flex>
      <Fields
        kind="operator_call"
        id={call.id}
        fields={[
          { field: "what", wide: true },
          "reference",
          "spoke_with",
          "asked_for",
          { field: "outcome", wide: true },
        ]}
      />
      <Promise promised={v.promised_by ? String(v.promised_by) : null} set={(by) => setField(at("promised_by"), by)} />
      <Flex gap="2" wrap="wrap">
        <PaperButton
          to={`/api/inspections/${inspection}/operator-letter.pdf?call=${call.id}`}
          title="Letter to the network operator"
          make={() => draftHere({ paper: "operator", about: call.id })}
          // What was typed a moment ago stands in the letter.
          before={settled}
        >
          Print letter
        </PaperButton>
        {!held && <Button onClick={hold}>{shared ? "Put all homes on hold" : "Put on hold"}</Button>}
        <Button
          variant={v.closed_at ? "choice" : "outline"}
          pressed={!!v.closed_at}
          onClick={() => setField(at("closed_at"), v.closed_at ? null : now())}
        >
          Settled
        </Button>
        <Button variant="quiet" onClick={remove}>
          Remove call
        </Button>
      </Flex>
    </Box>
  );
}

/** What they say most, in hours from now; a day of its own ends at five in the afternoon. */
const SAID = [
  ["in 3 hours", 3],
  ["in 24 hours", 24],
  ["in 3 days", 72],
] as const;
const HOUR = 3_600_000;

function Promise({ promised, set }: { promised: string | null; set: (by: string | null) => void }) {
  const on = (day: string | null) => set(day ? new Date(`${day}T17:00`).toISOString() : null);
  return (
    <Flex gap="2" wrap="wrap" align="flex-end" mb="3" role="group" aria-label="Promised by">
      <Box flex="0 1 12rem">
        <DateField label="Promised by" value={promised ? localDay(promised) : ""} change={on} />
      </Box>
      {promised && (
        <Box minH="11" display="flex" alignItems="center" fontFamily="mono">
          {clock(promised)}
        </Box>
      )}
      {SAID.map(([words, hours]) => (
        <Button key={words} variant="choice" onClick={() => set(new Date(Date.now() + hours * HOUR).toISOString())}>
          {words}
        </Button>
      ))}
    </Flex>
  );
}

const localDay = (iso: string): string => new Date(iso).toLocaleDateString("sv-SE");
