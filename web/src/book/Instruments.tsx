/** Instruments and lead sets: serial numbers, calibration, accuracy, and what a null should read. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, answer, type Me } from "../api/client";
import { wordsOf } from "../api/words";
import type { Value } from "../inspection/types";
import form from "../ui/Form.module.css";
import { Mark } from "../ui/Mark";
import { Page } from "../ui/Page";
import css from "../ui/Page.module.css";
import { Loading, Trouble } from "../ui/States";
import { addEntry, changeEntry, type Entry, EntryField, EntryFields, said, saidOf } from "./entry";

const QUERY = ["instruments"];
const ACCURACY = ["continuity", "insulation", "loop", "trip"].flatMap((one) => [`${one}_percent`, `${one}_digits`]);

export default function Instruments({ me }: { me: Me }) {
  const queries = useQueryClient();
  const [trouble, setTrouble] = useState("");
  const found = useQuery({ queryKey: QUERY, queryFn: () => answer(api.GET("/api/instruments")), staleTime: 0 });
  if (found.isPending) return <Loading what="the instruments" />;
  if (found.isError) return <Trouble message={wordsOf(found.error)} again={() => found.refetch()} />;
  const act = async (work: () => Promise<unknown>) => {
    try {
      await work();
      setTrouble("");
    } catch (error) {
      setTrouble(saidOf(error, "name"));
    }
    await queries.invalidateQueries({ queryKey: QUERY });
  };
  const make = (kind: Entry["kind"], values: Record<string, Value>) => act(() => addEntry(kind, me.firm_id, values));
  const { instruments, lead_sets } = found.data;
  return (
    <Page title="Instruments">
      {trouble && <p className={css.trouble}>{trouble}</p>}
      {instruments.length === 0 && <p className={css.empty}>No instrument yet. Serial number and calibration go into every report.</p>}
      <ul className={css.list} style={{ marginBottom: 14 }}>
        {instruments.map(({ entry, calibration }) => (
          <li key={entry.id} style={{ padding: "12px 0" }} data-instrument={said(entry, "serial")}>
            <div className={form.title}>
              <span>
                <b>{said(entry, "name") || "New instrument"}</b> <span className={css.quiet}>{said(entry, "serial")}</span>
              </span>
              <span>
                <Mark status={calibration.status} /> {calibration.reason}
              </span>
            </div>
            <EntryFields entry={entry} query={QUERY} fields={["name", "serial", "sort", "bought_on", "calibrated_on", "calibration_due", "certificate", "retired"]} />
            <details className={form.details}>
              <summary>Accuracy, where it differs from the usual</summary>
              <EntryFields entry={entry} query={QUERY} fields={ACCURACY} />
            </details>
            <button type="button" className={form.quiet} onClick={() => act(() => changeEntry(entry, { removed: true }))}>
              Take {said(entry, "name") || "it"} out
            </button>
          </li>
        ))}
      </ul>
      <button type="button" className={`${form.button} ${form.primary}`} onClick={() => make("instrument", {})}>
        Add an instrument
      </button>
      <h2>Lead sets</h2>
      <p className={css.empty}>A null is held against the mean of the accepted ones before it (rule 1.4); until there are some, against what stands here.</p>
      <ul className={css.list} style={{ marginBottom: 14 }}>
        {lead_sets.map(({ entry, known_ohm, nulls }) => (
          <li key={entry.id} style={{ padding: "12px 0" }}>
            <div className={form.group} style={{ marginBottom: 4 }}>
              <EntryField entry={entry} query={QUERY} field="name" />
              <EntryField entry={entry} query={QUERY} field="retired" />
              <EntryField entry={entry} query={QUERY} field="known_ohm" hint="Both tips together, as bought." />
              <div>
                <p className={css.quiet}>Reads now</p>
                <span className={css.figure}>{known_ohm === null ? "–" : `${known_ohm.toFixed(2)} Ω`}</span>{" "}
                <span className={css.quiet}>{nulls ? `mean of ${nulls} accepted ${nulls === 1 ? "null" : "nulls"}` : "no null yet"}</span>
              </div>
            </div>
            <button type="button" className={form.quiet} onClick={() => act(() => changeEntry(entry, { removed: true }))}>
              Take {said(entry, "name") || "it"} out
            </button>
          </li>
        ))}
      </ul>
      <button type="button" className={form.button} onClick={() => make("leads", {})}>
        Add a lead set
      </button>
    </Page>
  );
}
