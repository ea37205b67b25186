/** What is still to come back to, said before a cover is closed, before leaving, and before the report is issued. */
import { Box } from "@chakra-ui/react";
import { useToComeBack } from "../inspection/comeBack";
import { ComeBackList } from "./ComeBackList";

/** boardId: only what lies under that board's cover. */
export function ComeBackReminder({ before, boardId }: { before: string; boardId?: string }) {
  const all = useToComeBack();
  const things = boardId ? all.filter((toComeBack) => toComeBack.board_id === boardId) : all;
  if (things.length === 0) return null;
  return (
    <Box
      as="section"
      aria-label={`To come back to ${before}`}
      px="3.5"
      py="2.5"
      my="3"
      bg="lampWash"
      borderLeftWidth="4px"
      borderColor="ink"
    >
      <b>
        {things.length} to come back to {before}
      </b>
      <ComeBackList things={things} />
    </Box>
  );
}
