/** A property: where it is, how one gets in, its installations, its jobs, and every inspection it has had. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { api, answer } from "../api/client";
import { wordsOf } from "../api/words";
import type { Value } from "../inspection/types";
import form from "../ui/Form.module.css";
import { Page } from "../ui/Page";
import css from "../ui/Page.module.css";
import { Loading, Trouble } from "../ui/States";
import { PastLines } from "./PastLines";
import { addEntry, changeEntry, type Entry, EntryField, EntryFields, said, saidOf, shownDay } from "./entry";

export default function Property() {
  const { id = "" } = useParams();
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [trouble, setTrouble] = useState("");
  const query = ["property", id];
  const found = useQuery({ queryKey: query, queryFn: () => answer(api.GET("/api/properties/{entry_id}", { params: { path: { entry_id: id } } })), staleTime: 0 });
  if (found.isPending) return <Loading what="the property" />;
  if (found.isError) return <Trouble message={wordsOf(found.error)} again={() => found.refetch()} />;
  const { property, client, installations, jobs, inspections, next_number } = found.data;
  const make = async (kind: Entry["kind"], values: Record<string, Value>) => {
    try {
      const made = await addEntry(kind, property.id, values);
      if (kind === "job") navigate(`/job/${made.id}`);
      await queries.invalidateQueries({ queryKey: query });
    } catch (error) {
      setTrouble(saidOf(error, "number"));
    }
  };
  const remove = async (entry: Entry) => {
    await changeEntry(entry, { removed: true });
    await queries.invalidateQueries({ queryKey: query });
  };
  const about = (
    <section key="about">
      <EntryFields entry={property} query={query} fields={["address", "nation", "tenure", "built_year", "rewired_year"]} wide={["address", "nation", "tenure"]} />
      <h2>Occupier and access</h2>
      <EntryFields
        entry={property}
        query={query}
        fields={["occupier_name", "occupier_phone", "occupier_email", "must_stay_on", "key_place", "parking", "access", "notes"]}
        wide={["access", "notes"]}
      />
    </section>
  );
  const work = (
    <section key="work">
      <h2>Jobs</h2>
      <ul className={css.list} style={{ marginBottom: 14 }}>
        {jobs.map((job) => (
          <li key={job.id}>
            <Link to={`/job/${job.id}`} className={css.line}>
              <b>{said(job, "number") || "no number"}</b>
              <span className={css.grow}>{[said(job, "purpose"), said(job, "booked_on") && `booked for ${shownDay(said(job, "booked_on"))}`].filter(Boolean).join(" · ")}</span>
              <span className={css.quiet}>{said(job, "state")}</span>
            </Link>
          </li>
        ))}
      </ul>
      <button type="button" className={`${form.button} ${form.primary}`} onClick={() => make("job", { number: next_number, state: "asked", purpose: "periodic" })}>
        New job {next_number}
      </button>
      <h2>Inspections</h2>
      {inspections.length === 0 && <p className={css.empty}>None yet. A job begins one for each installation.</p>}
      <ul className={css.list}>
        <PastLines inspections={inspections} stage="report" />
      </ul>
    </section>
  );
  return (
    <Page title={said(property, "address") || "New property"} trail={[["/clients", "Clients"], [`/client/${client.id}`, said(client, "name") || "Client"]]}>
      {trouble && <p className={css.trouble}>{trouble}</p>}
      {/* Who looks a home up wants its work first; a new one is described first. */}
      {said(property, "address") ? [work, about] : [about, work]}
      <h2>Installations</h2>
      <p className={css.empty}>Each has its own report: the house, or an outbuilding with its own earthing.</p>
      <ul className={css.list} style={{ marginBottom: 14 }}>
        {installations.map((one) => (
          <li key={one.id} style={{ padding: "12px 0" }}>
            <div className={form.group} style={{ marginBottom: 4 }}>
              <EntryField entry={one} query={query} field="name" />
              <EntryField entry={one} query={query} field="supplied_from" hint="Where it is fed from, if not from the service." />
              <EntryField entry={one} query={query} field="earthing" />
            </div>
            <button type="button" className={form.quiet} onClick={() => remove(one)}>
              Take {said(one, "name") || "it"} out
            </button>
          </li>
        ))}
      </ul>
      <button type="button" className={form.button} onClick={() => make("installation", { name: installations.length ? "Outbuilding" : "House" })}>
        Add an installation
      </button>
    </Page>
  );
}
