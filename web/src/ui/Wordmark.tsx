/** The name, with its lamp. */
import { Box } from "@chakra-ui/react";

export function Wordmark({ large = false }: { large?: boolean }) {
  return (
    <Box display="flex" alignItems="center" gap="2" fontWeight="700" fontSize={large ? "3xl" : "lg"}>
      <Box
        as="span"
        w={large ? "16px" : "10px"}
        h={large ? "16px" : "10px"}
        borderRadius="full"
        bg="lamp"
        border={large ? "4px solid" : "2.5px solid"}
        borderColor="ink"
      />
      Dorrik
    </Box>
  );
}
