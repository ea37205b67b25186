/** After a report: what is to be put right and how far it is, the law's dates, copies, links and the confirmation. */
import { Box, Flex, Grid, Text } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useParams } from "react-router";
import { api, answer, type Me } from "../api/client";
import { explain } from "../api/errors";
import { LinkButton } from "../ui/Button";
import { Fold } from "../ui/Fold";
import { Page, Section } from "../ui/Page";
import { Loading, Trouble } from "../ui/States";
import { day } from "../ui/when";
import { Confirmation } from "./Confirmation";
import { Copies, Duties } from "./Copies";
import { Cleared } from "./Cleared";
import { ItemCard } from "./ItemCard";
import { Links } from "./Links";
import type { After, Item } from "./steps";

export default function AfterReport({ me }: { me: Me }) {
  const { id = "" } = useParams();
  const queries = useQueryClient();
  const params = { path: { inspection_id: id } };
  const query = ["after", id];
  const afterReport = useQuery({
    queryKey: query,
    queryFn: () => answer(api.GET("/api/inspections/{inspection_id}/after", { params })),
    staleTime: 0,
  });
  if (afterReport.isPending) return <Loading what="what follows the report" />;
  if (afterReport.isError) return <Trouble message={explain(afterReport.error)} again={() => afterReport.refetch()} />;
  const after = afterReport.data;
  const take = (next: After) => queries.setQueryData(query, next);
  const changed = (next?: After) => (next ? take(next) : void afterReport.refetch());
  const counting = after.items.filter((item) => item.counts);
  const advised = after.items.filter((item) => !item.counts);
  const list = (items: Item[]) => (
    <Box as="ul" m="0" p="0">
      {items.map((item) => (
        <ItemCard key={item.id} {...{ after, item }} taken={take} />
      ))}
    </Box>
  );
  return (
    <Page
      wide
      title={after.home || "Report"}
      trail={[["/to-put-right", "To put right"]]}
      tools={
        <Flex gap="2" wrap="wrap">
          <LinkButton to={`/inspection/${id}/report`} variant="quiet">
            Open inspection
          </LinkButton>
          <LinkButton file to={`/api/reports/${after.report.id}.pdf`}>
            Download report
          </LinkButton>
        </Flex>
      }
    >
      <Text color="quiet" mb="4">
        {[after.reference, `issue ${after.report.number}`, after.client, `inspected ${day(after.inspected_on)}`]
          .filter(Boolean)
          .join(" · ")}
      </Text>
      <Grid templateColumns={{ base: "minmax(0, 1fr)", lg: "minmax(0, 1fr) 22rem" }} columnGap="10">
        <Box>
          <Confirmation {...{ me, after }} changed={() => changed()} />
          <Cleared {...{ after }} />
          {counting.length > 0 && (
            <Section
              title="To be cleared"
              tools={
                <LinkButton file size="sm" variant="quiet" to={`/api/inspections/${id}/after/price-request.pdf`}>
                  Sheet for prices
                </LinkButton>
              }
            >
              {list(counting)}
            </Section>
          )}
          {advised.length > 0 && (
            <Fold title={`Worth improving, not required (${advised.length})`} opened={counting.length === 0}>
              {list(advised)}
            </Fold>
          )}
        </Box>
        <Box>
          <Duties duties={after.duties} caution={after.caution} />
          <Copies {...{ after, changed }} />
          <Links
            title="Client's page"
            lead="Result, pictures, dates and what to do, without an account."
            links={after.links}
            name={after.client}
            usually="client"
            mayMake={after.may_send}
            changed={() => changed()}
            make={(body) => answer(api.POST("/api/inspections/{inspection_id}/after/links", { params, body }))}
          />
        </Box>
      </Grid>
    </Page>
  );
}
