/** A portfolio, of a client or of the firm: where each property stands, what comes next and who has it; and its map. */
import { Box, Flex, Grid, Text } from "@chakra-ui/react";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { api, answer, type Schemas } from "../api/client";
import { explain } from "../api/errors";
import { Button, LinkButton } from "../ui/Button";
import { Dialog } from "../ui/Dialog";
import { useNarrow } from "../ui/layout";
import { Page } from "../ui/Page";
import { Empty, Loading, Trouble } from "../ui/States";
import { Filters } from "./Filters";
import { ImportTable } from "./ImportTable";
import { PropertyList } from "./PropertyList";
import { PropertyMap } from "./PropertyMap";
import { asked, useLooked } from "./query";

type PortfolioOut = Schemas["PortfolioOut"];

export default function Portfolio() {
  const { client = "" } = useParams();
  const narrow = useNarrow();
  const [looked, look] = useLooked();
  const [importing, setImporting] = useState(false);
  const [lit, setLit] = useState("");
  const whose = client ? { client_id: client } : {};
  const query = { ...whose, ...asked(looked) };
  const first = useQuery({
    queryKey: ["portfolio", client, asked(looked), 0],
    queryFn: () => answer(api.GET("/api/portfolio", { params: { query } })),
    placeholderData: keepPreviousData,
    staleTime: 2000,
  });
  if (first.isPending) return <Loading what="the portfolio" lines={8} />;
  if (first.isError) return <Trouble message={explain(first.error)} again={() => first.refetch()} />;
  const portfolio = first.data;
  return (
    <Page
      wide
      title={client ? portfolio.title : "Portfolio"}
      trail={client ? [["/portfolio", "Portfolio"]] : []}
      tools={
        <Flex gap="2" wrap="wrap">
          <LinkButton to="/planner">Planner</LinkButton>
          {client && <Button onClick={() => setImporting(true)}>Import table …</Button>}
          {client && (
            <LinkButton file to={`/api/portfolio/${client}/month.pdf`}>
              Monthly page
            </LinkButton>
          )}
          <LinkButton file to={`/api/portfolio.csv${client ? `?client_id=${client}` : ""}`}>
            Export CSV
          </LinkButton>
        </Flex>
      }
    >
      <Standing portfolio={portfolio} />
      {portfolio.total === 0 ? (
        <Empty title="No property yet">
          {client ? "Import a table of this client's properties, or add them one by one." : "Add a client first."}
        </Empty>
      ) : (
        <>
          <Filters looked={looked} look={look} portfolio={portfolio} />
          <Grid templateColumns={{ base: "minmax(0, 1fr)", lg: "minmax(0, 1fr) 24rem" }} columnGap="6">
            <PropertyList client={client} looked={looked} portfolio={portfolio} lit={lit} light={setLit} />
            {!narrow && <PropertyMap client={client} looked={looked} lit={lit} light={setLit} />}
          </Grid>
        </>
      )}
      {client && importing && (
        <Dialog title={`Import properties of ${portfolio.title}`} width="64rem" close={() => setImporting(false)}>
          <ImportTable client={client} done={() => first.refetch()} close={() => setImporting(false)} />
        </Dialog>
      )}
    </Page>
  );
}

/** How it stands as a whole, in one line, and what the law says. */
function Standing({ portfolio }: { portfolio: PortfolioOut }) {
  const missing = [
    portfolio.unplaced > 0 && `${portfolio.unplaced} without coordinates`,
    portfolio.doubtful > 0 && `${portfolio.doubtful} with coordinates that cannot be right`,
  ].filter(Boolean);
  return (
    <Box mb="4">
      <Text fontSize="lg">
        <b>
          {portfolio.total.toLocaleString()} {portfolio.total === 1 ? "property" : "properties"}
        </b>
        {portfolio.late > 0 && <b>, {portfolio.late} late</b>}
        {missing.length > 0 && (
          <Box as="span" color="quiet">
            {" "}
            · {missing.join(", ")}
          </Box>
        )}
      </Text>
      {portfolio.laws.length > 0 && (
        <Text color="quiet" fontSize="sm">
          {portfolio.laws.map((law) => `Let homes in ${law.nation}: ${law.says}`).join(" · ")}. {portfolio.caution}
        </Text>
      )}
    </Box>
  );
}
