/** A price for repairs: what each finding can be put right with, alternatives beside each other, and the offers made. */
import { Box, Flex, Grid, Heading, Text } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, answer } from "../api/client";
import { explain } from "../api/errors";
import { CodeMark } from "../drawings/Mark";
import { useInspection } from "../inspection/open";
import { Button } from "../ui/Button";
import { StageHead } from "../ui/StageHead";
import { Empty, Loading, Told, Trouble } from "../ui/States";
import { day, hours } from "../ui/when";
import { AlternativeCard } from "./AlternativeCard";
import { isOf, linesOf, money, type Option, type Price as Prices, take, toggle } from "./lines";
import { Offers } from "./Offers";

/** So many stand beside each other at most, as the server has it. */
const ALTERNATIVES = [1, 2, 3];

export default function Price({ close }: { close: () => void }) {
  const id = useInspection((s) => s.model?.id) ?? "";
  const seq = useInspection((s) => s.model?.seq) ?? 0;
  const waiting = useInspection((s) => s.model?.pending.filter((p) => !p.refused).length ?? 0);
  const [chosen, choose] = useState(1);
  const price = useQuery({
    queryKey: ["price", id, seq],
    queryFn: () =>
      answer(api.GET("/api/inspections/{inspection_id}/price", { params: { path: { inspection_id: id } } })),
    enabled: seq > 0 && waiting === 0,
    placeholderData: (before) => before,
    staleTime: 0,
  });
  const since = price.data?.settled_on;
  return (
    <>
      <StageHead
        title="Price for repairs"
        line={price.data && (since ? `firm's rates of ${day(since)}` : "usual rates: the firm has settled none")}
      >
        <Button onClick={close}>Back to observations</Button>
      </StageHead>
      {price.isError ? (
        <Trouble message={explain(price.error)} again={() => void price.refetch()} />
      ) : !price.data ? (
        <Loading what="the prices" />
      ) : (
        <Found prices={price.data} chosen={chosen} choose={choose} again={() => void price.refetch()} />
      )}
    </>
  );
}

interface FoundProps {
  prices: Prices;
  chosen: number;
  choose: (number: number) => void;
  again: () => void;
}

function Found({ prices, chosen, choose, again }: FoundProps) {
  return (
    <Box px="4" pb="7">
      {prices.open.length === 0 && prices.offers.length === 0 && (
        <Empty>Nothing is left to put right. Record an observation first.</Empty>
      )}
      <Grid templateColumns={{ base: "minmax(0, 1fr)", lg: "minmax(0, 3fr) minmax(17rem, 2fr)" }} gap="6">
        <Box as="section" aria-label="What can be done" minW="0">
          {prices.open.map((openItem) => (
            <Finding key={openItem.id} finding={openItem} prices={prices} alternative={chosen} />
          ))}
        </Box>
        <Box minW="0">
          <Choosing prices={prices} chosen={chosen} choose={choose} />
          <Offers prices={prices} again={again} />
        </Box>
      </Grid>
    </Box>
  );
}

interface FindingProps {
  finding: Prices["open"][number];
  prices: Prices;
  alternative: number;
}

function Finding({ finding, prices, alternative }: FindingProps) {
  const options = prices.options.filter((option) => option.clears.includes(finding.id));
  return (
    <Box as="article" aria-label={finding.what || "Observation"} borderTopWidth="1px" borderColor="line" py="3">
      <Flex gap="3" align="center" mb="2">
        <CodeMark code={finding.code || "?"} />
        <Box flex="1" minW="0">
          <b>{finding.what || "No words yet"}</b>
          <Text color="quiet" fontSize="sm">
            {[finding.where, !finding.code && "no code yet", finding.operator && "may be the network operator's"]
              .filter(Boolean)
              .join(" · ")}
          </Text>
        </Box>
      </Flex>
      <Grid templateColumns="repeat(auto-fill, minmax(min(13rem, 100%), 1fr))" gap="2">
        {options.map((option) => (
          <OptionCard key={option.key} option={option} prices={prices} alternative={alternative} />
        ))}
      </Grid>
      {options.length === 0 && (
        <Text color="quiet">Nothing on the list clears it: add the work by hand, or the operator puts it right.</Text>
      )}
    </Box>
  );
}

interface OptionProps {
  option: Option;
  prices: Prices;
  alternative: number;
}

function OptionCard({ option, prices, alternative }: OptionProps) {
  const taken = useInspection((s) => linesOf(alternative, s.model).some((line) => isOf(line, option)));
  const codes = option.clears.map((id) => prices.open.find((openItem) => openItem.id === id)?.code || "?");
  const counted = [...new Set(codes)].map((code) => `${codes.filter((one) => one === code).length} ${code}`);
  return (
    <Button
      variant="choice"
      size="bare"
      pressed={taken}
      wide
      label={`${option.label}, ${option.where}: ${money(prices.currency, option.price)}`}
      onClick={() => toggle(alternative, option)}
    >
      <Box as="span" display="block" flex="1" alignSelf="start" textAlign="start" px="3" py="2.5" whiteSpace="normal">
        <Flex as="span" justify="space-between" gap="2" align="baseline">
          <b>{option.label}</b>
          <Box as="span" fontFamily="mono" fontSize="lg" fontWeight="bold">
            {money(prices.currency, option.price)}
          </Box>
        </Flex>
        <Box as="span" display="block" fontWeight="normal" fontSize="sm">
          {[option.where, `clears ${counted.join(", ")}`, hours(option.minutes)].filter(Boolean).join(" · ")}
        </Box>
        {option.condition && (
          <Box as="span" display="block" fontWeight="normal" fontSize="sm">
            {option.condition}
          </Box>
        )}
      </Box>
    </Button>
  );
}

/** Which alternative is being made up, and how it stands. */
function Choosing({ prices, chosen, choose }: Pick<FoundProps, "prices" | "chosen" | "choose">) {
  const of = (number: number) => prices.alternatives.find((alternative) => alternative.number === number);
  const fill = (keys: readonly string[]) => {
    for (const key of keys) {
      const option = prices.options.find((one) => one.key === key);
      if (option) take(chosen, option);
    }
  };
  const here = of(chosen);
  return (
    <Box as="section" aria-label="Alternatives" mb="6">
      <Heading as="h2" size="md" mb="2">
        Alternatives
      </Heading>
      <Flex gap="2" wrap="wrap" mb="3" role="group" aria-label="Which alternative">
        {ALTERNATIVES.map((number) => (
          <Button key={number} variant="choice" pressed={number === chosen} onClick={() => choose(number)}>
            {`${number} · ${of(number) ? money(prices.currency, of(number)?.price ?? 0) : "empty"}`}
          </Button>
        ))}
      </Flex>
      {here ? (
        <AlternativeCard alternative={here} prices={prices} />
      ) : (
        <>
          <Text mb="2">Tap what is to be done, or begin with a proposal:</Text>
          <Flex gap="2" wrap="wrap">
            {prices.proposals.map((proposal) => (
              <Button key={proposal.name} onClick={() => fill(proposal.options)}>
                {`${proposal.name} · ${money(prices.currency, priceOf(prices, proposal.options))}`}
              </Button>
            ))}
          </Flex>
        </>
      )}
      {!prices.terms && (
        <Told>
          <Text>
            The offer does not say whether tax is in the prices. Settle that under House rules, Rates and prices.
          </Text>
        </Told>
      )}
    </Box>
  );
}

/** What a proposal comes to, by the prices that were served with it. */
const priceOf = (prices: Prices, keys: readonly string[]): number =>
  prices.options.filter((option) => keys.includes(option.key)).reduce((sum, option) => sum + option.price, 0);
