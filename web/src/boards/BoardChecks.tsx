/** What is looked at on a board: a tap each, and from "not good" straight to its observation. */
import { Box, Flex } from "@chakra-ui/react";
import { CHECK_STATES } from "../api/declared.gen";
import { useReference } from "../api/reference";
import { observe } from "../inspection/desk";
import { children } from "../inspection/model";
import { add, setField, useInspection } from "../inspection/open";
import type { Entity } from "../inspection/types";
import { Button } from "../ui/Button";
import { Section } from "../ui/Page";
import { answerWord } from "../inspection/words";

export function BoardChecks({ board }: { board: Entity }) {
  const model = useInspection((s) => s.model);
  const items = useReference()?.board_checks ?? [];
  if (!model) return null;
  const made = children(model, "check", board.id);
  const notes = model.judgement?.notes ?? [];
  const stateOf = (item: string) => made.find((check) => check.values.item === item);
  const set = (item: string, state: string) => {
    const check = stateOf(item);
    if (!check) add("check", board.id, { item, state });
    else setField({ kind: "check", id: check.id, field: "state" }, check.values.state === state ? null : state);
  };
  const left = items.filter((item) => !stateOf(item.key)?.values.state);
  return (
    <Box px="4" pb="7">
      <Section
        title="Looked at"
        tools={
          <Flex align="center" gap="3">
            <Box as="span" color="quiet">
              {left.length ? `${left.length} left` : "all of it"}
            </Box>
            {left.length > 1 && (
              <Button variant="quiet" onClick={() => left.forEach((item) => set(item.key, "good"))}>
                Mark rest OK
              </Button>
            )}
          </Flex>
        }
      >
        <Box
          as="ul"
          listStyleType="none"
          display="grid"
          gridTemplateColumns="repeat(auto-fill, minmax(min(24rem, 100%), 1fr))"
          columnGap="7"
        >
          {items.map((item) => {
            const check = stateOf(item.key);
            const state = check?.values.state;
            const recorded = notes.some((note) => note.id === check?.id && note.on_record);
            const raise = () => observe({ kind: "check", id: check?.id ?? board.id, raise: item.observation || null });
            return (
              <Flex
                as="li"
                key={item.key}
                wrap="wrap"
                align="center"
                columnGap="2.5"
                rowGap="1"
                py="1"
                borderBottomWidth="1px"
                borderColor="line"
              >
                <Box as="span" flex="1 1 8rem">
                  {item.label}
                </Box>
                <Flex role="group" aria-label={item.label} gap="1">
                  {CHECK_STATES.map((one) => (
                    <Button key={one} variant="choice" pressed={state === one} onClick={() => set(item.key, one)}>
                      {answerWord(one)}
                    </Button>
                  ))}
                </Flex>
                {state === "not good" && (
                  <Flex flexBasis="100%" justify="flex-end">
                    {recorded ? (
                      <Box as="span" color="quiet">
                        observation recorded
                      </Box>
                    ) : (
                      <Button onClick={raise}>Observation</Button>
                    )}
                  </Flex>
                )}
              </Flex>
            );
          })}
        </Box>
      </Section>
    </Box>
  );
}
