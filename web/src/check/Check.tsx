/** Is a paper genuine? For whoever holds one: number and check code, from its square code or typed. */
import { Box, Flex, Heading, Text } from "@chakra-ui/react";
import { useMutation } from "@tanstack/react-query";
import { type FormEvent, useEffect, useState } from "react";
import { api, answer, type Schemas } from "../api/client";
import { explain } from "../api/errors";
import { Button } from "../ui/Button";
import { Told } from "../ui/States";
import { TextField } from "../ui/TextField";
import { day } from "../ui/when";
import { Wordmark } from "../ui/Wordmark";

/** What the square code says, behind the '#': no server, proxy or log on the way gets to see it. */
function fromAddress(): Schemas["CheckIn"] {
  const [reference = "", code = ""] = window.location.hash.slice(1).split("/");
  try {
    return { reference: decodeURIComponent(reference), code };
  } catch {
    return { reference, code };
  }
}

export default function Check() {
  const [given, setGiven] = useState(fromAddress);
  const { mutate, ...asked } = useMutation({
    mutationFn: (body: Schemas["CheckIn"]) => answer(api.POST("/api/check", { body })),
  });
  useEffect(() => {
    const check = fromAddress();
    if (check.reference && check.code) mutate(check);
  }, [mutate]);
  const ask = (event: FormEvent) => {
    event.preventDefault();
    mutate({ reference: given.reference.trim(), code: given.code.trim() });
  };
  return (
    <Box as="main" minH="100dvh" display="grid" placeItems="center" p="5">
      <Box w="full" maxW="30rem">
        <Wordmark large />
        <Heading as="h1" fontSize="xl" mt="8" mb="3">
          Is this paper genuine?
        </Heading>
        <Text mb="5">Number and check code are on page one of the report.</Text>
        <form onSubmit={ask}>
          <Flex direction="column" gap="4">
            <TextField
              label="Number of the report"
              value={given.reference}
              change={(reference) => setGiven({ ...given, reference })}
              maxLength={60}
            />
            <TextField
              label="Check code"
              value={given.code}
              change={(code) => setGiven({ ...given, code })}
              maxLength={40}
              hint="twelve digits and letters, such as 7F3A-91C2-0D4E"
              spellCheck={false}
            />
            <Button
              type="submit"
              variant="action"
              disabled={!given.reference.trim() || !given.code.trim() || asked.isPending}
            >
              Check
            </Button>
          </Flex>
        </form>
        <Box mt="6" aria-live="polite">
          {asked.isError && <Told trouble>{explain(asked.error, "Try again in a moment.")}</Told>}
          {asked.data && <Paper paper={asked.data} />}
        </Box>
      </Box>
    </Box>
  );
}

function Paper({ paper }: { paper: Schemas["CheckedOut"] }) {
  const replaced = paper.replaced_by !== null;
  return (
    <Box
      as="section"
      aria-label="What is known of it"
      borderWidth="2px"
      borderStyle={replaced ? "dashed" : "solid"}
      borderColor="ink"
      borderRadius="lg"
      p="4"
    >
      <Text fontSize="2xl" fontWeight="bold">
        {replaced ? "Genuine, but replaced" : "Genuine"}
      </Text>
      {paper.of === "report" ? (
        <p>
          Issue {paper.number} of {paper.reference}, by {paper.firm}, on {day(paper.issued_at.slice(0, 10))}. Its
          result: <b>{paper.outcome}</b>. If the paper says something else, it was changed.
        </p>
      ) : (
        <p>
          Confirmation {paper.number} to {paper.reference}, by {paper.firm}, on {day(paper.issued_at.slice(0, 10))}:
          everything that the report required is cleared.{" "}
          {!paper.confirmed_on && <b>It was reopened since: ask {paper.firm}.</b>}
        </p>
      )}
      {paper.of === "report" && paper.confirmed_on && paper.outcome === "unsatisfactory" && (
        <Text mt="2">
          Everything that it required is cleared; confirmed on <b>{day(paper.confirmed_on)}</b>.
        </Text>
      )}
      {replaced && (
        <Text mt="2">
          <b>
            {paper.of === "report" ? "Issue" : "Confirmation"} {paper.replaced_by} replaces it.
          </b>{" "}
          Ask {paper.firm} for that one.
        </Text>
      )}
    </Box>
  );
}
