/** Recorded by two devices, and perhaps one thing: made one of by a tap, with what differs chosen, or told to be two. */
import { Box, Flex, Grid, Text } from "@chakra-ui/react";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../api/client";
import { explain } from "../api/errors";
import { useInspection } from "../inspection/open";
import { Button } from "../ui/Button";
import { Told } from "../ui/States";
import { Choice, Question } from "./Question";
import { joiningNow, useDecide } from "./useCrossings";
import { byWhom, useInWords } from "./words";

type Pair = Schemas["DoubledOut"];

const NAMES: Readonly<Record<string, string>> = {
  board: "board",
  room: "room",
  circuit: "circuit",
  rcd: "RCD",
  bond: "bond",
};

export function Doubled({ pair, seq }: { pair: Pair; seq: number }) {
  const { kind, first, second, differs } = pair;
  const decide = useDecide();
  const words = useInWords();
  const queries = useQueryClient();
  const id = useInspection((s) => s.model?.id ?? "");
  const parent = useInspection((s) => s.model?.entities[second.entity_id]?.parentId ?? "");
  const [chosen, setChosen] = useState<Readonly<Record<string, "first" | "second">>>({});
  const keyOf = ({ entity_id, field }: Pair["differs"][number]) => `${entity_id}.${field}`;
  const open = differs.filter((one) => !chosen[keyOf(one)]);
  const name = NAMES[kind] ?? "thing";
  const [trouble, setTrouble] = useState("");
  const join = async () => {
    try {
      const now = await joiningNow(id, second.entity_id, (one) => keyOf(one) in chosen);
      if (!now) return setTrouble("Something was entered there meanwhile. Look at it again.");
      const taken = now.pair.differs.filter((one) => chosen[keyOf(one)] === "second");
      decide([...taken.map(({ second: value, ...place }) => ({ ...place, value })), ...now.pair.changes], now.seq);
    } catch (error) {
      setTrouble(explain(error));
    } finally {
      void queries.invalidateQueries({ queryKey: ["crossings"] });
    }
  };
  // Put where it is once more by somebody who saw both: they are two.
  const apart = () => decide([{ entity: kind, entity_id: second.entity_id, field: second.field, value: parent }], seq);
  return (
    <Question title={`One ${name}, or two?`}>
      <Grid templateColumns="repeat(auto-fit, minmax(min(14rem, 100%), 1fr))" gap="3" mb="2">
        {[first, second].map((entry) => (
          <Box key={entry.entity_id}>
            <Box fontSize="xl" fontWeight="700" overflowWrap="anywhere">
              {words.where(entry.entity_id)}
            </Box>
            <Box color="quiet">recorded by {byWhom(entry)}</Box>
          </Box>
        ))}
      </Grid>
      {differs.length > 0 && <Text mb="2">If they are one, choose what to keep where the two differ:</Text>}
      {differs.map((one) => (
        <Box key={keyOf(one)} mb="3">
          <Text mb="1">{words.label(one.entity, one.field)}</Text>
          <Grid templateColumns="repeat(auto-fit, minmax(min(14rem, 100%), 1fr))" gap="3">
            {(["first", "second"] as const).map((which) => (
              <Choice
                key={which}
                value={words.value(one[which])}
                line={byWhom(which === "first" ? first : second)}
                act={chosen[keyOf(one)] === which ? "Chosen" : "Choose"}
                marked={chosen[keyOf(one)] === which}
                take={() => setChosen({ ...chosen, [keyOf(one)]: which })}
              />
            ))}
          </Grid>
        </Box>
      ))}
      {trouble && <Told trouble>{trouble}</Told>}
      <Flex gap="3" wrap="wrap" align="center">
        <Button variant="action" disabled={open.length > 0} onClick={() => void join()}>
          One {name}: join them
        </Button>
        <Button onClick={apart}>Two: keep both</Button>
        {open.length > 0 && (
          <Box color="quiet">
            {open.length === 1 ? "One field is still to choose." : `${open.length} fields are still to choose.`}
          </Box>
        )}
      </Flex>
    </Question>
  );
}
