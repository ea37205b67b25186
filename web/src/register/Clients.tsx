/** The firm's clients, and one client with their properties. */
import { Box } from "@chakra-ui/react";
import { useInfiniteQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import { api, answer, type Me } from "../api/client";
import { explain } from "../api/errors";
import { Calendars } from "../occupier/Calendars";
import { SearchBox } from "../search/SearchBox";
import { Button, LinkButton } from "../ui/Button";
import { Line, Lines, Page, Section } from "../ui/Page";
import { Pages } from "../ui/Pages";
import { Empty, Loading, Told, Trouble } from "../ui/States";
import { ClientLinks } from "./ClientLinks";
import { Kept } from "./Kept";
import { addEntry, EntryFields, Quiet, textOf } from "./entry";

export function Clients({ me }: { me: Me }) {
  const navigate = useNavigate();
  const [trouble, setTrouble] = useState("");
  const clients = useInfiniteQuery({
    queryKey: ["clients"],
    queryFn: ({ pageParam }) => answer(api.GET("/api/clients", { params: { query: { start: pageParam } } })),
    initialPageParam: 0,
    getNextPageParam: (last, all) =>
      last.entries.length ? all.reduce((sum, one) => sum + one.entries.length, 0) : undefined,
    staleTime: 0,
  });
  if (clients.isPending) return <Loading what="the clients" />;
  if (clients.isError) return <Trouble message={explain(clients.error)} again={() => clients.refetch()} />;
  const shown = clients.data.pages.flatMap((page) => page.entries);
  const count = clients.data.pages[0]?.count ?? 0;
  const add = async () => {
    try {
      navigate(`/client/${(await addEntry("client", me.firm_id, {})).id}`);
    } catch (error) {
      setTrouble(explain(error));
    }
  };
  const make = (
    <Button variant="action" onClick={add}>
      New client
    </Button>
  );
  return (
    <Page title="Clients" tools={make}>
      {trouble && <Told trouble>{trouble}</Told>}
      <SearchBox />
      {shown.length === 0 && (
        <Empty title="No client yet">Begin with who ordered the work; their properties and jobs follow.</Empty>
      )}
      <Lines label="Clients">
        {shown.map((client) => (
          <Line key={client.id} to={`/client/${client.id}`}>
            <Box as="b" flex="1 1 14rem" fontWeight="semibold">
              {textOf(client, "name") || "Unnamed client"}
            </Box>
            <Quiet>{[textOf(client, "address")]}</Quiet>
          </Line>
        ))}
      </Lines>
      <Pages
        shown={shown.length}
        count={count}
        what="clients"
        more={() => clients.fetchNextPage()}
        busy={clients.isFetchingNextPage}
      />
    </Page>
  );
}

export function Client({ me }: { me: Me }) {
  const { id = "" } = useParams();
  const navigate = useNavigate();
  const [trouble, setTrouble] = useState("");
  const query = ["client", id];
  const clients = useInfiniteQuery({
    queryKey: query,
    queryFn: ({ pageParam }) =>
      answer(api.GET("/api/clients/{entry_id}", { params: { path: { entry_id: id }, query: { start: pageParam } } })),
    initialPageParam: 0,
    getNextPageParam: (last, all) =>
      last.properties.length ? all.reduce((sum, one) => sum + one.properties.length, 0) : undefined,
    staleTime: 0,
  });
  if (clients.isPending) return <Loading what="the client" />;
  if (clients.isError) return <Trouble message={explain(clients.error)} again={() => clients.refetch()} />;
  const [first] = clients.data.pages;
  if (!first) return null;
  const { client, count } = first;
  const properties = clients.data.pages.flatMap((page) => page.properties);
  const add = async () => {
    try {
      navigate(`/property/${(await addEntry("property", client.id, {})).id}`);
    } catch (error) {
      setTrouble(explain(error));
    }
  };
  return (
    <Page title={textOf(client, "name") || "New client"} trail={[["/clients", "Clients"]]}>
      <EntryFields
        entry={client}
        query={query}
        fields={["name", "address", "contact", "phone", "email", "notes"]}
        wide={["notes"]}
      />
      <ClientLinks client={client.id} name={textOf(client, "name")} mayMake={me.may.includes("send letters")} />
      <Section title="Calendar" lead="Visits and legal days of this client, read by their own calendar program.">
        <Calendars whose="client" of={client.id} />
      </Section>
      <Section title="Properties" tools={<LinkButton to={`/portfolio/${client.id}`}>Portfolio and map</LinkButton>}>
        {trouble && <Told trouble>{trouble}</Told>}
        <Lines label="Properties">
          {properties.map((home) => (
            <Line key={home.id} to={`/property/${home.id}`}>
              <Box as="b" flex="1 1 14rem" fontWeight="semibold">
                {textOf(home, "address") || "No address yet"}
              </Box>
              <Quiet>{[textOf(home, "tenure"), textOf(home, "occupier_name")]}</Quiet>
            </Line>
          ))}
        </Lines>
        <Pages
          shown={properties.length}
          count={count}
          what="properties"
          more={() => clients.fetchNextPage()}
          busy={clients.isFetchingNextPage}
        />
        <Button onClick={add}>Add a property</Button>
      </Section>
      <Kept id={client.id} me={me} />
    </Page>
  );
}
