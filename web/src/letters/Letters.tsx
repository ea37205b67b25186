/** Letters by mail: what waits, what has left, what came back; sent again, or stopped. */
import { Box, Flex, Text } from "@chakra-ui/react";
import { useInfiniteQuery, useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { useSearchParams } from "react-router";
import { MAIL_STATES } from "../after/Copies";
import { api, answer, type Schemas } from "../api/client";
import { explain, explainField } from "../api/errors";
import { Mark, Tick } from "../drawings/Mark";
import { Button } from "../ui/Button";
import { Dialog } from "../ui/Dialog";
import { Line, Lines, Page } from "../ui/Page";
import { Pages } from "../ui/Pages";
import { Empty, Loading, Told, Trouble } from "../ui/States";
import { TextField } from "../ui/TextField";
import { moment } from "../ui/when";

type Letter = Schemas["MailOut"];

export default function Letters() {
  const [search, setSearch] = useSearchParams();
  const troubled = search.get("only") === "trouble";
  const letters = useInfiniteQuery({
    queryKey: ["letters", troubled],
    queryFn: ({ pageParam }) => answer(api.GET("/api/letters", { params: { query: { start: pageParam, troubled } } })),
    initialPageParam: 0,
    getNextPageParam: (last, all) =>
      last.letters.length ? all.reduce((sum, one) => sum + one.letters.length, 0) : undefined,
    staleTime: 0,
  });
  if (letters.isPending) return <Loading what="the letters" />;
  if (letters.isError) return <Trouble message={explain(letters.error)} again={() => letters.refetch()} />;
  const shown = letters.data.pages.flatMap((page) => page.letters);
  return (
    <Page
      title="Letters"
      tools={
        <Flex gap="2" role="group" aria-label="Which letters">
          <Button variant="choice" pressed={!troubled} onClick={() => setSearch({}, { replace: true })}>
            All
          </Button>
          <Button variant="choice" pressed={troubled} onClick={() => setSearch({ only: "trouble" }, { replace: true })}>
            Not arrived
          </Button>
        </Flex>
      }
    >
      {shown.length === 0 && (
        <Empty title={troubled ? "Every letter has arrived" : "No letter yet"}>
          {troubled ? "What is refused, comes back or waits stands here." : "What is mailed from Dorrik stands here."}
        </Empty>
      )}
      <Lines label="Letters">
        {shown.map((letter) => (
          <LetterLine key={letter.id} letter={letter} changed={() => void letters.refetch()} />
        ))}
      </Lines>
      <Pages
        shown={shown.length}
        count={letters.data.pages[0]?.count ?? 0}
        what="letters"
        more={() => letters.fetchNextPage()}
        busy={letters.isFetchingNextPage}
      />
    </Page>
  );
}

function LetterLine({ letter, changed }: { letter: Letter; changed: () => void }) {
  const [open, setOpen] = useState(false);
  const arrived = letter.state === "sent";
  const stop = useMutation({
    mutationFn: () => answer(api.POST("/api/letters/{mail_id}/withdraw", { params: { path: { mail_id: letter.id } } })),
    onSettled: changed,
  });
  return (
    <Line>
      <Box flex="1 1 18rem" minW="0">
        <b>{letter.subject}</b>
        <Text color="quiet" fontSize="sm" overflowWrap="anywhere">
          {letter.kind} to {letter.to} · {moment(letter.made_at)}
          {letter.by && ` · ${letter.by}`}
        </Text>
        {letter.told && <Text>{letter.told}</Text>}
        {letter.state === "waiting" && letter.tries > 0 && (
          <Text fontSize="sm">
            Tried {letter.tries} {letter.tries === 1 ? "time" : "times"}, next at {moment(letter.next_at)}
          </Text>
        )}
        {stop.isError && <Text role="alert">{explain(stop.error)}</Text>}
      </Box>
      <Box fontWeight="bold" whiteSpace="nowrap">
        {arrived ? <Tick /> : <Mark status={letter.state === "waiting" ? "unknown" : "fail"} />}{" "}
        {MAIL_STATES[letter.state] ?? letter.state}
      </Box>
      {!arrived && letter.state !== "leaving" && (
        <Flex gap="2">
          <Button size="sm" onClick={() => setOpen(true)}>
            Send again …
          </Button>
          {letter.state !== "withdrawn" && letter.state !== "bounced" && (
            <Button size="sm" variant="quiet" busy={stop.isPending} onClick={() => stop.mutate()}>
              Stop
            </Button>
          )}
        </Flex>
      )}
      {open && <AgainDialog letter={letter} close={() => setOpen(false)} changed={changed} />}
    </Line>
  );
}

function AgainDialog({ letter, close, changed }: { letter: Letter; close: () => void; changed: () => void }) {
  const [to, setTo] = useState(letter.to);
  const again = useMutation({
    mutationFn: () =>
      answer(
        api.POST("/api/letters/{mail_id}/again", {
          params: { path: { mail_id: letter.id } },
          body: { to: to.trim() === letter.to ? null : to.trim() },
        }),
      ),
    onSuccess: (sent) => {
      changed();
      if (sent.state === "sent") close();
    },
  });
  return (
    <Dialog
      title="Send again"
      close={close}
      footer={
        <>
          <Button variant="quiet" onClick={close}>
            Cancel
          </Button>
          <Button variant="action" busy={again.isPending} disabled={!to.trim()} onClick={() => again.mutate()}>
            Send now
          </Button>
        </>
      }
    >
      {letter.state === "uncertain" && <Text mb="3">It may have left already. Ask whoever it went to.</Text>}
      <TextField
        label="Email"
        type="email"
        maxLength={190}
        value={to}
        change={setTo}
        refused={again.isError ? explainField(again.error, "to") : undefined}
      />
      {again.data && again.data.state !== "sent" && (
        <Told trouble>
          <b>{MAIL_STATES[again.data.state]}.</b> {again.data.told}
        </Told>
      )}
    </Dialog>
  );
}
