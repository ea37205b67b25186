/** How far a report is: so many of so many cleared, and until when. */
import { Box, Text } from "@chakra-ui/react";
import { day, today } from "../ui/when";
import type { After } from "./steps";

type Part = Pick<After, "cleared" | "counting" | "due" | "confirmed" | "sentence">;

export function Cleared({ after }: { after: Part }) {
  if (after.confirmed) return null;
  if (after.counting === 0)
    return (
      <Text mb="5" fontSize="lg">
        Nothing has to be put right.
      </Text>
    );
  const late = after.due !== null && after.due < today();
  return (
    <Box mb="5">
      <Text fontSize="lg">
        <b>
          {after.cleared} of {after.counting} cleared
        </b>
        {after.due && (
          <>
            , {late ? "was due" : "due"} by <b>{day(after.due)}</b>
          </>
        )}
      </Text>
      <Bar done={after.cleared} of={after.counting} />
    </Box>
  );
}

/** A bar that fills with what is done. */
export function Bar({ done, of, dark }: { done: number; of: number; dark?: boolean }) {
  return (
    <Box
      h="2.5"
      borderRadius="full"
      bg={dark ? "faint" : "half"}
      overflow="hidden"
      mt="2"
      role="img"
      aria-label={`${done} of ${of} done`}
    >
      <Box h="full" bg="lamp" w={`${(100 * done) / Math.max(1, of)}%`} />
    </Box>
  );
}
