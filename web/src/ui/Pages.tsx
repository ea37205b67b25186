/** How much of a long list is shown, and the rest of it. */
import { Flex, Text } from "@chakra-ui/react";
import { Button } from "./Button";
import { localeOf } from "./when";

interface Props {
  shown: number;
  count: number;
  what: string;
  more: () => void;
  busy?: boolean;
}

export function Pages({ shown, count, what, more, busy }: Props) {
  if (shown >= count) return null;
  return (
    <Flex align="center" gap="4" py="3" wrap="wrap">
      <Text color="quiet">
        {shown} of {count.toLocaleString(localeOf())} {what}
      </Text>
      <Button onClick={more} busy={busy}>
        Show more
      </Button>
    </Flex>
  );
}
