/** House rates: how long things take and what they cost, with the usual beside each. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, answer, Refused, type Schemas } from "../api/client";
import form from "../ui/Form.module.css";
import css from "./Firm.module.css";

type Rates = Schemas["RatesOut"];

const CURRENCIES = ["£", "€"];

export function Rates() {
  const queries = useQueryClient();
  const [trouble, setTrouble] = useState<Record<string, string>>({});
  const found = useQuery({ queryKey: ["rates"], queryFn: () => answer(api.GET("/api/firm/rates")), staleTime: 0 });
  if (!found.data) return null;
  const { rates, prices, currency, may_settle } = found.data;
  const settle = async (name: string, value: number | string) => {
    const now = (list: Rates["rates"]) => Object.fromEntries(list.map((one) => [one.name, one.value]));
    const body: Schemas["RatesIn"] = { rates: now(rates), prices: { ...now(prices), currency } };
    if (name in body.rates) body.rates[name] = value as number;
    else body.prices[name] = value;
    try {
      queries.setQueryData(["rates"], await answer(api.PUT("/api/firm/rates", { body })));
      setTrouble({});
    } catch (error) {
      setTrouble({ [name]: error instanceof Refused ? error.message : "The server cannot be reached; that was not settled." });
    }
  };
  const shown = (list: Rates["rates"]) => (
    <div className={form.group}>
      {list.map((one) => (
        <Rate key={one.name + one.value} rate={one} disabled={!may_settle} settle={settle} trouble={trouble[one.name]} />
      ))}
    </div>
  );
  return (
    <section>
      <h2>Rates and prices</h2>
      <p className={css.lead}>What a job takes and costs is worked out by these (rule 16.1).</p>
      {shown(rates)}
      <div className={css.books} role="group" aria-label="Currency">
        {CURRENCIES.map((sign) => (
          <button key={sign} type="button" className={form.button} disabled={!may_settle} aria-pressed={currency === sign} onClick={() => settle("currency", sign)}>
            {sign}
          </button>
        ))}
      </div>
      {shown(prices)}
    </section>
  );
}

function Rate({ rate, disabled, settle, trouble }: { rate: Rates["rates"][number]; disabled: boolean; settle: (name: string, value: number) => void; trouble?: string }) {
  const [typed, setTyped] = useState<string | null>(null);
  const leave = () => {
    if (typed === null) return;
    const value = Number(typed.replace(",", "."));
    if (typed.trim() !== "" && value !== rate.value) settle(rate.name, Number.isNaN(value) ? -1 : value);
    else setTyped(null);
  };
  return (
    <label className={css.part}>
      <b>
        {rate.label} ({rate.unit})
      </b>
      <input inputMode="decimal" disabled={disabled} value={typed ?? String(rate.value)} aria-invalid={!!trouble} onChange={(e) => setTyped(e.target.value)} onBlur={leave} onKeyDown={(e) => e.key === "Enter" && leave()} />
      {trouble ? <small role="alert" className={css.trouble}>{trouble}</small> : rate.value !== rate.usual && <small>usual: {rate.usual}</small>}
    </label>
  );
}
