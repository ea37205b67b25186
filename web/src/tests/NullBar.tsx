/** The leads in use: their last null, whether it is what they should read, and a new one. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, answer } from "../api/client";
import { children } from "../inspection/model";
import { add, useInspection } from "../inspection/sync";
import { Mark } from "../ui/Mark";
import css from "./NullBar.module.css";

export function NullBar() {
  const model = useInspection((s) => s.model);
  const [opened, setOpened] = useState(false);
  const [leads, setLeads] = useState<string | null>(null);
  const [typed, setTyped] = useState("");
  const book = useQuery({ queryKey: ["instruments"], queryFn: () => answer(api.GET("/api/instruments")), retry: false, staleTime: 60_000 });
  if (!model) return null;
  const log = children(model, "lead_null", model.id);
  const last = log.at(-1);
  const note = model.judgement?.notes.find((one) => one.id === last?.id);
  const sets = (book.data?.lead_sets ?? []).filter(({ entry }) => !entry.values.retired);
  const chosen = sets.find(({ entry }) => entry.id === (leads ?? last?.values.leads_id)) ?? sets[0];
  const keep = () => {
    if (!typed.trim()) return;
    add("lead_null", model.id, {
      name: chosen ? String(chosen.entry.values.name ?? "Leads") : "Leads",
      ...(chosen && { leads_id: chosen.entry.id }),
      ...(chosen?.known_ohm != null && { known_ohm: Math.round(chosen.known_ohm * 1000) / 1000 }),
      reading_ohm: typed.trim(),
      nulled_at: new Date().toISOString(),
    });
    setTyped("");
    setOpened(false);
  };
  return (
    <div className={css.bar}>
      <span>
        {last ? (
          <>
            {note ? <Mark status={note.status} /> : <Mark status="pass" />} <b>{String(last.values.name ?? "Leads")}</b> nulled{" "}
            {new Date(String(last.values.nulled_at)).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" })}, <b className={css.figure}>{String(last.values.reading_ohm ?? "")} Ω</b>
            {note && <span className={css.said}> {note.reason}</span>}
          </>
        ) : (
          "Leads not nulled yet on this visit."
        )}
      </span>
      {opened ? (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            keep();
          }}
        >
          {sets.length > 0 && (
            <select aria-label="Lead set" value={chosen?.entry.id} onChange={(event) => setLeads(event.target.value)}>
              {sets.map(({ entry, known_ohm }) => (
                <option key={entry.id} value={entry.id}>
                  {String(entry.values.name ?? "Leads")} {known_ohm != null ? `(reads ${known_ohm.toFixed(2)} Ω)` : ""}
                </option>
              ))}
            </select>
          )}
          <input aria-label="Null reading, Ω" inputMode="decimal" placeholder="Ω" autoFocus value={typed} onChange={(event) => setTyped(event.target.value)} />
          <button type="submit" disabled={!typed.trim()}>
            Keep
          </button>
          <button type="button" onClick={() => setOpened(false)}>
            Leave it
          </button>
        </form>
      ) : (
        <button type="button" onClick={() => setOpened(true)}>
          Null the leads
        </button>
      )}
    </div>
  );
}
