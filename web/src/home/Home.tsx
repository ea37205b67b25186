/** Home: what now. Today's visits, what waits for one, what is due and unsent; then what is in hand and what was issued. */
import { Box, Flex, Grid, Heading, Link as ChakraLink, Text } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import type { Me } from "../api/client";
import { explain } from "../api/errors";
import { useAsKept } from "../api/kept";
import { leave } from "../api/leaving";
import { fetchHome, packIfOld } from "../inspection/bag";
import { lastOpened } from "../inspection/lastOpened";
import { begin } from "../inspection/open";
import { close as closeOutbox, onlyHere, useOutbox, waiting as waitingHere } from "../inspection/outbox";
import { signaturesWaiting, useSigned } from "../inspection/signatures";
import { SearchBox } from "../search/SearchBox";
import { Banner } from "../ui/Banner";
import { useGone } from "../inspection/knownDevice";
import { Button, LinkButton } from "../ui/Button";
import { useNarrow } from "../ui/layout";
import { loaded } from "../ui/Loaded";
import { Line, Lines, Section } from "../ui/Page";
import { Empty, Loading, Trouble } from "../ui/States";
import { NewVersion } from "../ui/NewVersion";
import { Tag } from "../ui/Tag";
import { ThemeButton } from "../ui/ThemeButton";
import { moment, today } from "../ui/when";
import { Wordmark } from "../ui/Wordmark";
import { AccountMenu } from "./AccountMenu";
import { Agenda, useAgenda } from "./Agenda";
import { InHand, InspectionLines, Issued } from "./InspectionLines";
import type { WaitingProps } from "./WaitingAsked";

const WaitingAsked = loaded<WaitingProps>(null, () => import("./WaitingAsked").then((m) => m.default));

const PLACES = [
  ["/clients", "Clients", null],
  ["/portfolio", "Portfolio", null],
  ["/planner", "Planner", null],
  ["/to-put-right", "To put right", null],
  ["/letters", "Letters", null],
  ["/instruments", "Instruments", null],
  ["/firm", "House rules", null],
  ["/opinions", "Second opinions", "give a second opinion"],
  ["/people", "People", "manage people"],
  ["/audit", "Audit log", "read the audit log"],
] as const;

/** So long after the list is there, milliseconds. */
const CALM = 2500;

export default function Home({ me }: { me: Me }) {
  const navigate = useNavigate();
  const narrow = useNarrow();
  const waiting = useOutbox(waitingHere);
  const home = useQuery({ queryKey: ["home"], queryFn: fetchHome, staleTime: 0 });
  // What today and tomorrow need comes onto this device by itself.
  useEffect(() => {
    const calm = setTimeout(() => void packIfOld(me), CALM);
    return () => clearTimeout(calm);
  }, [me]);
  const refetch = home.refetch;
  // Asked for at the same time, and waited for: what it says stands above the list, which is not to jump.
  const agenda = useAgenda();

  // What waited on this device is in the list once the server has it.
  const waited = useRef(0);
  useEffect(() => {
    if (waited.current > 0 && waiting === 0) void refetch();
    waited.current = waiting;
  }, [refetch, waiting]);

  function start() {
    const { rule_book, house_rules, table_corrections } = home.data?.beginning ?? {};
    const id = begin(me, {
      reference: home.data?.next_reference ?? null,
      inspected_on: today(),
      purpose: "periodic",
      // What the firm has settled goes with the inspection: it is judged by it even if the firm settles anew.
      ...(rule_book && { rule_book }),
      ...(house_rules && Object.keys(house_rules).length > 0 && { house_rules }),
      ...(table_corrections?.length && {
        table_corrections: table_corrections.map((tableCorrection) => ({ ...tableCorrection })),
      }),
    });
    navigate(`/inspection/${id}/brief`);
  }

  if (home.isPending || agenda.isPending) return <Loading what="your inspections" />;
  if (home.isError) {
    const said = explain(home.error, "What you entered is saved on this device.");
    // Signing out takes no server.
    return (
      <Box maxW="76rem" mx="auto" px={{ base: "4", md: "8" }}>
        <Head me={me} />
        <Trouble message={said} again={() => home.refetch()}>
          <OnThisDevice me={me} />
        </Trouble>
      </Box>
    );
  }
  const { in_hand, in_hand_count, issued, issued_count, trouble } = home.data;
  return (
    <Box maxW="76rem" mx="auto" px={{ base: "4", md: "8" }} pb="16">
      <Head me={me} />
      {trouble && <Banner role="alert">{trouble}</Banner>}
      <AsItStood />
      <NewVersion />
      <Gone />
      {waiting > 0 && (
        <Banner role="status">
          {waiting} {waiting === 1 ? "entry waits" : "entries wait"} on this device and will be sent when the server can
          be reached.
        </Banner>
      )}
      <Box as="main">
        <SearchBox />
        <Grid templateColumns={{ base: "minmax(0, 1fr)", lg: "minmax(0, 1fr) 21rem" }} columnGap="10" rowGap="6">
          {!narrow && (
            <Box gridColumn={{ lg: "2" }} gridRow={{ lg: "1 / 3" }}>
              <Agenda part="waiting" />
            </Box>
          )}
          <Box>
            <Flex align="center" gap="4" mb="3" wrap="wrap">
              <Heading as="h1" flex="1" minW="10rem">
                What now
              </Heading>
              <Button variant="action" size="lg" onClick={start}>
                New inspection
              </Button>
            </Flex>
            <Agenda part="visits" />
            {narrow && <Agenda part="waiting" />}
            <Section title="In progress">
              <OnlyHere />
              {in_hand.length === 0 ? (
                <Empty title="Nothing in progress">
                  Begin with <b>New inspection</b>: the address and the agreed extent come first.
                </Empty>
              ) : (
                <InspectionLines
                  which="in hand"
                  what="inspections in progress"
                  first={in_hand}
                  count={in_hand_count}
                  Line={InHand}
                />
              )}
            </Section>
            <Section title="Issued, next due first">
              {issued.length === 0 ? (
                <Text color="quiet">
                  Reports that you issue stand here with the date when the next inspection is due.
                </Text>
              ) : (
                <InspectionLines which="issued" what="issued" first={issued} count={issued_count} Line={Issued} />
              )}
            </Section>
          </Box>
        </Grid>
      </Box>
    </Box>
  );
}

/** The server is away: what stands here is from before. */
function AsItStood() {
  const at = useAsKept((s) => s.home);
  if (at === undefined) return null;
  return (
    <Banner role="status" acts={<LinkButton to="/device">This device</LinkButton>}>
      <b>The server cannot be reached.</b> This is how it stood here, {moment(at)}. What is in the day’s bag works
      without it.
    </Banner>
  );
}

/** Begun here, and not at the server yet. */
function OnlyHere() {
  const changes = useOutbox((s) => s.changes);
  const here = useMemo(() => (changes.length ? onlyHere() : []), [changes]);
  if (!here.length) return null;
  return (
    <Lines label="Only on this device">
      {here.map(({ id, title }) => (
        <Line key={id} to={`/inspection/${id}/brief`}>
          <Box flex="1 1 14rem">{title}</Box>
          <Tag>only on this device</Tag>
        </Line>
      ))}
    </Lines>
  );
}

/** Without a server: what was open here last can be gone on with. */
function OnThisDevice({ me }: { me: Me }) {
  const { data } = useQuery({ queryKey: ["opened", me.id], queryFn: () => lastOpened(me.id), networkMode: "always" });
  if (!data?.length) return null;
  return (
    <Section title="On this device">
      <Box as="ul" listStyleType="none" textAlign="start">
        {data.map(({ id, title, at }) => (
          <Box as="li" key={id} py="1.5" borderTopWidth="1px" borderColor="line">
            <ChakraLink asChild fontWeight="700">
              <Link to={`/inspection/${id}/brief`}>{title}</Link>
            </ChakraLink>{" "}
            <Box as="span" color="quiet">
              as of {moment(at)}
            </Box>
          </Box>
        ))}
      </Box>
    </Section>
  );
}

/** The line across the top: where else to go, who is signed in, and the theme. */
function Head({ me }: { me: Me }) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const waiting = useOutbox(waitingHere);
  const signatures = useSigned(signaturesWaiting);
  const [asked, setAsked] = useState(false);
  async function signOut() {
    // What waits to be sent stays; what could be looked at does not.
    closeOutbox();
    await leave();
    queries.clear();
    navigate("/");
    window.location.reload();
  }
  return (
    <Flex as="header" minH="14" align="center" columnGap="5" wrap="wrap" mb="4">
      <Wordmark />
      <Flex
        as="nav"
        aria-label="The firm"
        columnGap="5"
        wrap="wrap"
        flex={{ base: "1 0 100%", md: "1" }}
        order={{ base: "1", md: "0" }}
      >
        {PLACES.filter(([, , action]) => !action || me.may.includes(action)).map(([to, name]) => (
          <ChakraLink key={to} asChild minH="9" display="inline-grid" placeItems="center">
            <Link to={to}>{name}</Link>
          </ChakraLink>
        ))}
      </Flex>
      <Flex align="center" gap="2" ml="auto">
        <AccountMenu
          me={me}
          acts={[
            { name: "This device", act: () => navigate("/device") },
            { name: "Account and sign-in", act: () => navigate("/account") },
            { name: "Sign out", act: () => (waiting + signatures > 0 ? setAsked(true) : void signOut()) },
          ]}
        />
        <LinkButton to="/help" size="sm" label="Help">
          ?
        </LinkButton>
        <ThemeButton />
      </Flex>
      {asked && (
        <WaitingAsked
          waiting={waiting}
          signatures={signatures}
          close={() => setAsked(false)}
          signOut={() => void signOut()}
        />
      )}
    </Flex>
  );
}

/** The browser cleared what was kept here: what had not arrived is said, once it is known. */
function Gone() {
  const { gone, since } = useGone();
  if (!gone) return null;
  return (
    <Banner role="alert" acts={<Button onClick={() => useGone.setState({ gone: 0 })}>Seen</Button>}>
      <b>This browser cleared what was kept on this device.</b> {gone === 1 ? "One thing" : `${gone} things`} had not
      arrived when it was last in touch{since && `, ${moment(since)}`}. A supervisor sees which, under People.
    </Banner>
  );
}
