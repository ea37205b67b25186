/** Second opinions: what waits, without its first code; and how far the firm's people agree. */
import { Box, Flex, Image, Text } from "@chakra-ui/react";
import { useInfiniteQuery, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { v7 as uuidv7 } from "uuid";
import { api, answer, type Me, type Schemas } from "../api/client";
import { explain } from "../api/errors";
import { CodeRow } from "../drawings/CodeRow";
import { deviceId } from "../inspection/device";
import { Button } from "../ui/Button";
import { Page, Section } from "../ui/Page";
import { Pages } from "../ui/Pages";
import { Empty, Loading, Told, Trouble } from "../ui/States";
import { Table } from "../ui/Table";
import { TextField } from "../ui/TextField";
import { tell } from "../ui/tell";
import { moment } from "../ui/when";

type Waiting = Schemas["WaitingOpinion"];

const FIGURES = ["Pairs", "Agree", "Kappa"].map((name) => ({ name, figure: true }));

export default function SecondOpinions({ me }: { me: Me }) {
  const waiting = useInfiniteQuery({
    queryKey: ["second-opinions"],
    initialPageParam: 0,
    queryFn: ({ pageParam }) => answer(api.GET("/api/second-opinions", { params: { query: { start: pageParam } } })),
    getNextPageParam: (last, _, start) => (last.items.length ? start + last.items.length : undefined),
  });
  const agreement = useQuery({ queryKey: ["agreement"], queryFn: () => answer(api.GET("/api/agreement")) });
  if (waiting.isPending || agreement.isPending) return <Loading what="second opinions" />;
  if (waiting.isError) return <Trouble message={explain(waiting.error)} again={() => waiting.refetch()} />;
  if (agreement.isError) return <Trouble message={explain(agreement.error)} again={() => agreement.refetch()} />;
  const asked = waiting.data.pages.flatMap((page) => page.items);
  return (
    <Page title="Second opinions">
      <Section
        title="Waiting for yours"
        first
        lead="You see what was found, not how it was coded. Your view is shown beside the first once you have given it."
      >
        {asked.length === 0 && <Empty title="Nothing waits">An inspector asks for one at the coding desk.</Empty>}
        {asked.map((one) => (
          <Asked key={one.observation_id} one={one} me={me} />
        ))}
        <Pages
          shown={asked.length}
          count={waiting.data.pages.at(-1)?.count ?? 0}
          what="that wait"
          more={() => void waiting.fetchNextPage()}
          busy={waiting.isFetchingNextPage}
        />
      </Section>
      <Section
        title="How far people agree"
        lead="First codes compared with blind second opinions, as they were when the opinion was given. Kappa is the part of agreement that chance does not explain: 1 is all of it."
      >
        {agreement.data.whole ? (
          <>
            <Rates title="The firm" rows={[agreement.data.whole]} />
            <Rates title="By entry, the least agreement first" rows={agreement.data.by_entry} />
            <Rates title="By who gave the first code" rows={agreement.data.by_person} />
          </>
        ) : (
          <Text color="quiet">No second opinion has been given yet.</Text>
        )}
      </Section>
    </Page>
  );
}

function Rates({ title, rows }: { title: string; rows: Schemas["AgreementOut"][] }) {
  return (
    <Box mb="5">
      <Table
        caption={title}
        columns={[{ name: title }, ...FIGURES]}
        rows={rows.map((row) => ({
          key: row.name,
          cells: [
            row.name,
            row.pairs,
            `${Math.round(row.share * 100)} %`,
            row.kappa === null ? "–" : row.kappa.toFixed(2),
          ],
        }))}
      />
    </Box>
  );
}

function Asked({ one, me }: { one: Waiting; me: Me }) {
  const queries = useQueryClient();
  const [code, setCode] = useState<string | null>(null);
  const [reason, setReason] = useState("");
  const [trouble, setTrouble] = useState("");
  const give = async () => {
    const id = uuidv7();
    const made_at = new Date().toISOString();
    const fields = {
      observation: one.observation_id,
      code,
      reason: reason.trim() || null,
      by: me.name,
      given_at: made_at,
    };
    const changes = Object.entries(fields)
      .filter(([, value]) => value !== null)
      .map(([field, value]) => ({
        id: uuidv7(),
        entity: "opinion",
        entity_id: id,
        field,
        value,
        based_on: 0,
        made_at,
        device: deviceId(),
      }));
    try {
      const receipt = await answer(
        api.POST("/api/inspections/{inspection_id}/changes", {
          params: { path: { inspection_id: one.inspection_id } },
          body: { changes },
        }),
      );
      const refused = receipt.results.find((result) => result.state === "refused");
      if (refused) throw new Error(refused.reason ?? "It was refused.");
      tell(`Your view is kept: ${code}.`);
      await queries.invalidateQueries({ queryKey: ["second-opinions"] });
      await queries.invalidateQueries({ queryKey: ["agreement"] });
    } catch (error) {
      setTrouble(explain(error, "What you typed is still here."));
    }
  };
  return (
    <Box as="article" aria-label={one.text ?? "Observation"} borderTopWidth="1px" borderColor="line" py="4">
      <Flex align="baseline" gap="3" wrap="wrap">
        <b>{one.text ?? "No words yet"}</b>
        <Box as="span" color="quiet">
          {[one.place, one.reference, `asked ${moment(one.asked_at)}`].filter(Boolean).join(" · ")}
        </Box>
      </Flex>
      {one.look && <Text color="quiet">{one.look}</Text>}
      <Flex gap="2" wrap="wrap" my="2">
        {one.photos.map((sha256) => (
          <Image
            key={sha256}
            src={`/api/inspections/${one.inspection_id}/photos/${sha256}?size=large`}
            alt="As it was found"
            maxH="15rem"
            borderRadius="md"
            loading="lazy"
          />
        ))}
      </Flex>
      {Object.entries(one.answers).map(([fact, yes]) => (
        <Text key={fact} color="quiet">
          {fact.replaceAll("-", " ")}: {yes ? "yes" : "no"}
        </Text>
      ))}
      <CodeRow label="Your code" chosen={code} choose={setCode} />
      {code && (
        <Flex gap="2" align="flex-end" wrap="wrap">
          <Box flex="1 1 16rem">
            <TextField label={`Why ${code}`} value={reason} change={setReason} maxLength={500} />
          </Box>
          <Button variant="action" onClick={() => void give()}>
            Give it
          </Button>
        </Flex>
      )}
      {trouble && <Told trouble>{trouble}</Told>}
    </Box>
  );
}
