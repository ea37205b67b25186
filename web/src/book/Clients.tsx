/** The firm's clients, and one client with their properties. */
import { useInfiniteQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { api, answer, type Me } from "../api/client";
import { wordsOf } from "../api/words";
import { SearchBox } from "../home/SearchBox";
import form from "../ui/Form.module.css";
import { Page } from "../ui/Page";
import { Pages } from "../ui/Pages";
import css from "../ui/Page.module.css";
import { Loading, Trouble } from "../ui/States";
import { Kept } from "./Kept";
import { addEntry, EntryFields, said, saidOf } from "./entry";

export function Clients({ me }: { me: Me }) {
  const navigate = useNavigate();
  const [trouble, setTrouble] = useState("");
  const clients = useInfiniteQuery({
    queryKey: ["clients"],
    queryFn: ({ pageParam }) => answer(api.GET("/api/clients", { params: { query: { start: pageParam } } })),
    initialPageParam: 0,
    getNextPageParam: (last, all) => (last.entries.length ? all.reduce((sum, one) => sum + one.entries.length, 0) : undefined),
    staleTime: 0,
  });
  if (clients.isPending) return <Loading what="the clients" />;
  if (clients.isError) return <Trouble message={wordsOf(clients.error)} again={() => clients.refetch()} />;
  const shown = clients.data.pages.flatMap((one) => one.entries);
  const count = clients.data.pages[0]?.count ?? 0;
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
      {shown.length === 0 && (
        <p className={css.empty}>No client yet. Begin with who ordered the work; their properties and jobs follow.</p>
      )}
      <ul className={css.list}>
        {shown.map((client) => (
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
      <Pages shown={shown.length} count={count} what="clients" more={() => clients.fetchNextPage()} busy={clients.isFetchingNextPage} />
    </Page>
  );
}

export function Client({ me }: { me: Me }) {
  const { id = "" } = useParams();
  const navigate = useNavigate();
  const [trouble, setTrouble] = useState("");
  const query = ["client", id];
  const found = useInfiniteQuery({
    queryKey: query,
    queryFn: ({ pageParam }) => answer(api.GET("/api/clients/{entry_id}", { params: { path: { entry_id: id }, query: { start: pageParam } } })),
    initialPageParam: 0,
    getNextPageParam: (last, all) => (last.properties.length ? all.reduce((sum, one) => sum + one.properties.length, 0) : undefined),
    staleTime: 0,
  });
  if (found.isPending) return <Loading what="the client" />;
  if (found.isError) return <Trouble message={wordsOf(found.error)} again={() => found.refetch()} />;
  const [first] = found.data.pages;
  if (!first) return null;
  const { client, count } = first;
  const properties = found.data.pages.flatMap((one) => one.properties);
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
      <Pages shown={properties.length} count={count} what="properties" more={() => found.fetchNextPage()} busy={found.isFetchingNextPage} />
      <button type="button" className={form.button} onClick={add}>
        Add a property
      </button>
      <Kept id={client.id} me={me} />
    </Page>
  );
}
