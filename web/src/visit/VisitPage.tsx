/** The occupier's own page: when we could come, taken by a tap, declined, or answered with other days. */
import { Box, Flex, Heading, Text } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answer, type Schemas } from "../api/client";
import { explain } from "../api/errors";
import { shared, tokenHere } from "../shared/api";
import { Button } from "../ui/Button";
import { Check } from "../ui/CheckField";
import { Fold } from "../ui/Fold";
import { Loading, Told, Trouble } from "../ui/States";
import { TextField } from "../ui/TextField";
import { ThemeButton } from "../ui/ThemeButton";
import { day } from "../ui/when";
import { Wordmark } from "../ui/Wordmark";

type Page = Schemas["OccupierPage"];
type Time = Schemas["OfferedTime"];
type Day = Schemas["ProposeIn"]["days"][number];

const LONG = { weekday: "long", day: "numeric", month: "long" } as const;
const DAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday"] as const;
const clock = (minute: number) =>
  `${String(Math.floor(minute / 60)).padStart(2, "0")}:${String(Math.round(minute) % 60).padStart(2, "0")}`;

export default function VisitPage() {
  const queries = useQueryClient();
  const token = tokenHere();
  const [trouble, setTrouble] = useState("");
  const [busy, setBusy] = useState(false);
  const query = ["visit", token];
  const page = useQuery({
    queryKey: query,
    queryFn: () => answer(shared.GET("/api/shared/visit")),
    retry: false,
    staleTime: 30_000,
  });
  const say = async (call: () => Promise<Page>) => {
    setBusy(true);
    setTrouble("");
    try {
      queries.setQueryData(query, await call());
    } catch (error) {
      setTrouble(explain(error, "Try again in a moment."));
      void page.refetch();
    }
    setBusy(false);
  };
  return (
    <Box as="main" maxW="34rem" mx="auto" px="4" pb="16" pt="3">
      <Flex justify="space-between" align="center" mb="6">
        <Wordmark />
        <ThemeButton />
      </Flex>
      {page.isPending && <Loading what="the page" />}
      {page.isError && <Trouble message={explain(page.error, "Try again in a moment.")} again={() => page.refetch()} />}
      {trouble && <Told trouble>{trouble}</Told>}
      {page.data && <Shown page={page.data} busy={busy} say={say} />}
    </Box>
  );
}

interface ShownProps {
  page: Page;
  busy: boolean;
  say: (call: () => Promise<Page>) => Promise<void>;
}

function Shown({ page, busy, say }: ShownProps) {
  return (
    <>
      <Text color="quiet">{page.firm}</Text>
      <Heading as="h1" fontSize="3xl" mb="2">
        {TITLE[page.state]}
      </Heading>
      {page.address && (
        <Text fontSize="lg" mb="4">
          Electrical inspection of {page.address}.
        </Text>
      )}
      {page.says && <Told>{page.says}</Told>}
      {page.state === "taken" && page.taken && <Taken page={page} time={page.taken} />}
      {page.state === "declined" && <Text fontSize="lg">Thank you for telling us. We call you about another way.</Text>}
      {page.state === "proposed" && <Text fontSize="lg">We look for a time and write to you again.</Text>}
      {page.state === "open" && <Choose page={page} busy={busy} say={say} />}
      <Box mt="8" pt="4" borderTopWidth="1px" borderColor="line">
        <Text>
          Questions? <b>{[page.firm_phone, page.firm_email].filter(Boolean).join(" · ") || page.firm}</b>
        </Text>
        <Text color="quiet" mt="2">
          Does anybody in the home depend on medical equipment? Call us before the day.
        </Text>
      </Box>
    </>
  );
}

const TITLE: Record<Page["state"], string> = {
  open: "When can we come?",
  taken: "We come then",
  declined: "You declined",
  proposed: "You proposed other times",
  ended: "This letter is out of date",
  over: "Nothing to do",
};

function Taken({ page, time }: { page: Page; time: Time }) {
  return (
    <Box>
      <Text fontSize="2xl" fontWeight="700">
        {day(time.day, LONG)}, {clock(time.begins)}
      </Text>
      <Text fontSize="lg" mb="3">
        About {page.hours} hours, with {time.inspector}.
      </Text>
      <Text>
        The power is off for part of the visit{page.power_off && `, about ${page.power_off}`}.{" "}
        {page.must_stay_on && `As agreed, stays on: ${page.must_stay_on}.`}
      </Text>
    </Box>
  );
}

function Choose({ page, busy, say }: ShownProps) {
  return (
    <>
      <Text mb="3">
        It takes about {page.hours} hours. The power is off for part of it
        {page.power_off && `, about ${page.power_off}`}.
      </Text>
      <Box display="grid" gap="3" mb="6">
        {page.times.map((time) => (
          <Button
            key={time.number}
            size="lg"
            variant={time.free ? "action" : "outline"}
            wide
            disabled={busy || !time.free}
            onClick={() => say(() => answer(shared.POST("/api/shared/visit/take", { body: { number: time.number } })))}
          >
            {day(time.day, LONG)}, {clock(time.begins)} to {clock(time.ends)}
            {!time.free && " · not free any more"}
          </Button>
        ))}
      </Box>
      <Fold title="Propose other times …">
        <Propose busy={busy} say={say} />
      </Fold>
      <Fold title="Decline …">
        <Decline busy={busy} say={say} />
      </Fold>
    </>
  );
}

function Propose({ busy, say }: Omit<ShownProps, "page">) {
  const [days, setDays] = useState<Day[]>([]);
  const [words, setWords] = useState("");
  return (
    <Box display="grid" gap="3" mb="6">
      <Flex gap="4" wrap="wrap" role="group" aria-label="Days that suit you">
        {DAYS.map((name) => (
          <Check
            key={name}
            checked={days.includes(name)}
            change={(on) => setDays(DAYS.filter((one) => (one === name ? on : days.includes(one))))}
          >
            {name}
          </Check>
        ))}
      </Flex>
      <TextField label="When it suits you" rows={2} maxLength={500} value={words} change={setWords} />
      <Button
        disabled={busy || (days.length === 0 && !words.trim())}
        onClick={() => say(() => answer(shared.POST("/api/shared/visit/propose", { body: { days, words } })))}
      >
        Send proposal
      </Button>
    </Box>
  );
}

function Decline({ busy, say }: Omit<ShownProps, "page">) {
  const [words, setWords] = useState("");
  return (
    <Box display="grid" gap="3">
      <TextField label="Reason" hint="if you want to say it" rows={2} maxLength={500} value={words} change={setWords} />
      <Button
        disabled={busy}
        onClick={() => say(() => answer(shared.POST("/api/shared/visit/decline", { body: { words } })))}
      >
        Decline all times
      </Button>
    </Box>
  );
}
