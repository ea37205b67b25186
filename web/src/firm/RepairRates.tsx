/** Rates for putting findings right, each with the usual one beside it, and how the prices are meant. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, answer, type Schemas } from "../api/client";
import { explain } from "../api/errors";
import { Section } from "../ui/Page";
import { NumberField, TextField } from "../ui/TextField";
import { day } from "../ui/when";

type Rates = Schemas["RepairRatesOut"];
type Rate = Rates["rates"][number];
type Part = "price" | "each" | "minutes" | "each_min";

const AT: Record<Rate["at"], string> = {
  thing: "each",
  circuit: "a circuit",
  board: "a board",
  home: "the home",
};

export function RepairRates() {
  const queries = useQueryClient();
  const [trouble, setTrouble] = useState<Record<string, string>>({});
  const repairRates = useQuery({
    queryKey: ["repair-rates"],
    queryFn: () => answer(api.GET("/api/firm/repair-rates")),
    staleTime: 0,
  });
  if (!repairRates.data) return null;
  const { rates, terms, may_settle, currency, settled_on } = repairRates.data;
  const settle = async (at: string, changed: Partial<Record<string, Partial<Record<Part, number>>>>, said = terms) => {
    const all = Object.fromEntries(
      rates.map(({ key, price, each, minutes, each_min }) => [
        key,
        { price, each, minutes, each_min, ...changed[key] } as Record<string, number>,
      ]),
    );
    try {
      queries.setQueryData(
        ["repair-rates"],
        await answer(api.PUT("/api/firm/repair-rates", { body: { rates: all, terms: said } })),
      );
      setTrouble({});
    } catch (error) {
      setTrouble({ [at]: explain(error, "What you typed is still here.") });
    }
  };
  return (
    <Section
      title="Repairs"
      lead={`What putting a finding right costs, with its retest. ${settled_on ? `Settled on ${day(settled_on)}.` : "These are the usual ones."}`}
    >
      <Box maxW="34rem" mb="4">
        <Terms
          key={terms}
          terms={terms}
          disabled={!may_settle}
          refused={trouble.terms}
          save={(terms) => settle("terms", {}, terms)}
        />
      </Box>
      <Box as="ul" listStyleType="none" aria-label="Rates for repairs">
        {rates.map((rate) => (
          <Box as="li" key={rate.key} borderTopWidth="1px" borderColor="line" py="2">
            <Text mb="1">
              <b>{rate.label}</b>{" "}
              <Box as="span" color="quiet">
                {AT[rate.at]}
              </Box>
            </Text>
            <Flex gap="3" wrap="wrap">
              {parts(rate).map((part) => (
                <Box key={part} width="8.5rem">
                  <Figure
                    key={rate[part]}
                    rate={rate}
                    part={part}
                    unit={part.includes("min") ? "min" : currency}
                    disabled={!may_settle}
                    refused={trouble[`${rate.key}.${part}`]}
                    save={(value) => settle(`${rate.key}.${part}`, { [rate.key]: { [part]: value } })}
                  />
                </Box>
              ))}
            </Flex>
          </Box>
        ))}
      </Box>
    </Section>
  );
}

/** What is counted is asked for only where it is: circuits of a board, findings of a home. */
const parts = (rate: Rate): Part[] =>
  rate.usual.each || rate.usual.each_min || rate.each || rate.each_min
    ? ["price", "each", "minutes", "each_min"]
    : ["price", "minutes"];

const WORDS: Record<Part, (rate: Rate) => string> = {
  price: () => "Price",
  each: (rate) => (rate.at === "board" ? "Each circuit" : "Each finding"),
  minutes: () => "Time",
  each_min: (rate) => (rate.at === "board" ? "Time, circuit" : "Time, finding"),
};

interface FigureProps {
  rate: Rate;
  part: Part;
  unit: string;
  disabled: boolean;
  refused?: string;
  save: (value: number) => void;
}

function Figure({ rate, part, unit, disabled, refused, save }: FigureProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const leave = () => {
    if (typed === null) return;
    const value = Number(typed.replace(",", "."));
    if (typed.trim() !== "" && value !== rate[part]) save(Number.isNaN(value) ? -1 : value);
    else setTyped(null);
  };
  const usual = rate.usual[part];
  return (
    <NumberField
      label={WORDS[part](rate)}
      unit={unit}
      disabled={disabled}
      refused={refused}
      hint={rate[part] === usual ? undefined : `usual: ${usual}`}
      value={typed ?? String(rate[part])}
      change={setTyped}
      leave={leave}
    />
  );
}

interface TermsProps {
  terms: string;
  disabled: boolean;
  refused?: string;
  save: (said: string) => void;
}

function Terms({ terms, disabled, refused, save }: TermsProps) {
  const [typed, setTyped] = useState(terms);
  return (
    <TextField
      label="How prices are meant"
      hint="Printed on every offer: whether tax is in them, for instance."
      value={typed}
      change={setTyped}
      leave={() => typed.trim() !== terms && save(typed)}
      disabled={disabled}
      refused={refused}
      maxLength={200}
    />
  );
}
