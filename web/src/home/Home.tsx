/** Home: what now. Today's visits, what waits for one, what is due and unsent; then what is in hand and what was issued. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { useNavigate } from "react-router";
import type { Me } from "../api/client";
import { explain } from "../api/errors";
import { useAsKept } from "../api/asKept";
import { leave } from "../api/leaving";
import { fetchHome } from "../inspection/atHome";
import { useGone } from "../inspection/gone";
import { signaturesWaiting, useSigned } from "../inspection/signatures";
import { onlyHere, useOutbox, waiting as waitingHere } from "../inspection/waiting";
import { SearchBox } from "../search/SearchBox";
import { Banner } from "../ui/Banner";
import { Button, LinkButton } from "../ui/Button";
import { useNarrow } from "../ui/layout";
import { loaded } from "../ui/Loaded";
import { Line, Lines, Section } from "../ui/Page";
import { Empty, Loading, Trouble } from "../ui/States";
import { NewVersion } from "../ui/NewVersion";
import { Tag } from "../ui/Tag";
import { TextLink } from "../ui/TextLink";
import { ThemeButton } from "../ui/ThemeButton";
import { moment, today } from "../ui/when";
import { withLooks } from "../ui/withLooks";
import { Wordmark } from "../ui/Wordmark";
import { AccountMenu } from "./AccountMenu";
import { Agenda, useAgenda } from "./Agenda";
import css from "./Home.module.css";
import { InHand, InspectionLines, Issued } from "./InspectionLines";
import type { WaitingProps } from "./WaitingAsked";

const WaitingAsked = loaded<WaitingProps>(
  null,
  withLooks(() => import("./WaitingAsked").then((m) => m.default)),
);

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
    const pack = () => import("../inspection/bag").then(({ packIfOld }) => packIfOld(me));
    const calm = setTimeout(() => void pack().catch(() => undefined), CALM);
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

  async function start() {
    const { rule_book, house_rules, table_corrections } = home.data?.beginning ?? {};
    const { begin } = await import("../inspection/open");
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
    const explained = explain(home.error, "What you entered is saved on this device.");
    // Signing out takes no server.
    return (
      <div className={css.screen}>
        <Head me={me} />
        <Trouble message={explained} again={() => home.refetch()}>
          <OnThisDevice me={me} />
        </Trouble>
      </div>
    );
  }
  const { in_hand, in_hand_count, issued, issued_count, trouble } = home.data;
  return (
    <div className={css.screen}>
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
      <main>
        <SearchBox />
        <div className={css.columns}>
          {!narrow && (
            <div className={css.side}>
              <Agenda part="waiting" />
            </div>
          )}
          <div>
            <div className={css.titleRow}>
              <h1 className={css.title}>What now</h1>
              <Button variant="action" size="lg" onClick={() => void start()}>
                New inspection
              </Button>
            </div>
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
                <p className={css.quiet}>
                  Reports that you issue are listed here with the date when the next inspection is due.
                </p>
              ) : (
                <InspectionLines which="issued" what="issued" first={issued} count={issued_count} Line={Issued} />
              )}
            </Section>
          </div>
        </div>
      </main>
    </div>
  );
}

/** The server is away: what stands here is from before. */
function AsItStood() {
  const at = useAsKept((s) => s.home);
  if (at === undefined) return null;
  return (
    <Banner role="status" acts={<LinkButton to="/device">This device</LinkButton>}>
      <b>The server cannot be reached.</b> This list is from {moment(at)}. What is in the day’s bag works without it.
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
          <div className={css.only}>{title}</div>
          <Tag>only on this device</Tag>
        </Line>
      ))}
    </Lines>
  );
}

const lastOpened = (me: Me) => import("../inspection/lastOpened").then((kept) => kept.lastOpened(me.id));

/** Without a server: what was open here last can be gone on with. */
function OnThisDevice({ me }: { me: Me }) {
  const { data } = useQuery({ queryKey: ["opened", me.id], queryFn: () => lastOpened(me), networkMode: "always" });
  if (!data?.length) return null;
  return (
    <Section title="On this device">
      <ul className={css.opened}>
        {data.map(({ id, title, at }) => (
          <li key={id}>
            <TextLink to={`/inspection/${id}/brief`} look="bold">
              {title}
            </TextLink>{" "}
            <span className={css.quiet}>as of {moment(at)}</span>
          </li>
        ))}
      </ul>
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
    const { close } = await import("../inspection/outbox");
    close();
    await leave();
    queries.clear();
    navigate("/");
    window.location.reload();
  }
  return (
    <header className={css.head}>
      <Wordmark />
      <nav aria-label="The firm" className={css.places}>
        {PLACES.filter(([, , action]) => !action || me.may.includes(action)).map(([to, name]) => (
          <TextLink key={to} to={to} look="place">
            {name}
          </TextLink>
        ))}
      </nav>
      <div className={css.acts}>
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
      </div>
      {asked && (
        <WaitingAsked
          waiting={waiting}
          signatures={signatures}
          close={() => setAsked(false)}
          signOut={() => void signOut()}
        />
      )}
    </header>
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
