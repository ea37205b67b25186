/** The inspection: run sheet, work and margin, with the pad under them where figures are entered. */
import { type ComponentType, useDeferredValue, useEffect, useLayoutEffect } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import type { Me, Stage } from "../api/client";
import { useObservable, useParkable, useReference } from "../api/reference";
import {
  closeObservation,
  commit,
  focusOn,
  observeHere,
  readBy,
  setOrder,
  takeAim,
  typeWith,
  useDesk,
} from "../inspection/desk";
import { decideWaiting, leave, load, undo, useInspection } from "../inspection/open";
import { comeBackHere, showList, stopAdding, useComingBack } from "../inspection/comeBack";
import { nothingStands } from "../inspection/positions";
import { useOutbox } from "../inspection/waiting";
import { useReach } from "../inspection/transport";
import { CrossingsBanner } from "../crossings/CrossingsBanner";
import { GoOn } from "../fields/GoOn";
import { Banner } from "../ui/Banner";
import { Boundary } from "../ui/Boundary";
import { Button } from "../ui/Button";
import { loaded } from "../ui/Loaded";
import { NewVersion } from "../ui/NewVersion";
import { Loading, Trouble } from "../ui/States";
import { day, moment } from "../ui/when";
import { whenIdle } from "../ui/whenIdle";
import { withLooks } from "../ui/withLooks";
import { Margin } from "./Margin";
import { ReadingPad } from "./ReadingPad";
import { RunSheet } from "./RunSheet";
import { SpokenVerdict } from "./SpokenVerdict";
import { STAGE_NAMES, STAGES, WITH_PAD } from "../inspection/stages";
import { TopBar } from "./TopBar";
import css from "./InspectionScreen.module.css";

/** What the component library draws; the tests do without it, so that they are there at once. */
const stage = <P extends object>(load: () => Promise<ComponentType<P>>) => loaded("this stage", withLooks(load));
const over = <P extends object>(load: () => Promise<ComponentType<P>>, leave?: () => void) =>
  loaded(null, withLooks(load), { leave });

const TestGrid = loaded("this stage", () => import("../measurements/TestGrid").then((m) => m.default));
const Brief = stage(() => import("../brief/Brief").then((m) => m.default));
const Intake = stage(() => import("../intake/Intake").then((m) => m.default));
const Walk = stage(() => import("../walk/Walk").then((m) => m.default));
const Isolation = stage(() => import("../isolation/Isolation").then((m) => m.default));
const Boards = stage(() => import("../boards/Boards").then((m) => m.default));
const Bench = stage(() => import("../bench/Bench").then((m) => m.default));
const Observations = stage(() => import("../observations/Observations").then((m) => m.default));
const Report = stage(() => import("../report/Report").then((m) => m.default));
const closeLater = () => {
  stopAdding();
  showList(false);
};
const ComeBack = over(() => import("../comeback/ComeBack").then((m) => m.default), closeLater);
const ObservationDialog = over(
  () => import("../observations/ObservationDialog").then((m) => m.default),
  closeObservation,
);
const EndedSession = over(() => import("./EndedSession").then((m) => m.default));

/** Fetched in calm moments, so that going to another stage waits for nothing. */
const SOON = [
  TestGrid,
  Bench,
  Boards,
  Walk,
  ObservationDialog,
  ComeBack,
  Observations,
  Intake,
  Isolation,
  Report,
  Brief,
];

/** The first moments belong to what was opened: so long after it, milliseconds. */
const CALM = 6000;

/** One after another: each is a number of files, and the page has to answer between them. */
async function fetchSoon(stillHere: () => boolean): Promise<void> {
  for (const part of SOON) {
    await whenIdle();
    if (!stillHere()) return;
    await part.fetch().catch(() => undefined);
  }
}

/** What keys do wherever no text is typed: undo, the stages by number, an observation, something to come back to. */
function useKeys(id: string, current: Stage, { observing, busy }: { observing: boolean; busy: boolean }): void {
  const navigate = useNavigate();
  const observable = useObservable();
  const parkable = useParkable();
  useLayoutEffect(() => {
    function keyDown(event: KeyboardEvent) {
      const target = event.target as HTMLElement;
      const typing = target.matches("input, textarea, select, [contenteditable]");
      if ((event.ctrlKey || event.metaKey) && event.key === "z" && (!typing || target.matches("[data-cell]"))) {
        event.preventDefault();
        const where = undo();
        if (where) focusOn(where);
      } else if (event.altKey && /^[1-9]$/.test(event.key)) {
        event.preventDefault();
        navigate(`/inspection/${id}/${STAGES[Number(event.key) - 1]?.stage}`);
      } else if (!typing && !event.ctrlKey && !event.metaKey && event.key.toLowerCase() === "o" && !observing) {
        event.preventDefault();
        observeHere(id, observable);
      } else if (!typing && !event.ctrlKey && !event.metaKey && event.key.toLowerCase() === "c" && !busy) {
        event.preventDefault();
        comeBackHere(parkable, STAGE_NAMES[current]);
      }
    }
    document.addEventListener("keydown", keyDown);
    return () => document.removeEventListener("keydown", keyDown);
  }, [id, navigate, observing, observable, busy, parkable, current]);
}

export default function InspectionScreen({ me }: { me: Me }) {
  const { id = "", stage: named = "brief" } = useParams();
  const [search] = useSearchParams();
  const reference = useReference();
  // Of the model only which one it is: what changes in it is drawn by whoever shows that.
  const opened = useInspection((s) => s.model?.id);
  const error = useInspection((s) => s.error);
  const signedOut = useReach((s) => s.reach === "signed-out");
  const observing = useDesk((s) => s.observing);
  const later = useComingBack((s) => !!s.adding || s.listed);
  const busy = !!observing || later;
  // Readings on other stages bring the pad with them: the tablet's own keyboard stays away from a reading.
  const reading = useDesk((s) => !!s.focus && reference?.fields[s.focus.kind]?.[s.focus.field]?.kind === "reading");
  const current = (STAGES.find((s) => s.stage === named)?.stage ?? "brief") as Stage;
  const circuit = current === "dead" || current === "live" ? search.get("circuit") : null;
  const here = opened === id && !!reference;
  // In slices: a slow tablet answers to taps while the frame and its stage are drawn.
  const drawn = useDeferredValue(here, false);

  useEffect(() => {
    void load(id, me);
    return () => {
      leave();
      // The instrument that was chosen, and whoever learns, are of this inspection.
      typeWith(null);
      readBy(null);
      nothingStands();
      closeLater();
    };
  }, [id, me]);

  useEffect(() => {
    let here = true;
    const calm = setTimeout(() => void fetchSoon(() => here), CALM);
    return () => {
      here = false;
      clearTimeout(calm);
    };
  }, []);

  // Before anybody sees the next stage: a key pressed there is about that stage, not about the figure of the one before.
  useLayoutEffect(() => {
    return () => {
      commit();
      focusOn(null);
      setOrder([]);
    };
  }, [current, circuit]);

  // After what was left behind is let go, and again where the stage is open already.
  const aimed = useDesk((s) => s.aim);
  useEffect(() => {
    if (aimed) takeAim(current);
  }, [aimed, current]);

  useKeys(id, current, { observing: !!observing, busy });

  if (error && !opened) return <Trouble message={error} again={() => load(id, me)} />;
  if (signedOut && !opened) return <EndedSession me={me} />;
  if (!here || !drawn) return <Loading what="the inspection" />;
  const pad = WITH_PAD.includes(current) || reading;
  return (
    <div className={css.frame}>
      <TopBar me={me} />
      <RunSheet stage={current} />
      <main id="work" className={css.work}>
        <Notices />
        <OnHold me={me} />
        <InReview />
        <Boundary key={current} what={`${STAGES.find((s) => s.stage === current)?.name ?? "The stage"}`}>
          {current === "brief" && <Brief me={me} />}
          {current === "intake" && <Intake />}
          {current === "walk" && <Walk />}
          {current === "isolation" && <Isolation me={me} />}
          {current === "boards" && <Boards />}
          {(current === "dead" || current === "live") &&
            (circuit ? (
              <Bench key={`${current} ${circuit}`} circuitId={circuit} live={current === "live"} />
            ) : (
              <TestGrid key={current} live={current === "live"} />
            ))}
          {current === "observations" && <Observations me={me} />}
          {current === "report" && <Report me={me} />}
        </Boundary>
      </main>
      <Boundary what="The margin" area="margin">
        <Margin stage={current} />
      </Boundary>
      <SpokenVerdict />
      {pad && (
        <div className={css.pad}>
          <ReadingPad />
        </div>
      )}
      {later && (
        <Boundary what="What to come back to" close={closeLater}>
          <ComeBack />
        </Boundary>
      )}
      {observing && (
        <Boundary what="The observation" close={closeObservation}>
          <ObservationDialog about={observing} />
        </Boundary>
      )}
      {signedOut && <EndedSession me={me} />}
    </div>
  );
}

function Notices() {
  const error = useInspection((s) => s.error);
  const id = useInspection((s) => s.model?.id ?? "");
  const barred = useOutbox((s) => s.barred[id]);
  const asOf = useInspection((s) => s.asOf);
  const differs = useInspection((s) => s.differs);
  const reach = useReach((s) => s.reach);
  return (
    <>
      {(barred ?? error) && (
        <Banner edge role="alert">
          {barred ?? error}
        </Banner>
      )}
      {differs.length > 0 && (
        <Banner edge role="alert">
          <b>This device and the server do not judge this inspection alike.</b> The server’s verdicts are shown wherever
          it can be reached. It was written down for whoever looks after Dorrik.
        </Banner>
      )}
      <NewVersion edge />
      <WaitsForIssue />
      <CrossingsBanner />
      {asOf !== null && (
        <Banner edge role="status">
          <b>{reach === "slow" ? "The server is slow to answer." : "The server cannot be reached."}</b> This is the
          inspection as it stood on this device, {moment(asOf)}. Go on: what you enter is kept here and sent later.
        </Banner>
      )}
    </>
  );
}

/** Entered before the report was issued, and arrived after it: what becomes of it is said by who entered it. */
function WaitsForIssue() {
  const waiting = useInspection((s) => s.model?.pending.filter((p) => p.waits).length ?? 0);
  const issue = useInspection((s) => s.model?.issue ?? 0);
  if (!waiting) return null;
  return (
    <Banner
      edge
      role="alert"
      acts={
        <>
          <Button size="sm" variant="action" onClick={() => void decideWaiting(true)}>
            Enter as a correction
          </Button>
          <Button size="sm" variant="quiet" onClick={() => void decideWaiting(false)}>
            Leave out
          </Button>
        </>
      }
    >
      <b>
        {waiting === 1 ? "One entry waits here:" : `${waiting} entries wait here:`} issue {issue} was signed before{" "}
        {waiting === 1 ? "it" : "they"} arrived.
      </b>{" "}
      The report does not say {waiting === 1 ? "it" : "them"}. A correction is signed and issued again.
    </Banner>
  );
}

/** On hold: said on every stage. Nothing is locked; dead tests and notes go on. */
function OnHold({ me }: { me: Me }) {
  const id = useInspection((s) => s.model?.id) ?? "";
  const values = useInspection((s) => s.model?.entities[id]?.values);
  if (!values?.held_at) return null;
  const back = values.return_on ? day(String(values.return_on), { day: "numeric", month: "short" }) : null;
  return (
    <Banner edge role="note" acts={<GoOn inspection={id} me={me} />}>
      <b>On hold{back ? `, return visit ${back}` : ""}.</b>{" "}
      {values.held_reason ? String(values.held_reason) : "Say why under Brief."} Dead tests and notes stay open.
    </Banner>
  );
}

/** Submitted: said on every stage, since a change reopens it. */
function InReview() {
  const submitted = useInspection((s) => s.model?.state === "in review");
  if (!submitted) return null;
  return (
    <Banner edge role="note">
      <b>Signed and submitted for review.</b> What you change now reopens it: it is then signed for again.
    </Banner>
  );
}
