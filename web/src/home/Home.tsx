/** Home: what is in hand, what has been issued and when it is due again. */
import { Box, Button, Flex, Heading, Text } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, answer, type Me, Refused, type Schemas } from "../api/client";
import { begin, flushAll, waitingElsewhere } from "../inspection/sync";
import { SearchBox } from "./SearchBox";
import { Wordmark } from "../signin/SignIn";
import { useTheme } from "../theme/useTheme";
import { Mark } from "../ui/Mark";
import { Pages } from "../ui/Pages";
import { Loading, Trouble } from "../ui/States";

const BOOK = [
  ["/clients", "Clients", null],
  ["/instruments", "Instruments", null],
  ["/firm", "House rules and rates", null],
  ["/people", "People", "manage people"],
  ["/audit", "Audit log", "read the audit log"],
] as const;

type Line = Schemas["InspectionLine"];

const day = (iso: string | null) =>
  iso ? new Date(`${iso}T12:00:00Z`).toLocaleDateString("en-GB", { day: "numeric", month: "short", year: "numeric" }) : "";

export default function Home({ me }: { me: Me }) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [dim, toggle] = useTheme();
  const [waiting, setWaiting] = useState(0);
  const home = useQuery({ queryKey: ["home"], queryFn: () => answer(api.GET("/api/home")), staleTime: 0 });
  const refetch = home.refetch;

  useEffect(() => {
    // What another inspection left on this device goes first, then the list is asked for again.
    void (async () => {
      if (!(await waitingElsewhere(me.id))) return;
      await flushAll(me.id);
      setWaiting(await waitingElsewhere(me.id));
      await refetch();
    })();
  }, [refetch, me.id]);

  async function signOut() {
    await api.DELETE("/api/session");
    queries.clear();
    navigate("/");
    window.location.reload();
  }

  function start() {
    // The date on the inspector's own clock, in the form that a date field takes.
    const today = new Date().toLocaleDateString("sv-SE");
    const { rule_book, house_rules, table_corrections } = home.data?.beginning ?? {};
    const id = begin(me, {
      reference: home.data?.next_reference ?? null,
      inspected_on: today,
      purpose: "periodic",
      // What the firm has settled goes with the inspection: it is judged by it even if the firm settles anew.
      ...(rule_book && { rule_book }),
      ...(house_rules && Object.keys(house_rules).length > 0 && { house_rules }),
      ...(table_corrections?.length && { table_corrections: table_corrections.map((one) => ({ ...one })) }),
    });
    navigate(`/inspection/${id}/brief`);
  }

  if (home.isPending) return <Loading what="your inspections" />;
  if (home.isError) {
    const said = home.error instanceof Refused ? home.error.message : "The server cannot be reached. What waits on this device is safe.";
    return <Trouble message={said} again={() => home.refetch()} />;
  }
  return (
    <Box maxW="64rem" mx="auto" px={{ base: "4", md: "8" }} pb="16">
      <Flex as="header" h="3.4rem" align="center" gap="4" mb="6">
        <Wordmark />
        <Box flex="1" />
        <Link to="/account" style={{ minHeight: 44, display: "inline-grid", placeItems: "center", fontSize: 14 }} aria-label={`Your account: ${me.name}, ${me.firm_name}`}>
          <Text as="span" color="quiet" textDecoration="underline" lineClamp={1}>
            {me.name}
            <Text as="span" display={{ base: "none", md: "inline" }}>
              , {me.firm_name}
            </Text>
          </Text>
        </Link>
        <Button size="sm" variant="outline" borderColor="line" onClick={toggle}>
          {dim ? "Day" : "Dim"}
        </Button>
        <Button size="sm" variant="ghost" onClick={signOut}>
          Sign out
        </Button>
      </Flex>
      {home.data.trouble && (
        <Box mb="4" p="3" borderWidth="1.5px" borderColor="ink" borderRadius="6px" role="alert">
          {home.data.trouble}
        </Box>
      )}
      <SearchBox />
      <Flex as="nav" aria-label="The firm's book" gap="5" wrap="wrap" mb="4">
        {BOOK.filter(([, , action]) => !action || me.may.includes(action)).map(([to, name]) => (
          <Link key={to} to={to} style={{ minHeight: 36, display: "inline-grid", placeItems: "center", textDecoration: "underline" }}>
            {name}
          </Link>
        ))}
      </Flex>
      {waiting > 0 && (
        <Box mb="4" p="3" borderWidth="1.5px" borderColor="ink" borderRadius="6px" role="status">
          {waiting} {waiting === 1 ? "entry waits" : "entries wait"} on this device and will be sent when the server can be reached.
        </Box>
      )}
      <Flex align="center" gap="4" mb="4" wrap="wrap">
        <Heading as="h1" fontSize="2xl" flex="1" minW="12rem">
          In hand
        </Heading>
        <Button size="lg" bg="sea" color="onSea" onClick={start} px="6">
          New inspection
        </Button>
      </Flex>
      <Booked />
      {home.data.in_hand.length === 0 ? (
        <Text color="quiet" py="6">
          Nothing in hand. Begin with <b>New inspection</b>: the address and the agreed extent come first.
        </Text>
      ) : (
        <Lines which="in hand" what="inspections in hand" first={home.data.in_hand} count={home.data.in_hand_count} Shown={InHand} />
      )}
      <Heading as="h2" fontSize="xl" mt="10" mb="3">
        Issued, next due first
      </Heading>
      {home.data.issued.length === 0 ? (
        <Text color="quiet">Reports that you issue stand here with the date when the next inspection is due.</Text>
      ) : (
        <Lines which="issued" what="issued" first={home.data.issued} count={home.data.issued_count} Shown={Issued} />
      )}
    </Box>
  );
}

interface ListProps {
  which: "in hand" | "issued";
  what: string;
  first: Line[];
  count: number;
  Shown: (props: { line: Line }) => React.ReactNode;
}

/** A list of inspections: its first page, and more of it when asked for. */
function Lines({ which, what, first, count, Shown }: ListProps) {
  const [more, setMore] = useState<Line[]>([]);
  const [busy, setBusy] = useState(false);
  const known = new Set(first.map((line) => line.id));
  const lines = [...first, ...more.filter((line) => !known.has(line.id))];
  const next = async () => {
    setBusy(true);
    const page = await answer(api.GET("/api/inspections", { params: { query: { which, start: lines.length } } })).catch(() => null);
    if (page) setMore([...more, ...page.lines]);
    setBusy(false);
  };
  return (
    <>
      <Box as="ul" listStyleType="none">
        {lines.map((line) => (
          <Shown key={line.id} line={line} />
        ))}
      </Box>
      <Pages shown={lines.length} count={count} what={what} more={next} busy={busy} />
    </>
  );
}

/** Visits of the coming days. */
function Booked() {
  const booked = useQuery({ queryKey: ["booked"], queryFn: () => answer(api.GET("/api/booked")), staleTime: 0 });
  if (!booked.data?.length) return null;
  return (
    <Box as="ul" listStyleType="none" mb="6" aria-label="Booked visits">
      {booked.data.map(({ job, property }) => (
        <Box as="li" key={job.id} borderTopWidth="1px" borderColor="line">
          <Link to={`/job/${job.id}`} style={{ display: "block" }}>
            <Flex align="center" gap={{ base: "3", md: "6" }} py="2" px="2" minH="3.4rem" _hover={{ bg: "lampWash" }}>
              <Text fontFamily="mono" color="quiet" w="4.5rem" flex="none">
                {String(job.values.number ?? "job")}
              </Text>
              <Text flex="1" minW="0" lineClamp={2}>
                {String(property.values.address ?? "No address yet")}
              </Text>
              <Text flex="none" fontWeight="600">
                visit {day(job.values.booked_on as string)} {String(job.values.booked_at ?? "")}
              </Text>
            </Flex>
          </Link>
        </Box>
      ))}
    </Box>
  );
}

function Row({ line, stage, children }: { line: Line; stage: string; children: React.ReactNode }) {
  return (
    <Box as="li" borderTopWidth="1px" borderColor="line" _last={{ borderBottomWidth: "1px" }}>
      <Link to={`/inspection/${line.id}/${stage}`} style={{ display: "block" }}>
        <Flex align="center" gap={{ base: "3", md: "6" }} py="3" px="2" minH="4rem" _hover={{ bg: "lampWash" }}>
          <Text fontFamily="mono" color="quiet" w="4.5rem" flex="none">
            {line.reference ?? "no ref."}
          </Text>
          <Box flex="1" minW="0">
            <Text fontWeight="600" lineClamp={2}>
              {line.property_address ?? "No address yet"}
            </Text>
            <Text color="quiet" fontSize="sm" truncate>
              {line.client_name ?? "No client yet"}
              {line.inspected_on && ` · ${day(line.inspected_on)}`}
            </Text>
          </Box>
          {children}
        </Flex>
      </Link>
    </Box>
  );
}

function InHand({ line }: { line: Line }) {
  return (
    <Row line={line} stage={line.held_reason ? "brief" : "dead"}>
      {line.held_reason && (
        <Text fontSize="sm" maxW="16rem" borderLeftWidth="3px" borderColor="ink" pl="2">
          <b>On hold{line.return_on ? `, return ${day(line.return_on)}` : ""}</b>
          <br />
          {line.held_reason}
        </Text>
      )}
      <Flex direction="column" align="flex-end" flex="none" gap="0.5">
        <Text>
          <b style={{ fontSize: "1.35rem", fontFamily: "var(--d-fonts-mono)" }}>{line.left}</b> left
        </Text>
        {!!line.failing && (
          <Flex align="center" gap="1.5" fontSize="sm">
            <Mark status="fail" /> {line.failing} failing
          </Flex>
        )}
      </Flex>
    </Row>
  );
}

function Issued({ line }: { line: Line }) {
  return (
    <Row line={line} stage="report">
      <Flex direction="column" align="flex-end" flex="none" gap="0.5">
        <Flex align="center" gap="1.5" fontWeight="600">
          <Mark status={line.outcome === "satisfactory" ? "pass" : "fail"} /> {line.outcome}
        </Flex>
        <Text fontSize="sm" color="quiet">
          issue {line.issued}
          {line.next_due && ` · due ${day(line.next_due)}`}
        </Text>
      </Flex>
    </Row>
  );
}
