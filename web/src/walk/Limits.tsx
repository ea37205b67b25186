/** What was not inspected or tested: how much that is, what gathered by itself, and what was agreed. */
import { Box, Flex, Text } from "@chakra-ui/react";
import type { Schemas } from "../api/client";
import { children } from "../inspection/model";
import { add, useInspection } from "../inspection/open";
import { Agreed } from "../limits/Agreed";
import { Button } from "../ui/Button";
import { Lines, Section } from "../ui/Page";
import { StageBody } from "../ui/StageHead";
import { today } from "../ui/when";

type Limited = Schemas["Limited"];

export function Limits() {
  const model = useInspection((s) => s.model);
  const judgement = model?.judgement;
  if (!model || !judgement) return null;
  const { limited_share: share, limits } = judgement;
  const own = children(model, "limitation", model.id);
  // One thing may be limited in several ways, and each is agreed by itself.
  const agreed = new Set(
    own.map((limitation) => `${String(limitation.values.about_id)}/${String(limitation.values.what)}`),
  );
  const open = (thing: Limited) => !agreed.has(`${thing.entity_id}/${inWords(thing)}`);
  const agree = ({ why, things }: Group) => {
    for (const thing of things.filter(open)) {
      const about = { about_entity: thing.entity, about_id: thing.entity_id };
      const agreed_on = today();
      add("limitation", model.id, { ...about, what: inWords(thing), reason: why, agreed_on });
    }
  };
  return (
    <StageBody>
      <Flex align="baseline" gap="3" wrap="wrap" mb="2">
        <Box fontFamily="mono" fontSize="4xl" fontWeight="bold" lineHeight="tight">
          {Math.round(share.share * 100)} %
        </Box>
        <Text flex="1 1 16rem">
          {share.limited_tests} of {share.tests} tests and {share.limited_points} of {share.points} points are limited.
        </Text>
      </Flex>
      {share.riskiest && <Text mb="2">{share.riskiest}</Text>}
      {share.warning && (
        <Text mb="3" borderLeftWidth="4px" borderColor="ink" pl="2">
          <b>{share.warning}</b>
        </Text>
      )}
      <Section title="From LIM and “no access” entries" lead="Each goes when a result is entered.">
        {limits.length === 0 && <Text color="quiet">Nothing yet.</Text>}
        <Lines>
          {grouped(limits).map((group) => (
            <Box as="li" key={group.what + group.why} borderTopWidth="1px" borderColor="line" py="2">
              <Flex align="center" gap="3" wrap="wrap">
                <Box flex="1 1 14rem">
                  <b>{group.what}</b> · {group.why}
                  <Text color="quiet">{group.whom.join(", ")}</Text>
                </Box>
                {group.things.some(open) && (
                  <Button size="sm" onClick={() => agree(group)}>
                    Agreed with …
                  </Button>
                )}
              </Flex>
            </Box>
          ))}
        </Lines>
      </Section>
      <Agreed />
    </StageBody>
  );
}

const inWords = ({ what, whom }: Limited) => `${what}: ${whom}`;

/** The same with the same reason is one line, with all that it concerns. */
function grouped(limits: readonly Limited[]): Group[] {
  const groups = new Map<string, Group>();
  for (const thing of limits) {
    const { what, why, whom } = thing;
    const there = groups.get(`${what}/${why}`);
    if (there) {
      there.whom.push(whom);
      there.things.push(thing);
    } else groups.set(`${what}/${why}`, { what, why, whom: [whom], things: [thing] });
  }
  return [...groups.values()];
}

interface Group {
  what: string;
  why: string;
  whom: string[];
  things: Limited[];
}
