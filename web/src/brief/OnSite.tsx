/** On site: who came when and left when, and putting the job on hold until a return visit. */
import { Box, Flex } from "@chakra-ui/react";
import { useState } from "react";
import type { Me } from "../api/client";
import { ComeBackReminder } from "../comeback/Reminder";
import { Fields } from "../fields/Fields";
import { GoOn } from "../fields/GoOn";
import { useToComeBack } from "../inspection/comeBack";
import { children } from "../inspection/model";
import { add, setField, useInspection } from "../inspection/open";
import type { FieldOf, Entity } from "../inspection/types";
import { Button } from "../ui/Button";
import { Fold } from "../ui/Fold";
import { Lines, Section } from "../ui/Page";
import { moment } from "../ui/when";

const shown = (iso: unknown) =>
  iso ? moment(String(iso), { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" }) : "";

const now = () => new Date().toISOString();

export function OnSite({ inspection, me }: { inspection: string; me: Me }) {
  const model = useInspection((s) => s.model);
  const open = useToComeBack().length > 0;
  const [leaving, setLeaving] = useState(false);
  if (!model) return null;
  const visits = children(model, "attendance", inspection);
  const here = visits.find((attendance) => attendance.values.who === me.name && !attendance.values.left_at);
  const others = visits.some((attendance) => attendance.values.who !== me.name && !attendance.values.left_at);
  const arrive = () =>
    add("attendance", inspection, {
      who: me.name,
      purpose: others ? "second inspector" : visits.length ? "return visit" : "inspection",
      arrived_at: now(),
    });
  const leave = () => {
    if (!here) return;
    setField({ kind: "attendance", id: here.id, field: "left_at" }, now());
    setLeaving(false);
  };
  return (
    <Section title="On site">
      <Lines label="Visits">
        {visits.map((attendance) => (
          <Visit key={attendance.id} visit={attendance} />
        ))}
      </Lines>
      <Flex wrap="wrap" gap="2">
        {here ? (
          <Button variant="action" onClick={() => (open && !leaving ? setLeaving(true) : leave())}>
            {open && leaving ? "Leave with these open" : "Record departure"}
          </Button>
        ) : (
          <Button variant="action" onClick={arrive}>
            Record arrival
          </Button>
        )}
        <Button onClick={() => add("attendance", inspection, { arrived_at: now() })}>Add a person</Button>
      </Flex>
      {here && leaving && <ComeBackReminder before="before you leave" />}
    </Section>
  );
}

function Visit({ visit }: { visit: Entity }) {
  const set = (field: FieldOf<"attendance">, value: string | true) =>
    setField({ kind: "attendance", id: visit.id, field }, value);
  const v = visit.values;
  return (
    <Box as="li" borderTopWidth="1px" borderColor="line" py="2">
      <Flex wrap="wrap" columnGap="3" rowGap="1" align="baseline">
        <b>{String(v.who ?? "Who?")}</b>
        <Box as="span" fontFamily="mono" fontSize="lg">
          {shown(v.arrived_at) || "–"}
        </Box>
        <span>to</span>
        <Box as="span" fontFamily="mono" fontSize="lg">
          {shown(v.left_at) || "still here"}
        </Box>
        {!v.left_at && (
          <Button variant="quiet" onClick={() => set("left_at", now())}>
            leaves now
          </Button>
        )}
        <Button variant="quiet" onClick={() => set("removed", true)}>
          Remove
        </Button>
      </Flex>
      <Fold small title={String(v.purpose ?? "What for?")}>
        <Fields kind="attendance" id={visit.id} fields={["who", "note", { field: "purpose", wide: true }]} />
      </Fold>
    </Box>
  );
}

/** On hold: why, and when somebody comes back. Dead tests and notes stay open. */
export function Hold({ inspection, me }: { inspection: string; me: Me }) {
  const values = useInspection((s) => s.model?.entities[inspection]?.values);
  if (!values?.held_at) {
    return (
      <Box mb="6">
        <Button onClick={() => setField({ kind: "inspection", id: inspection, field: "held_at" }, now())}>
          Put on hold …
        </Button>
      </Box>
    );
  }
  return (
    <Box
      as="section"
      aria-label="On hold"
      px="4"
      py="3"
      mb="6"
      borderWidth="2px"
      borderColor="ink"
      borderRadius="lg"
      bg="lampWash"
    >
      <Box fontWeight="bold" mb="2">
        On hold since {shown(values.held_at)}
      </Box>
      <Fields
        kind="inspection"
        id={inspection}
        fields={[
          { field: "held_reason", label: "Because", rows: 2, wide: true },
          { field: "return_on", hint: "A return visit is charged by the house rates." },
        ]}
      />
      <GoOn inspection={inspection} me={me} />
    </Box>
  );
}
