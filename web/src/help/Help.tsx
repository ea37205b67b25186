/** Help: keys, words, and what each verdict rests on; as a screen, and over any other by the key `?`. */
import { Box, Flex, Grid, Heading, Text } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, answer } from "../api/client";
import { explain } from "../api/errors";
import { Mark } from "../drawings/Mark";
import { RuleDialog } from "../rules/RuleDialog";
import { Button } from "../ui/Button";
import { Key } from "../ui/Key";
import { Page } from "../ui/Page";
import { Progress, Told } from "../ui/States";
import { Tabs } from "../ui/Tabs";
import { TextField } from "../ui/TextField";
import { KEYS } from "./keys";

export default function Help() {
  return (
    <Page title="Help">
      <HelpParts />
    </Page>
  );
}

export function HelpParts() {
  const [part, setPart] = useState("keys");
  return (
    <Tabs
      label="Help"
      chosen={part}
      choose={setPart}
      parts={[
        { key: "keys", name: "Keys", children: <Keys /> },
        { key: "words", name: "Words", children: <Terms /> },
        { key: "rules", name: "Verdicts and rules", children: <Rules /> },
      ]}
    />
  );
}

function Keys() {
  return (
    <Grid templateColumns={{ base: "1fr", md: "1fr 1fr" }} columnGap="10" rowGap="4">
      {KEYS.map(([where, keys]) => (
        <Box as="section" key={where} aria-label={where}>
          <Heading as="h2" size="md" mb="1">
            {where}
          </Heading>
          <Box as="dl">
            {keys.map(([key, does]) => (
              <Flex key={key} gap="3" py="1" align="baseline">
                <Box as="dt" w="7.5rem" flex="none">
                  <Key>{key}</Key>
                </Box>
                <Box as="dd" m="0">
                  {does}
                </Box>
              </Flex>
            ))}
          </Box>
        </Box>
      ))}
    </Grid>
  );
}

function Terms() {
  const [text, setText] = useState("");
  const guide = useQuery({
    queryKey: ["terms"],
    queryFn: () => answer(api.GET("/api/terms")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  if (guide.isError) return <Told trouble>{explain(guide.error)}</Told>;
  if (!guide.data) return <Progress label="Loading …" />;
  const wanted = text.trim().toLowerCase();
  const groups = guide.data.map((group) => ({
    ...group,
    terms: group.terms.filter((term) => `${term.word} ${term.means}`.toLowerCase().includes(wanted)),
  }));
  return (
    <>
      <Box maxW="24rem" mb="4">
        <TextField label="Find a word" value={text} change={setText} maxLength={40} />
      </Box>
      {groups
        .filter((group) => group.terms.length > 0)
        .map((group) => (
          <Box as="section" key={group.title} aria-label={group.title} mb="4">
            <Heading as="h2" size="md" mb="1">
              {group.title}
            </Heading>
            <Box as="dl">
              {group.terms.map((term) => (
                <Flex key={term.word} gap="3" py="1" wrap="wrap">
                  <Box as="dt" w="11rem" flex="none" fontWeight="bold">
                    {term.word}
                  </Box>
                  <Box as="dd" m="0" flex="1 1 14rem">
                    {term.means}
                  </Box>
                </Flex>
              ))}
            </Box>
          </Box>
        ))}
    </>
  );
}

const VERDICTS = ["pass", "attention", "fail", "unknown"] as const;

function Rules() {
  const [open, setOpen] = useState("");
  const [text, setText] = useState("");
  const rules = useQuery({
    queryKey: ["rules"],
    queryFn: () => answer(api.GET("/api/rules")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const terms = useQuery({
    queryKey: ["terms"],
    queryFn: () => answer(api.GET("/api/terms")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  if (rules.isError) return <Told trouble>{explain(rules.error)}</Told>;
  if (!rules.data) return <Progress label="Loading …" />;
  const verdicts = terms.data?.find((group) => group.title === "Verdicts")?.terms ?? [];
  const wanted = text.trim().toLowerCase();
  const shown = rules.data.filter((one) =>
    `${one.number} ${one.title} ${one.text.join(" ")}`.toLowerCase().includes(wanted),
  );
  return (
    <>
      {VERDICTS.map((status, at) => (
        <Flex key={status} gap="3" py="1" align="baseline">
          <Mark status={status} size={16} />
          <Text>
            <b>{verdicts[at]?.word}</b>: {verdicts[at]?.means}
          </Text>
        </Flex>
      ))}
      <Text color="quiet" my="3">
        Each note names its rule. Limits are those of the rule book; check them against your own copy.
      </Text>
      <Box maxW="24rem" mb="3">
        <TextField label="Find a rule" value={text} change={setText} maxLength={40} />
      </Box>
      <Box as="ul" listStyleType="none" m="0" p="0" aria-label="Rules">
        {shown.map((one) => (
          <li key={one.number}>
            <Button variant="quiet" onClick={() => setOpen(one.number)}>
              {one.number} {one.title}
            </Button>
          </li>
        ))}
      </Box>
      {open && <RuleDialog number={open} close={() => setOpen("")} />}
    </>
  );
}
