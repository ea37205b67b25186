/** What is checked live beside Zs and the RCDs, gone through figure after figure: surge device, leakage, what switches. */
import { Box, Flex } from "@chakra-ui/react";
import { useEffect } from "react";
import { useShallow } from "zustand/react/shallow";
import type { Schemas } from "../api/client";
import { useFieldSpec } from "../api/reference";
import { ReadingCell } from "../fields/ReadingCell";
import { setOrder } from "../inspection/desk";
import { useInspection } from "../inspection/open";
import { type Place, placeOf } from "../inspection/types";
import { useTranslate, whereOf } from "../inspection/words";
import { Section } from "../ui/Page";
import { StageBody } from "../ui/StageHead";
import { markAt } from "./verdicts";

type Check = Schemas["LiveCheck"];

const GROUPS: readonly [Check["group"], string, string][] = [
  ["surge", "Surge device", "Not required; it tells of a device that shows nothing."],
  ["leakage", "Leakage by clamp", "What flows to earth in use, behind each RCD."],
  ["functional", "Does it work?", "Switches, isolators and buttons, in the order of the walk."],
];

const placeOfCheck = (liveCheck: Check): Place => placeOf(liveCheck.entity, liveCheck.entity_id, liveCheck.field);

export function Checks({ boardId }: { boardId: string }) {
  const checks = useInspection(
    useShallow((s) => s.model?.judgement?.live_checks.filter((liveCheck) => liveCheck.board_id === boardId) ?? []),
  );
  useEffect(() => setOrder(checks.map(placeOfCheck)), [checks]);
  return (
    <StageBody>
      {GROUPS.map(([group, title, lead]) => {
        const here = checks.filter((liveCheck) => liveCheck.group === group);
        if (here.length === 0) return null;
        return (
          <Section key={group} title={title} lead={lead}>
            <Box as="ul" listStyleType="none">
              {here.map((liveCheck) => (
                <Line key={`${liveCheck.entity_id} ${liveCheck.field}`} one={liveCheck} />
              ))}
            </Box>
          </Section>
        );
      })}
    </StageBody>
  );
}

function Line({ one }: { one: Check }) {
  const translate = useTranslate();
  const spec = useFieldSpec(one.entity, one.field);
  const entity = useInspection((s) => s.model?.entities[one.entity_id]);
  const status = useInspection((s) => markAt(s.model?.judgement, one.entity_id, one.field));
  if (!entity || !spec) return null;
  const name = entity.kind === "inspection" ? "Tails" : whereOf(entity);
  const label = translate(spec.label);
  return (
    <Flex as="li" align="center" gap="3" py="1.5" borderTopWidth="1px" borderColor="line">
      <Box flex="1" minW="0">
        <b>{name}</b>
        {" · "}
        {one.group === "functional" ? String(entity.values.kind ?? "") : label}
        {one.hint !== "" && <Box color="quiet">{one.hint}</Box>}
      </Box>
      <Box flex="0 0 7rem">
        <ReadingCell
          place={placeOfCheck(one)}
          label={`${name}, ${label}`}
          check={spec.kind === "choice"}
          status={status}
          boxed
        />
      </Box>
      <Box flex="0 0 2.5rem">{spec.unit}</Box>
    </Flex>
  );
}
