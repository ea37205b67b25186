/** Something to be told in place: what went wrong, what was done, or what is shown only once. */
import { Box } from "@chakra-ui/react";
import type { ReactNode } from "react";

export function Told({ children, trouble }: { children: ReactNode; trouble?: boolean }) {
  return (
    <Box role={trouble ? "alert" : "status"} borderLeftWidth="4px" borderColor="ink" bg={trouble ? undefined : "lampWash"} px="4" py="3" my="4" maxW="46rem">
      {children}
    </Box>
  );
}
