/** How many things there are to come back to, and the way to the list. */
import { Box } from "@chakra-ui/react";
import { showList, useToComeBack } from "../inspection/comeBack";
import { Button } from "../ui/Button";

/** Always in sight while anything is open. */
export function ComeBackButton() {
  const count = useToComeBack().length;
  if (count === 0) return null;
  return (
    <Button size="sm" onClick={() => showList(true)}>
      <b>{count}</b>
      <Box as="span" hideBelow="md">
        to come back to
      </Box>
      <Box as="span" hideFrom="md">
        later
      </Box>
    </Button>
  );
}
