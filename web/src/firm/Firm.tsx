/** What the firm has settled once: rule book, house rules, and cells of the reference tables that it reads otherwise. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, answer, Refused, type Schemas } from "../api/client";
import { useReference } from "../api/reference";
import form from "../ui/Form.module.css";
import { type Chosen, HouseRules } from "../ui/HouseRules";
import { Loading, Trouble } from "../ui/States";
import { Corrections } from "./Corrections";
import css from "./Firm.module.css";
import { Letterhead, Retention } from "./Letterhead";
import { Rates } from "./Rates";

type Firm = Schemas["FirmOut"];

export default function FirmScreen() {
  const queries = useQueryClient();
  const firm = useQuery({ queryKey: ["firm"], queryFn: () => answer(api.GET("/api/firm")), staleTime: 0 });
  const reference = useReference();
  const [trouble, setTrouble] = useState<string | null>(null);
  if (firm.isPending || !reference) return <Loading what="the house rules" />;
  if (firm.isError) {
    const said = firm.error instanceof Refused ? firm.error.message : "The server cannot be reached. Nothing was changed.";
    return <Trouble message={said} again={() => firm.refetch()} />;
  }
  const found = firm.data;
  const take = (next: Firm) => queries.setQueryData(["firm"], next);
  const settle = async (rules: Schemas["FirmRules"]) => {
    try {
      take(await answer(api.PUT("/api/firm/rules", { body: rules })));
      setTrouble(null);
    } catch (error) {
      setTrouble(error instanceof Refused ? error.message : "The server cannot be reached; that was not settled.");
    }
  };
  const rules = { rule_book: found.rule_book, house_rules: found.house_rules };
  return (
    <main className={css.page}>
      <header className={css.head}>
        <Link to="/">Home</Link>
        <h1>House rules of {found.name}</h1>
      </header>
      <p className={css.lead}>
        Careful inspectors differ on these. New inspections begin with what stands here, record what they used, and the report says so.
        {!found.may_settle && " A supervisor of your firm settles them."}
      </p>
      {trouble && (
        <p role="alert" className={css.trouble}>
          {trouble}
        </p>
      )}
      <section>
        <h2>Rule book</h2>
        <div className={css.books} role="group" aria-label="Rule book">
          {reference.rule_books.map((book, i) => (
            <button
              key={book.key}
              type="button"
              className={form.button}
              disabled={!found.may_settle}
              aria-pressed={found.rule_book ? found.rule_book === book.key : i === 0}
              onClick={() => settle({ ...rules, rule_book: i === 0 ? null : book.key })}
            >
              {book.nation}: {book.name}
            </button>
          ))}
        </div>
      </section>
      <section>
        <h2>Rules</h2>
        <HouseRules chosen={found.house_rules as Chosen} disabled={!found.may_settle} choose={(next) => settle({ ...rules, house_rules: next })} />
      </section>
      <Rates />
      <Corrections firm={found} take={take} />
      <Letterhead firm={found} take={take} />
      <Retention firm={found} take={take} />
      <p className={css.foot}>{reference.caution}</p>
    </main>
  );
}
