/** A job: why, how far, agreed with whom, when; what it takes and costs; its letters; and where it begins. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { api, answer, type Me, type Schemas } from "../api/client";
import { wordsOf } from "../api/words";
import { add, begin } from "../inspection/sync";
import type { Value } from "../inspection/types";
import form from "../ui/Form.module.css";
import { Mark } from "../ui/Mark";
import { Page } from "../ui/Page";
import css from "../ui/Page.module.css";
import { Loading, Trouble } from "../ui/States";
import { PastLines } from "./PastLines";
import { changeEntry, type Entry, EntryFields, said, saidOf } from "./entry";

type Found = Schemas["JobOut"];

export default function Job({ me }: { me: Me }) {
  const { id = "" } = useParams();
  const query = ["job", id];
  const found = useQuery({ queryKey: query, queryFn: () => answer(api.GET("/api/jobs/{entry_id}", { params: { path: { entry_id: id } } })), staleTime: 0 });
  if (found.isPending) return <Loading what="the job" />;
  if (found.isError) return <Trouble message={wordsOf(found.error)} again={() => found.refetch()} />;
  const { job, property, client } = found.data;
  return (
    <Page
      title={`Job ${said(job, "number")}`}
      trail={[
        [`/client/${client.id}`, said(client, "name") || "Client"],
        [`/property/${property.id}`, said(property, "address") || "Property"],
      ]}
      tools={
        <span className={css.figure}>
          {hours(found.data.estimate.minutes)} · {found.data.estimate.currency}
          {found.data.estimate.price.toFixed(2)}
        </span>
      }
    >
      <Begin me={me} found={found.data} />
      <EntryFields entry={job} query={query} fields={["number", "booked_on", "booked_at", "power_off", "state", "purpose"]} wide={["state", "purpose"]} />
      <h2>Scope</h2>
      <EntryFields entry={job} query={query} fields={["extent", "leave_out", "leave_out_reason", "agreed_with", "agreed_on"]} wide={["extent", "leave_out"]} />
      <h2>Size, time and price</h2>
      <EntryFields entry={job} query={query} fields={["boards", "rings", "radials", "points_opened", "points_tested", "travel_km", "return_visits"]} />
      <Estimate estimate={found.data.estimate} />
      <h2>Letters</h2>
      <div className={form.offers}>
        <a className={`${form.button} ${form.link}`} href={`/api/jobs/${job.id}/confirmation.pdf`} download>
          Confirmation for the client
        </a>
        <a className={`${form.button} ${form.link}`} href={`/api/jobs/${job.id}/power-off.pdf`} download>
          Power-off notice for the occupier
        </a>
      </div>
      <Mail job={job} to={said(client, "email")} query={query} />
    </Page>
  );
}

/** The confirmation by mail, with the notice to hand on. */
function Mail({ job, to, query }: { job: Entry; to: string; query: string[] }) {
  const queries = useQueryClient();
  const [address, setAddress] = useState(to);
  const [trouble, setTrouble] = useState("");
  const [busy, setBusy] = useState(false);
  const send = async () => {
    setBusy(true);
    setTrouble("");
    try {
      await answer(api.POST("/api/jobs/{entry_id}/confirmation", { params: { path: { entry_id: job.id } }, body: { to: address } }));
      await queries.invalidateQueries({ queryKey: query });
    } catch (error) {
      setTrouble(saidOf(error, "to"));
    }
    setBusy(false);
  };
  return (
    <form
      className={css.mail}
      onSubmit={(event) => {
        event.preventDefault();
        void send();
      }}
    >
      <label htmlFor="mail-to">Mail both to</label>
      <input id="mail-to" type="email" value={address} aria-invalid={!!trouble} onChange={(event) => setAddress(event.target.value)} />
      <button type="submit" className={form.button} disabled={busy || !address.trim()}>
        {busy ? "Sending …" : "Send"}
      </button>
      {trouble && (
        <p role="alert" className={css.trouble}>
          {trouble}
        </p>
      )}
      {!!job.values.confirmation_sent && !trouble && <p role="status">Sent to {said(job, "confirmation_sent")}</p>}
    </form>
  );
}

const hours = (minutes: number) => `${Math.floor(minutes / 60)} h ${String(Math.round(minutes % 60)).padStart(2, "0")}`;

function Estimate({ estimate }: { estimate: Found["estimate"] }) {
  const money = (value: number) => `${estimate.currency}${value.toFixed(2)}`;
  return (
    <>
      <div className={css.parts}>
        <table aria-label="Time">
          <tbody>
            {estimate.time
              .filter((part) => part.value > 0)
              .map((part) => (
                <tr key={part.name}>
                  <td>{part.name}</td>
                  <td>{Math.round(part.value)} min</td>
                </tr>
              ))}
          </tbody>
          <tfoot>
            <tr>
              <td>Time</td>
              <td>{hours(estimate.minutes)}</td>
            </tr>
          </tfoot>
        </table>
        <table aria-label="Price">
          <tbody>
            {estimate.parts.map((part) => (
              <tr key={part.name}>
                <td>
                  {part.name} <span className={css.quiet}>{part.how}</span>
                </td>
                <td>{money(part.value)}</td>
              </tr>
            ))}
          </tbody>
          <tfoot>
            <tr>
              <td>Price</td>
              <td>{money(estimate.price)}</td>
            </tr>
          </tfoot>
        </table>
      </div>
      {estimate.too_much_for_a_day && <p className={css.trouble}>That is more than one inspector's day: plan two, or two inspectors.</p>}
      <p className={css.empty}>
        By the house rates, which stand under <Link to="/firm" style={{ textDecoration: "underline" }}>House rules</Link>.
      </p>
    </>
  );
}

function Begin({ me, found }: { me: Me; found: Found }) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const { job, beginnings, inspections, instruments } = found;
  const inUse = instruments.filter((one) => !one.entry.values.retired);
  const trouble = inUse.filter((one) => one.calibration.status === "fail" || one.calibration.status === "attention");
  // What is taken over from the job comes with it.
  const start = async (beginning: Found["beginnings"][number]) => {
    const home = await queries.fetchQuery({ queryKey: ["home"], queryFn: () => answer(api.GET("/api/home")), staleTime: 0 });
    const { house_rules, table_corrections } = home.beginning;
    const values = {
      reference: home.next_reference,
      inspected_on: new Date().toLocaleDateString("sv-SE"),
      ...(house_rules && Object.keys(house_rules).length > 0 && { house_rules }),
      ...(table_corrections?.length && { table_corrections: table_corrections.map((one) => ({ ...one })) }),
      ...(beginning.fields as Record<string, Value>),
    };
    // The server names what is begun: pressed on two devices, it is one inspection.
    const id = begin(me, values, beginning.inspection_id);
    for (const { id: limitation, ...fields } of beginning.limitations) add("limitation", id, fields as Record<string, Value>, String(limitation));
    if (job.values.state === "booked" || job.values.state === "confirmed" || job.values.state === "asked") {
      void changeEntry(job, { state: "booked" });
    }
    navigate(`/inspection/${id}/brief`);
  };
  return (
    <>
      {trouble.map((one) => (
        <p key={one.entry.id} className={css.empty}>
          <Mark status={one.calibration.status} /> {said(one.entry, "name")} {said(one.entry, "serial")}: {one.calibration.reason}
        </p>
      ))}
      <ul className={css.list} style={{ marginBottom: 14 }}>
        <PastLines inspections={inspections} stage="brief" />
      </ul>
      <div className={form.offers}>
        {beginnings.map((beginning) => (
          <button key={beginning.installation_id ?? "whole"} type="button" className={`${form.button} ${form.primary}`} onClick={() => start(beginning)}>
            Begin the inspection{beginning.name ? ` of ${beginning.name}` : ""}
          </button>
        ))}
      </div>
    </>
  );
}
