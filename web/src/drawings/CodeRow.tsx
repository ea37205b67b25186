/** The five codes side by side; what is chosen is lit. */
import { Box, Flex } from "@chakra-ui/react";
import { useFieldSpec } from "../api/reference";
import { Button } from "../ui/Button";
import { CodeMark } from "./Mark";

interface Props {
  label: string;
  chosen: string | null;
  choose: (code: string) => void;
  disabled?: boolean;
}

export function CodeRow({ label, chosen, choose, disabled }: Props) {
  const codes = useFieldSpec("observation", "code")?.choices ?? [];
  return (
    <Flex gap="2" wrap="wrap" my="3" role="group" aria-label={label}>
      {codes.map((code) => (
        <Button
          key={code}
          variant="plain"
          size="tile"
          pressed={code === chosen}
          disabled={disabled}
          label={code}
          onClick={() => choose(code)}
        >
          <Box
            as="span"
            borderWidth="3px"
            borderColor={code === chosen ? "lamp" : "transparent"}
            borderRadius="md"
            p="0.5"
          >
            <CodeMark code={code} large />
          </Box>
        </Button>
      ))}
    </Flex>
  );
}
