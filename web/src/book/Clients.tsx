/** The firm's clients, and one client with their properties. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { api, answer, type Me, Refused } from "../api/client";
import { SearchBox } from "../home/SearchBox";
import form from "../ui/Form.module.css";
import { Page } from "../ui/Page";
import css from "../ui/Page.module.css";
import { Loading, Trouble } from "../ui/States";
import { addEntry, EntryFields, said, saidOf } from "./entry";

export const wordsOf = (error: unknown): string =>
  error instanceof Refused ? error.message : "The server cannot be reached. Nothing was changed.";

/** So many entries a list has at most. */
const MOST = 500;

export function Clients({ me }: { me: Me }) {
  const navigate = useNavigate();
  const [trouble, setTrouble] = useState("");
  const clients = useQuery({ queryKey: ["clients"], queryFn: () => answer(api.GET("/api/clients")), staleTime: 0 });
  if (clients.isPending) return <Loading what="the clients" />;
  if (clients.isError) return <Trouble message={wordsOf(clients.error)} again={() => clients.refetch()} />;
  const add = async () => {
    try {
      navigate(`/client/${(await addEntry("client", me.firm_id, {})).id}`);
    } catch (error) {
      setTrouble(saidOf(error, "name"));
    }
  };
  return (
    <Page
      title="Clients"
      tools={
        <button type="button" className={`${form.button} ${form.primary}`} onClick={add}>
          New client
        </button>
      }
    >
      {trouble && <p className={css.trouble}>{trouble}</p>}
      <SearchBox />
      {clients.data.length === 0 && (
        <p className={css.empty}>No client yet. Begin with who ordered the work; their properties and jobs follow.</p>
      )}
      {clients.data.length >= MOST && <p className={css.empty}>The first {MOST}; the search finds the others.</p>}
      <ul className={css.list}>
        {clients.data.map((client) => (
          <li key={client.id}>
            <Link to={`/client/${client.id}`} className={css.line}>
              <span className={css.grow}>
                <b>{said(client, "name") || "Unnamed client"}</b>
              </span>
              <span className={css.quiet}>{said(client, "address")}</span>
            </Link>
          </li>
        ))}
      </ul>
    </Page>
  );
}

export function Client() {
  const { id = "" } = useParams();
  const navigate = useNavigate();
  const [trouble, setTrouble] = useState("");
  const query = ["client", id];
  const found = useQuery({ queryKey: query, queryFn: () => answer(api.GET("/api/clients/{entry_id}", { params: { path: { entry_id: id } } })), staleTime: 0 });
  if (found.isPending) return <Loading what="the client" />;
  if (found.isError) return <Trouble message={wordsOf(found.error)} again={() => found.refetch()} />;
  const { client, properties } = found.data;
  const add = async () => {
    try {
      navigate(`/property/${(await addEntry("property", client.id, {})).id}`);
    } catch (error) {
      setTrouble(saidOf(error, "address"));
    }
  };
  return (
    <Page title={said(client, "name") || "New client"} trail={[["/clients", "Clients"]]}>
      <EntryFields entry={client} query={query} fields={["name", "address", "contact", "phone", "email", "notes"]} wide={["notes"]} />
      <h2>Properties</h2>
      {trouble && <p className={css.trouble}>{trouble}</p>}
      {properties.length === 0 && <p className={css.empty}>No property yet.</p>}
      {properties.length >= MOST && <p className={css.empty}>The first {MOST}; the search finds the others.</p>}
      <ul className={css.list} style={{ marginBottom: 14 }}>
        {properties.map((home) => (
          <li key={home.id}>
            <Link to={`/property/${home.id}`} className={css.line}>
              <span className={css.grow}>
                <b>{said(home, "address") || "No address yet"}</b>
              </span>
              <span className={css.quiet}>{[said(home, "tenure"), said(home, "occupier_name")].filter(Boolean).join(" · ")}</span>
            </Link>
          </li>
        ))}
      </ul>
      <button type="button" className={form.button} onClick={add}>
        Add a property
      </button>
    </Page>
  );
}
