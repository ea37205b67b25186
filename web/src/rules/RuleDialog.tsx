/** A rule of the job as the project's own guide has it: what it asks, its formula, its limits, where it comes from. */
import { Box, Heading, Text } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { api, answer } from "../api/client";
import { remembered } from "../api/remembered";
import { Dialog } from "../ui/Dialog";

export function RuleDialog({ number, close }: { number: string; close: () => void }) {
  const rules = useQuery({
    queryKey: ["rules"],
    queryFn: () => remembered("rules", () => answer(api.GET("/api/rules"))),
    staleTime: Number.POSITIVE_INFINITY,
  });
  // A whole section, `rule 9`, is every rule of it.
  const matching = (rules.data ?? []).filter(
    (rule) => rule.number === number || (!number.includes(".") && rule.number.startsWith(`${number}.`)),
  );
  const [only] = matching;
  return (
    <Dialog
      title={matching.length === 1 && only ? `Rule ${only.number}: ${only.title}` : `Rule ${number}`}
      close={close}
      width="36rem"
    >
      {rules.isPending && <p>Opening the rules …</p>}
      {rules.isError && <p role="alert">The rules cannot be read just now. The verdict is not changed by that.</p>}
      {rules.isSuccess && matching.length === 0 && <p>There is no rule {number} in the guide.</p>}
      {matching.map((rule) => (
        <Box as="section" key={rule.number} pb="4">
          {matching.length > 1 && (
            <Heading as="h2" size="md">
              {rule.number} {rule.title}
            </Heading>
          )}
          {rule.text.map((paragraph, at) =>
            paragraph.startsWith("= ") ? (
              <Text key={at} mt="2" fontFamily="mono" px="2.5" py="1.5" borderLeftWidth="3px" borderColor="line">
                {paragraph.slice(2)}
              </Text>
            ) : (
              <Text key={at} mt="2">
                {paragraph}
              </Text>
            ),
          )}
        </Box>
      ))}
    </Dialog>
  );
}
