/** How switches, breakers and isolators stand at a reading: tapped from a list, or in own words. */
import { Box, Flex, Grid } from "@chakra-ui/react";
import { useState } from "react";
import type { Schemas } from "../api/client";
import { useReference } from "../api/reference";
import { stand, usePositionsOf } from "../inspection/positions";
import type { Place } from "../inspection/types";
import { Button } from "../ui/Button";
import { TextField } from "../ui/TextField";

export function Positions({ place, close }: { place: Place; close: () => void }) {
  const choices = useReference()?.positions ?? [];
  const positionWords = usePositionsOf(place);
  const own = positionWords.filter((one) => !choices.some(({ says }) => says === one)).join(", ");
  const [words, setWords] = useState(own);
  const keep = (now: readonly string[]) =>
    stand(
      place,
      now.map((says) => ({ says, lasts: choices.some((position) => position.says === says && position.lasts) })),
    );
  const listed = positionWords.filter((one) => choices.some(({ says }) => says === one));
  const keepOwn = () => {
    if (words.trim() !== own) keep([...listed, ...(words.trim() ? [words.trim()] : [])]);
  };
  const choose = ({ of, says }: Schemas["PositionOut"]) => {
    const rest = positionWords.filter((one) => choices.find((choice) => choice.says === one)?.of !== of);
    keep(positionWords.includes(says) ? rest : [...rest, says]);
  };
  const open = choices.some(({ says, opens }) => opens && positionWords.includes(says));
  return (
    <Box fontSize="sm">
      <Grid role="group" aria-label="Positions" templateColumns="1fr 1fr" gap="1.5" mb="3">
        {choices.map((choice) => (
          <Button
            key={choice.says}
            variant="choice"
            pressed={positionWords.includes(choice.says)}
            onClick={() => choose(choice)}
          >
            {choice.says}
          </Button>
        ))}
      </Grid>
      <Flex gap="2" align="flex-end">
        <Box flex="1">
          <TextField label="In own words" value={words} maxLength={80} change={setWords} leave={keepOwn} />
        </Box>
        <Button
          onClick={() => {
            keepOwn();
            close();
          }}
        >
          Done
        </Button>
      </Flex>
      <Box role="status" minH="2.6em" mt="2" fontWeight="bold">
        {open && "What lies beyond it is not in the reading: a limitation."}
      </Box>
    </Box>
  );
}
