/** Repairs of one's own: as found, what was done, as left; the tests that the work undoes; the certificate. */
import { Box, Flex, Grid, Text } from "@chakra-ui/react";
import { useState } from "react";
import { api, answer, type Me, type Status } from "../api/client";
import { explain } from "../api/errors";
import { useReference } from "../api/reference";
import { Mark } from "../drawings/Mark";
import { FieldInput } from "../fields/FieldInput";
import { Fields } from "../fields/Fields";
import { NOT_YOURS, useMayChange } from "../fields/mayChange";
import { setField, settled, useInspection, useMay } from "../inspection/open";
import { beginRepair, keepAsFound, type Repair, takeBack } from "../inspection/repairs";
import { type Entity, placeOf } from "../inspection/types";
import { Photos } from "../photos/Photos";
import { Button, LinkButton } from "../ui/Button";
import { Fold } from "../ui/Fold";
import { Told } from "../ui/States";
import { tell } from "../ui/tell";
import { moment } from "../ui/when";

const NONE: Repair[] = [];

export function OwnRepairs({ observation, me }: { observation: Entity; me: Me }) {
  const all = useInspection((s) => s.model?.judgement?.repairs) ?? NONE;
  const may = useMayChange("repair", "work");
  const [choosing, setChoosing] = useState(false);
  const of = String(observation.values.about_entity ?? "inspection");
  const works = (useReference()?.works ?? []).filter((work) => work.of.includes(of));
  const here = all.filter((repair) => repair.observation_id === observation.id);
  return (
    <Box as="section" aria-label="Own repairs" mb="4">
      {here.map((repair) => (
        <OneRepair key={repair.id} repair={repair} />
      ))}
      {choosing ? (
        <Box>
          <Text mb="1.5">
            <b>What is done?</b> What it undoes is tested again.
          </Text>
          <Flex wrap="wrap" gap="2" role="group" aria-label="Kind of work">
            {works.map((work) => (
              <Button
                key={work.key}
                variant="choice"
                onClick={() => {
                  beginRepair(observation, work, me.name);
                  setChoosing(false);
                }}
              >
                {work.label}
              </Button>
            ))}
            <Button variant="quiet" onClick={() => setChoosing(false)}>
              Cancel
            </Button>
          </Flex>
        </Box>
      ) : may ? (
        <Button onClick={() => setChoosing(true)}>{here.length ? "Add own repair …" : "Own repair …"}</Button>
      ) : (
        <Box color="quiet">{NOT_YOURS.decide}</Box>
      )}
    </Box>
  );
}

function OneRepair({ repair }: { repair: Repair }) {
  const left = repair.lacks.length + repair.failing.length;
  return (
    <Box as="article" aria-label={`Own repair: ${repair.label}`} mb="4">
      <Text fontWeight="bold" fontSize="lg">
        Own repair: {repair.label || "kind of work not chosen"}
      </Text>
      <Text color="quiet" mb="2">
        {repair.where}
      </Text>
      <Grid templateColumns={{ base: "minmax(0, 1fr)", xl: "minmax(0, 2fr) minmax(0, 3fr)" }} gap="3" mb="3">
        <Card title="As found">
          {repair.marks.map((thenNow) => (
            <Figure key={thenNow.entity_id + thenNow.field} label={thenNow.label} says={thenNow.then || "–"} />
          ))}
          {repair.tests.map((retest) => (
            <Figure
              key={retest.entity_id + retest.field}
              label={retest.label}
              says={retest.found ? `${retest.found} ${retest.unit}`.trim() : "not tested"}
            />
          ))}
        </Card>
        <Card title="As left" ink>
          {repair.begun ? <AsLeft repair={repair} /> : <Begin repair={repair} />}
        </Card>
      </Grid>
      <Fields kind="repair" id={repair.id} fields={[{ field: "done", wide: true }, "parts", "as_left"]} />
      <Done repair={repair} />
      <Photos kind="repair" id={repair.id} shows="as left" label="Photo as left" inline />
      <Fold small title="Departures, existing installation, who and when">
        <Fields
          kind="repair"
          id={repair.id}
          fields={["by", { field: "departures", wide: true }, { field: "existing", rows: 2, wide: true }]}
        />
      </Fold>
      {repair.failing.length > 0 && (
        <Told trouble>
          <b>Does not hold:</b> {repair.failing.join("; ")}. The observation still counts.
        </Told>
      )}
      {left > 0 && repair.begun && (
        <Text mb="2">
          <b>Still to do:</b> {[...repair.lacks].join("; ")}
        </Text>
      )}
      <Certificate repair={repair} />
    </Box>
  );
}

/** When the work was done: the certificate bears that day. */
function Done({ repair }: { repair: Repair }) {
  const at = useInspection((s) => s.model?.entities[repair.id]?.values.done_at);
  const may = useMayChange("repair", "done_at");
  const set = (value: string | null) => setField({ kind: "repair", id: repair.id, field: "done_at" }, value);
  if (!repair.begun || repair.certificate) return null;
  return (
    <Flex gap="3" align="center" mb="2">
      {at ? (
        <Text>
          Work done <b>{moment(String(at))}</b>
        </Text>
      ) : null}
      {may && (
        <Button variant={at ? "quiet" : "outline"} onClick={() => set(at ? null : new Date().toISOString())}>
          {at ? "Undo" : "Work done now"}
        </Button>
      )}
    </Flex>
  );
}

function Card({ title, ink, children }: { title: string; ink?: boolean; children: React.ReactNode }) {
  return (
    <Box borderWidth={ink ? "2px" : "1px"} borderColor={ink ? "ink" : "line"} borderRadius="lg" px="4" py="3" minW="0">
      <Text fontWeight="bold" mb="1">
        {title}
      </Text>
      {children}
    </Box>
  );
}

function Figure({ label, says }: { label: string; says: string }) {
  return (
    <Flex justify="space-between" gap="3" py="0.5">
      <span>{label}</span>
      <Box as="span" fontFamily="mono" textAlign="end">
        {says}
      </Box>
    </Flex>
  );
}

function Begin({ repair }: { repair: Repair }) {
  const tests = repair.tests.map((retest) => retest.label).join(", ");
  return (
    <>
      <Text mb="2">{tests ? `To be tested again: ${tests}.` : "No test is undone: say how it was left."}</Text>
      <Button variant="action" onClick={() => keepAsFound(repair)}>
        {tests ? "Keep as found, test again" : "Work begins"}
      </Button>
    </>
  );
}

function AsLeft({ repair }: { repair: Repair }) {
  return (
    <Flex direction="column" gap="3">
      {repair.marks.map((thenNow) => (
        <FieldInput
          key={thenNow.entity_id + thenNow.field}
          place={placeOf(thenNow.entity, thenNow.entity_id, thenNow.field)}
        />
      ))}
      {repair.tests.map((retest) => (
        <Flex key={retest.entity_id + retest.field} align="center" gap="2">
          <Box flex="1">
            <FieldInput place={placeOf(retest.entity, retest.entity_id, retest.field)} />
          </Box>
          {retest.status && <Mark status={retest.status as Status} size={16} />}
        </Flex>
      ))}
      {repair.tests.length === 0 && <Text>Say below how it was left.</Text>}
    </Flex>
  );
}

/** The draft to look at, and issuing it: frozen as a report is. */
function Certificate({ repair }: { repair: Repair }) {
  const inspection = useInspection((s) => s.model?.id) ?? "";
  const signs = useMay("certify");
  const may = useMayChange("repair", "work");
  const [asked, setAsked] = useState(false);
  const [busy, setBusy] = useState(false);
  const [trouble, setTrouble] = useState("");
  const path = { inspection_id: inspection, repair_id: repair.id };
  const issue = async () => {
    setBusy(true);
    setTrouble("");
    try {
      // What was typed a moment ago stands in it.
      await settled();
      const made = await answer(
        api.POST("/api/inspections/{inspection_id}/repairs/{repair_id}/certificate", { params: { path } }),
      );
      tell(`Certificate M${made.number} is issued.`);
      setAsked(false);
    } catch (error) {
      setTrouble(explain(error));
    }
    setBusy(false);
  };
  if (repair.certificate)
    return (
      <>
        <Flex wrap="wrap" gap="3" align="center">
          <b>Certificate {repair.certificate} is issued.</b>
          <Issued repairId={repair.id} />
        </Flex>
        {!repair.complete && (
          <Told trouble>
            <b>Changed since the certificate:</b> the retest no longer holds, so the observation counts again. Issue a
            new repair with its own certificate.
          </Told>
        )}
      </>
    );
  const left = repair.lacks.length + repair.failing.length;
  return (
    <>
      <Flex wrap="wrap" gap="2" align="center">
        {asked ? (
          <>
            <Text>
              <b>The certificate cannot be changed afterwards.</b> You sign it as the competent person.
            </Text>
            <Button variant="action" busy={busy} onClick={() => void issue()}>
              Sign and issue
            </Button>
            <Button onClick={() => setAsked(false)}>Cancel</Button>
          </>
        ) : (
          <Button variant="action" disabled={!signs || !repair.complete} onClick={() => setAsked(true)}>
            {repair.complete ? "Issue certificate" : `Certificate: ${left} to do`}
          </Button>
        )}
        {repair.begun && (
          <LinkButton file to={`/api/inspections/${inspection}/repairs/${repair.id}/certificate.pdf`}>
            Look at draft
          </LinkButton>
        )}
        {may && (
          <Button
            variant="quiet"
            label={`Remove repair: ${repair.label}`}
            onClick={() => {
              takeBack(repair);
              tell("The repair is removed; the readings as found are back.");
            }}
          >
            Remove repair
          </Button>
        )}
      </Flex>
      {trouble && <Told trouble>{trouble}</Told>}
    </>
  );
}

function Issued({ repairId }: { repairId: string }) {
  const inspection = useInspection((s) => s.model?.id) ?? "";
  const [trouble, setTrouble] = useState("");
  const open = async () => {
    try {
      const params = { path: { inspection_id: inspection } };
      const all = await answer(api.GET("/api/inspections/{inspection_id}/certificates", { params }));
      const certificate = all.find((found) => found.repair_id === repairId);
      if (certificate) window.location.assign(`/api/reports/${certificate.id}.pdf`);
    } catch (error) {
      setTrouble(explain(error));
    }
  };
  return (
    <>
      <Button onClick={() => void open()}>Download</Button>
      {trouble && <Told trouble>{trouble}</Told>}
    </>
  );
}
