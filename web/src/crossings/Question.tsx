/** A question of what to keep, and one of its answers. */
import { Box, Flex, Text } from "@chakra-ui/react";
import type { ReactNode } from "react";
import { Button } from "../ui/Button";

/** One question, with what is asked above its answers. */
export function Question({ title, children }: { title: ReactNode; children: ReactNode }) {
  return (
    <Box as="section" borderTopWidth="1px" borderColor="line" py="3">
      <Text as="h3" fontWeight="700" mb="2">
        {title}
      </Text>
      {children}
    </Box>
  );
}

interface ChoiceProps {
  value: string;
  line: string;
  act: string;
  /** It is what stands at present, or what was chosen. */
  marked: boolean;
  take: () => void;
}

/** One of the answers: the value as the largest thing, who said so under it, and the tap that takes it. */
export function Choice({ value, line, act, marked, take }: ChoiceProps) {
  return (
    <Flex
      direction="column"
      gap="1"
      p="3"
      borderWidth={marked ? "2px" : "1px"}
      borderColor={marked ? "ink" : "line"}
      borderRadius="lg"
    >
      <Box fontSize="2xl" fontWeight="700" fontVariantNumeric="tabular-nums" overflowWrap="anywhere">
        {value}
      </Box>
      <Box color="quiet" flex="1">
        {line}
      </Box>
      <Button label={`${act}: ${value}, ${line}`} onClick={take}>
        {act}
      </Button>
    </Flex>
  );
}
