/** The leads in use: their last null, whether it is what they should read, and a new one. */
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, answer } from "../api/client";
import { remembered } from "../api/remembered";
import { Mark } from "../drawings/Mark";
import { children } from "../inspection/model";
import { add, useInspection } from "../inspection/open";
import { nullSeen, useReadingSource } from "../inspection/readingSource";
import { Button, LinkButton } from "../ui/Button";
import { SelectField } from "../ui/SelectField";
import { StageLine } from "../ui/StageHead";
import { NumberField } from "../ui/TextField";
import { clock } from "../ui/when";
import css from "./NullBar.module.css";

export function NullBar() {
  const model = useInspection((s) => s.model);
  const [opened, setOpened] = useState(false);
  const [leads, setLeads] = useState<string | null>(null);
  const [typed, setTyped] = useState("");
  const shown = useReadingSource((s) => s.nulled);
  const figure = shown ?? typed;
  const register = useQuery({
    queryKey: ["instruments"],
    queryFn: () => remembered("instruments", () => answer(api.GET("/api/instruments"))),
    retry: false,
    staleTime: 60_000,
  });
  if (!model) return null;
  const { house_rules: rules, leads_ohm: subtracted } = model.entities[model.id]?.values ?? {};
  if ((rules as Record<string, unknown> | undefined)?.lead_method === "subtracted")
    return (
      <StageLine>
        {subtracted == null ? (
          <b>Leads are subtracted here, and nobody has said what they read.</b>
        ) : (
          <span>
            Leads are subtracted, not nulled: <b>{String(subtracted)} Ω</b> less at every continuity reading.
          </span>
        )}
        <LinkButton size="sm" to={`/inspection/${model.id}/brief`}>
          {subtracted == null ? "Say it" : "Change"}
        </LinkButton>
      </StageLine>
    );
  const log = children(model, "lead_null", model.id);
  const last = log.at(-1);
  const note = model.judgement?.notes.find((one) => one.id === last?.id);
  const sets = (register.data?.lead_sets ?? []).filter(({ entry }) => !entry.values.retired);
  const chosen = sets.find(({ entry }) => entry.id === (leads ?? last?.values.leads_id)) ?? sets[0];
  const leave = () => {
    nullSeen();
    setTyped("");
    setOpened(false);
  };
  const enter = (reading: string | null) => {
    add("lead_null", model.id, {
      name: chosen ? String(chosen.entry.values.name ?? "Leads") : "Leads",
      ...(chosen && { leads_id: chosen.entry.id }),
      ...(chosen?.known_ohm != null && { known_ohm: Math.round(chosen.known_ohm * 1000) / 1000 }),
      ...(reading !== null && { reading_ohm: reading }),
      nulled_at: new Date().toISOString(),
    });
    leave();
  };
  const keep = (event: FormEvent) => {
    event.preventDefault();
    if (figure.trim()) enter(figure.trim());
  };
  return (
    <StageLine>
      <span>
        {last && last.values.reading_ohm == null ? (
          <>
            <Mark status={note?.status ?? "attention"} /> <b>{String(last.values.name ?? "Leads")}</b> since{" "}
            {clock(String(last.values.nulled_at))}, <b>not nulled yet.</b>
            {last.values.known_ohm != null && ` Should read ${Number(last.values.known_ohm).toFixed(2)} Ω.`}
          </>
        ) : last ? (
          <>
            <Mark status={note?.status ?? "pass"} /> <b>{String(last.values.name ?? "Leads")}</b> nulled{" "}
            {clock(String(last.values.nulled_at))}, <b data-figure>{String(last.values.reading_ohm ?? "")} Ω</b>
            {note && <b> {note.reason}</b>}
          </>
        ) : (
          "Leads not nulled yet on this visit."
        )}
      </span>
      {opened || shown !== null ? (
        <form onSubmit={keep}>
          <div className={css.form}>
            {sets.length > 0 && (
              <div className={css.leads}>
                <SelectField
                  quiet
                  label="Lead set"
                  value={chosen?.entry.id ?? ""}
                  choices={sets.map(({ entry, known_ohm: known }) => [
                    entry.id,
                    `${String(entry.values.name ?? "Leads")} ${known == null ? "" : `(reads ${known.toFixed(2)} Ω)`}`,
                  ])}
                  change={setLeads}
                />
              </div>
            )}
            <div className={css.figure}>
              <NumberField
                quiet
                label="Null reading, Ω"
                placeholder="Ω"
                // Opened on purpose the figure is what comes next; a null that was shown takes nobody's place.
                autoFocus={opened}
                value={figure}
                change={(to) => {
                  nullSeen();
                  setOpened(true);
                  setTyped(to);
                }}
              />
            </div>
            <Button type="submit" disabled={!figure.trim()}>
              Keep
            </Button>
            {last && !figure.trim() && (
              <Button onClick={() => enter(null)} title="Leads or tips were changed; they are nulled later">
                Changed, null later
              </Button>
            )}
            <Button onClick={leave}>Leave it</Button>
          </div>
        </form>
      ) : (
        <Button size="sm" onClick={() => setOpened(true)}>
          Null the leads
        </Button>
      )}
    </StageLine>
  );
}
