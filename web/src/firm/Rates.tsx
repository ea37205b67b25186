/** House rates: how long things take and what they cost, with the usual beside each. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, answer, type Schemas } from "../api/client";
import { explain } from "../api/errors";
import { FieldGrid, Section } from "../ui/Page";
import { Segments } from "../ui/Segments";
import { NumberField } from "../ui/TextField";

type Rates = Schemas["RatesOut"];
type Rate = Rates["rates"][number];

const CURRENCIES = [
  ["£", "£"],
  ["€", "€"],
] as const;

export function Rates() {
  const queries = useQueryClient();
  const [trouble, setTrouble] = useState<Record<string, string>>({});
  const ratesQuery = useQuery({ queryKey: ["rates"], queryFn: () => answer(api.GET("/api/firm/rates")), staleTime: 0 });
  if (!ratesQuery.data) return null;
  const { rates, prices, currency, may_settle } = ratesQuery.data;
  const settle = async (name: string, value: number | string) => {
    const now = (list: readonly Rate[]) => Object.fromEntries(list.map((rate) => [rate.name, rate.value]));
    const body: Schemas["RatesIn"] = { rates: now(rates), prices: { ...now(prices), currency } };
    if (name in body.rates) body.rates[name] = value as number;
    else body.prices[name] = value;
    try {
      queries.setQueryData(["rates"], await answer(api.PUT("/api/firm/rates", { body })));
      setTrouble({});
    } catch (error) {
      setTrouble({ [name]: explain(error, "What you typed is still here.") });
    }
  };
  const shown = (list: readonly Rate[]) => (
    <FieldGrid>
      {list.map((rate) => (
        <RateField
          key={rate.name + rate.value}
          rate={rate}
          disabled={!may_settle}
          settle={settle}
          refused={trouble[rate.name]}
        />
      ))}
    </FieldGrid>
  );
  return (
    <>
      <Section title="How long things take" lead="What a job takes and costs is worked out by these (rule 16.1)." first>
        {shown(rates)}
      </Section>
      <Section
        title="Prices"
        tools={
          may_settle && (
            <Segments
              label="Currency"
              value={currency}
              choices={CURRENCIES}
              change={(sign) => settle("currency", sign)}
            />
          )
        }
      >
        {shown(prices)}
      </Section>
    </>
  );
}

interface RateProps {
  rate: Rate;
  disabled: boolean;
  settle: (name: string, value: number) => void;
  refused?: string;
}

function RateField({ rate, disabled, settle, refused }: RateProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const leave = () => {
    if (typed === null) return;
    const value = Number(typed.replace(",", "."));
    if (typed.trim() !== "" && value !== rate.value) settle(rate.name, Number.isNaN(value) ? -1 : value);
    else setTyped(null);
  };
  return (
    <NumberField
      label={rate.label}
      unit={rate.unit}
      disabled={disabled}
      refused={refused}
      hint={rate.value === rate.usual ? undefined : `usual: ${rate.usual}`}
      value={typed ?? String(rate.value)}
      change={setTyped}
      leave={leave}
    />
  );
}
