/** The report: the inspector's decision, the draft to look at, issuing, and every issue with its fingerprint. */
import { Box, Flex, Text } from "@chakra-ui/react";
import type { Me } from "../api/client";
import { explain } from "../api/errors";
import { DraftPages } from "../drafts/DraftPages";
import { whyNot } from "../drafts/draft";
import { FieldInput } from "../fields/FieldInput";
import { useGoTo } from "../inspection/goTo";
import { setField, useInspection, useMay } from "../inspection/open";
import { Button } from "../ui/Button";
import { Fold } from "../ui/Fold";
import { FieldGrid, Section, Wide } from "../ui/Page";
import { StageBody, StageHead } from "../ui/StageHead";
import { Progress, Told } from "../ui/States";
import { day } from "../ui/when";
import { Against } from "./Against";
import { Draft } from "./Draft";
import { Issue } from "./Issue";
import { useReportDraft } from "./useReportDraft";
import type { FieldOf } from "../inspection/types";

export default function Report({ me }: { me: Me }) {
  const id = useInspection((s) => s.model?.id) ?? "";
  const judgement = useInspection((s) => s.model?.judgement);
  const declared = useInspection((s) => s.model?.entities[id]?.values.declared_outcome);
  const at = (field: FieldOf<"inspection">) => ({ kind: "inspection" as const, id, field });
  const differs = !!declared && declared !== judgement?.outcome;
  const waiting = useInspection((s) => s.model?.pending.filter((p) => !p.refused).length ?? 0);
  const draft = useReportDraft(waiting > 0);
  // What stands against a satisfactory result is listed under it already.
  const listed = new Set(judgement?.against.map((objection) => objection.says));
  const points = draft.points.filter((point) => point.level === "must" || !listed.has(point.text));
  return (
    <>
      <StageHead title="Report" line="you decide and sign; the verdicts are an opinion" />
      <StageBody>
        <Flex wrap="wrap" columnGap="10" rowGap="4" mb="3">
          <Box>
            Result from the codes
            <Box as="b" display="block" fontSize="2xl">
              {judgement?.outcome_says ?? "–"}
            </Box>
          </Box>
          <Box flex="1 1 18rem">
            <FieldInput place={at("declared_outcome")} label="I declare the installation" />
          </Box>
        </Flex>
        {differs && (
          <Box mb="4">
            <FieldInput place={at("outcome_reason")} rows={2} label="Why my result differs from the codes" />
          </Box>
        )}
        <Against />
        <Repaired />
        {judgement?.evidence && (
          <Text mb="4">
            <b>What was done.</b> {judgement.evidence}
          </Text>
        )}
        <FieldGrid>
          <FieldInput place={at("next_years")} />
          <Box gridColumn={{ md: "2 / -1" }}>
            <FieldInput place={at("next_reason")} />
          </Box>
          <Wide>
            <FieldInput place={at("condition")} rows={2} />
          </Wide>
        </FieldGrid>
        <Interval />
        <Duties />
        <Issue me={me} seq={draft.seq} points={points} waiting={waiting > 0} drafted={!!draft.here.data} />
        <Section title="Draft">
          <DraftShown {...draft} />
        </Section>
      </StageBody>
    </>
  );
}

function DraftShown({ id, away, preview, here, again }: ReturnType<typeof useReportDraft>) {
  if (away)
    return (
      <>
        <Text mb="3">
          Made on this device from what is here: what other devices entered and has not come here is not in it.
        </Text>
        {here.isError && <Told trouble>{whyNot(here.error)}</Told>}
        {here.isPending && <Progress label="Setting the draft …" />}
        {here.data && <DraftPages pages={here.data.pages} />}
      </>
    );
  return (
    <>
      {preview.isError && (
        <Told trouble>The draft cannot be shown. {explain(preview.error, "What you typed is still here.")}</Told>
      )}
      {preview.isPending && <Progress label="Setting the draft …" />}
      {preview.data && <Draft inspection={id} preview={preview.data} gone={again} />}
    </>
  );
}

/** What the firm put right itself: what closes by a certificate, and what still waits for one. */
function Repaired() {
  const repairs = useInspection((s) => s.model?.judgement?.repairs);
  const goTo = useGoTo();
  if (!repairs?.length) return null;
  return (
    <Box as="section" aria-label="Own repairs" mb="4">
      {repairs.map((repair) => (
        <Flex key={repair.id} gap="3" align="center" wrap="wrap" borderTopWidth="1px" borderColor="line" py="1.5">
          <Box flex="1 1 16rem">
            <b>{[repair.code, repair.where].filter(Boolean).join(" · ")}</b>: {repair.label}
          </Box>
          <span>
            {repair.certificate
              ? `closed by certificate ${repair.certificate}`
              : repair.complete
                ? "holds, no certificate yet"
                : `${repair.lacks.length + repair.failing.length} to do`}
          </span>
          <Button
            size="sm"
            variant="quiet"
            label={`Open own repair at ${repair.where}`}
            onClick={() =>
              goTo({
                stage: "observations",
                entity: "observation",
                id: repair.observation_id,
                observation: repair.observation_id,
              })
            }
          >
            Open
          </Button>
        </Flex>
      ))}
    </Box>
  );
}

/** What the inspection itself leads to, to be taken or left. */
function Interval() {
  const id = useInspection((s) => s.model?.id) ?? "";
  const proposal = useInspection((s) => s.model?.judgement?.interval);
  const years = useInspection((s) => s.model?.entities[id]?.values.next_years);
  const decides = useMay("decide");
  if (!proposal) return null;
  const at = (field: FieldOf<"inspection">) => ({ kind: "inspection" as const, id, field });
  const long = `${proposal.years} ${proposal.years === 1 ? "year" : "years"}`;
  const take = () => {
    setField(at("next_years"), proposal.years);
    setField(at("next_reason"), proposal.reason.slice(0, 500));
  };
  return (
    <Flex
      wrap="wrap"
      align="center"
      columnGap="4"
      rowGap="2"
      my="3"
      px="3.5"
      py="2.5"
      borderWidth="1px"
      borderColor="line"
      borderRadius="lg"
    >
      <Box flex="1 1 20rem">
        <b>{long}</b> {proposal.reason}
      </Box>
      {decides && years !== proposal.years && <Button onClick={take}>Take {long}</Button>}
    </Flex>
  );
}

function Duties() {
  const duties = useInspection((s) => s.model?.judgement?.duties) ?? [];
  if (!duties.length) return null;
  return (
    <Fold title={`Landlord's duties (${duties.length}): check the law that applies`}>
      <Box as="ul" listStyleType="disc" ml="5" my="1">
        {duties.map((duty) => (
          <li key={duty.duty + duty.counted_from}>
            {duty.duty}
            {duty.due ? (
              <b> by {day(duty.due)}</b>
            ) : duty.counted_from ? (
              ` (${duty.days ? `${duty.days} days from ` : ""}${duty.counted_from})`
            ) : (
              ""
            )}
          </li>
        ))}
      </Box>
      <Text color="quiet">Check the law that applies where the property is.</Text>
    </Fold>
  );
}
