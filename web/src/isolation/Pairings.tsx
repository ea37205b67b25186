/** The pairings to prove dead, way by way: a tap each, or a whole way at once. */
import { Box, Flex, Text, VisuallyHidden } from "@chakra-ui/react";
import type { Schemas } from "../api/client";
import { Button } from "../ui/Button";
import { afterTap, nameOfPairing } from "./pairings";

interface Props {
  wanted: Schemas["PairingsView"][];
  found: Record<string, string>;
  /** Nothing is put where this person may only look. */
  put?: (names: string[], state: string | null) => void;
}

export function Pairings({ wanted, found, put }: Props) {
  return (
    <>
      <Box
        display="grid"
        gridTemplateColumns="repeat(auto-fill, minmax(min(22rem, 100%), 1fr))"
        columnGap="5"
        rowGap="1"
      >
        {wanted.map((row) => {
          const names = row.between.map((between) => nameOfPairing(row.at, between));
          return (
            <Flex key={row.at} wrap="wrap" gap="1" align="center" role="group" aria-label={row.at}>
              <Box as="b" width="4rem" fontSize="sm">
                {row.at}
              </Box>
              {row.between.map((between) => {
                const name = nameOfPairing(row.at, between);
                return (
                  <Pairing
                    key={between}
                    at={row.at}
                    between={between}
                    state={found[name]}
                    tap={put && (() => put([name], afterTap(found[name])))}
                  />
                );
              })}
              <Button
                variant="quiet"
                size="sm"
                disabled={!put || names.every((name) => found[name] === "dead")}
                label={`${row.at}: all dead`}
                onClick={() => put?.(names, "dead")}
              >
                all dead
              </Button>
            </Flex>
          );
        })}
      </Box>
      <Text color="quiet" mt="2">
        A tap: dead. A second tap: live. A third: not tested.
      </Text>
    </>
  );
}

interface PairingProps {
  at: string;
  between: string;
  state: string | undefined;
  tap?: () => void;
}

/** Drawn by weight of ink: outlined where not tested, half where dead, full where live. */
function Pairing({ at, between, state, tap }: PairingProps) {
  const ink = state === "live" ? { bg: "ink", color: "onInk" } : state === "dead" ? { bg: "half" } : { bg: "sheet" };
  return (
    <Button variant="plain" size="bare" disabled={!tap} onClick={() => tap?.()}>
      <Box
        {...ink}
        data-state={state}
        minWidth="58px"
        minHeight="key"
        py="1.5"
        borderWidth="1.5px"
        borderColor={state ? "ink" : "line"}
        borderRadius="md"
        fontFamily="mono"
        fontSize="sm"
        lineHeight="1.15"
        fontWeight={state === "live" ? "bold" : "normal"}
      >
        <VisuallyHidden>{at} </VisuallyHidden>
        {between}{" "}
        <Box as="span" display="block" fontSize="xs" fontWeight={state ? "bold" : "normal"}>
          {state ?? "–"}
        </Box>
      </Box>
    </Button>
  );
}
