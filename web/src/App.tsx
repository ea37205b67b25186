/** Who is signed in, and which screen is open. Screens beyond the first are loaded when they are opened. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type ComponentType, type ReactNode, useCallback, useDeferredValue, useEffect, useState } from "react";
import { Navigate, Route, Routes, useLocation, useNavigate } from "react-router";
import { api, answer, type Me, sessionEnded, showAs, Unreachable } from "./api/client";
import { explain } from "./api/errors";
import { sinceForgotten } from "./api/forgotten";
import { endSession, isLeaving } from "./api/leaving";
import { asksForPin } from "./api/pin";
import { remembered } from "./api/remembered";
import Home from "./home/Home";
import { startSoon } from "./judge/start";
import SignIn from "./signin/SignIn";
import "./theme/useTheme";
import { Boundary } from "./ui/Boundary";
import { loaded } from "./ui/Loaded";
import { Loading, Trouble } from "./ui/States";
import { useLooks } from "./ui/useLooks";
import { Toaster } from "./ui/tell";
import { withLooks } from "./ui/withLooks";

const screen = <P extends object>(load: () => Promise<ComponentType<P>>) => loaded("the screen", withLooks(load));

const Welcome = screen(() => import("./signin/Welcome").then((m) => m.default));
const Clients = screen(() => import("./register/Clients").then((m) => m.Clients));
const Client = screen(() => import("./register/Clients").then((m) => m.Client));
const Property = screen(() => import("./register/Property").then((m) => m.default));
const Job = screen(() => import("./register/Job").then((m) => m.default));
const Portfolio = screen(() => import("./portfolio/Portfolio").then((m) => m.default));
const Planner = screen(() => import("./planner/Planner").then((m) => m.default));
const VisitTimes = screen(() => import("./planner/VisitTimes").then((m) => m.default));
const Weeks = screen(() => import("./planner/Weeks").then((m) => m.default));
const Instruments = screen(() => import("./register/Instruments").then((m) => m.default));
const FirmScreen = screen(() => import("./firm/Firm").then((m) => m.default));
const Account = screen(() => import("./account/Account").then((m) => m.default));
const People = screen(() => import("./people/People").then((m) => m.default));
const SecondOpinions = screen(() => import("./opinions/SecondOpinions").then((m) => m.default));
const Kit = screen(() => import("./kit/Kit").then((m) => m.default));
const SharedPage = screen(() => import("./shared/SharedPage").then((m) => m.default));
const VisitPage = screen(() => import("./visit/VisitPage").then((m) => m.default));
const Inbox = screen(() => import("./letters/Inbox").then((m) => m.default));
const AfterReport = screen(() => import("./after/AfterReport").then((m) => m.default));
const OpenReports = screen(() => import("./after/OpenReports").then((m) => m.default));
const Help = screen(() => import("./help/Help").then((m) => m.default));
const Lock = screen(() => import("./session/Lock").then((m) => m.default));
const HelpKey = loaded(null, () => import("./help/HelpKey").then((m) => m.default), { unasked: true });
const Letters = screen(() => import("./letters/Letters").then((m) => m.default));
const Check = screen(() => import("./check/Check").then((m) => m.default));
const ThisDevice = screen(() => import("./device/ThisDevice").then((m) => m.default));
const AuditLog = screen(() => import("./audit/AuditLog").then((m) => m.default));
// Its stages have their looks themselves: the tests do without the component library.
const InspectionScreen = loaded("the screen", () => import("./shell/InspectionScreen").then((m) => m.default));
/** Whether somebody was signed in here last: only a guess, so that their screen comes while the server is asked. */
const HERE = "dorrik.here";

function guessFirst(path: string): void {
  // What does not come now is asked for again by who shows it.
  if (localStorage.getItem(HERE) && path.startsWith("/inspection/")) InspectionScreen.fetch().catch(() => undefined);
}
guessFirst(window.location.pathname);

// The first picture does not wait for what keeps things on the device.
const device = () => import("./api/kept");
const vault = () => import("./api/vault");
const LATER = 1000;
const MUCH_LATER = 10_000;
let later: ReturnType<typeof setTimeout> | undefined;

const keepSession = (kept: Awaited<ReturnType<typeof device>>, me: Me | null) =>
  me ? kept.keepAnswer("session", me) : kept.forgetAnswers();

/** So long the server may take before it is asked who was here last, milliseconds. */
const PATIENCE = 1500;

/** Who is signed in; without a server, who was here last. */
async function askSession(): Promise<Me | null> {
  // Signed out here without a server: nobody is asked who that was.
  if (isLeaving() && !(await endSession())) return null;
  const stillHere = sinceForgotten();
  const somebodyWas = localStorage.getItem(HERE) !== null;
  const asked = answer(api.GET("/api/session"));
  const late = new Promise<never>((_, give) => setTimeout(() => give(new Unreachable()), PATIENCE));
  try {
    const me = await Promise.race([asked, late]);
    if (me) localStorage.setItem(HERE, "1");
    else localStorage.removeItem(HERE);
    // Who has signed out meanwhile is not written down again. Where nobody was here there is hardly anything to forget.
    const keep = () => void device().then((kept) => (stillHere() ? keepSession(kept, me) : undefined));
    later = setTimeout(keep, me || somebodyWas ? LATER : MUCH_LATER);
    return me;
  } catch {
    return remembered("session", () => asked);
  }
}

// A session that was ended elsewhere leaves nothing here to be looked at; what waits to be sent stays.
sessionEnded.addEventListener("ended", () => void device().then((kept) => kept.forgetAnswers()));

const OPEN_TO_ALL: Record<string, ComponentType> = {
  "/check": Check,
  "/home-report": SharedPage,
  "/visit": VisitPage,
  "/inbox": Inbox,
};

export function App() {
  const { pathname } = useLocation();
  // Whoever holds a paper or a link asks without an account.
  const Open = OPEN_TO_ALL[pathname];
  if (Open)
    return (
      <Screen>
        <Open />
      </Screen>
    );
  return <Unlocked />;
}

let somebodyCame: () => void = () => undefined;
const somebodyIsHere = new Promise<void>((resolve) => (somebodyCame = resolve));

/** This page is somebody's from now on, or nobody's. */
function belongsTo(me: Me | null): void {
  showAs(me);
  if (me) somebodyCame();
}

/** Where this device has a PIN, nothing is shown before it was said. */
function Unlocked() {
  const [locked, setLocked] = useState(asksForPin);
  const open = useCallback(() => setLocked(false), []);
  useEffect(() => {
    // Whoever took the mark of it away is asked all the same. Where nobody was here, nothing is shown before somebody is.
    void (localStorage.getItem(HERE) ? vault() : somebodyIsHere.then(vault))
      .then(({ openVault }) => openVault())
      .then((state) => state === "locked" && setLocked(true))
      .catch(() => undefined);
  }, []);
  if (!locked) return <Known />;
  return (
    <Screen>
      <Lock done={open} />
    </Screen>
  );
}

/** What is shown to whom depends on who they are. */
function Known() {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const session = useQuery({
    queryKey: ["session"],
    queryFn: async () => {
      const me = await askSession();
      belongsTo(me);
      return me;
    },
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  // In slices: a slow tablet answers to taps while the first screen is drawn. Who goes is gone at once.
  const drawn = useDeferredValue(session.isSuccess, false);
  if (session.isPending || (session.isSuccess && !drawn)) return <Loading what="Dorrik" />;
  if (session.isError) {
    const explained = explain(session.error, "What you entered is saved on this device.");
    return <Trouble message={explained} again={() => session.refetch()} />;
  }
  const enter = (me: Me) => {
    // Nobody was here a moment ago: that is not written down over who is here now.
    clearTimeout(later);
    belongsTo(me);
    localStorage.setItem(HERE, "1");
    queries.setQueryData(["session"], me);
    void device().then((kept) => kept.keepAnswer("session", me));
    if (pathname === "/welcome") navigate("/", { replace: true });
  };
  const me = session.data;
  return (
    <Screen key={pathname.split("/", 2).join("/")}>
      {pathname === "/welcome" ? <Welcome done={enter} /> : me ? <Screens me={me} /> : <SignIn done={enter} />}
    </Screen>
  );
}

/** What goes wrong in one screen leaves the others as they are; leaving it is leaving the trouble. */
function Screen({ children }: { children: ReactNode }) {
  const looks = useLooks((s) => s.here);
  return (
    <Boundary what="This screen">
      {children}
      {looks && <Toaster />}
    </Boundary>
  );
}

/** This device is known to the server by what waits here, and asks for its PIN again after it was put away. */
function useWatch(me: Me): void {
  useEffect(() => {
    const stops: (() => void)[] = [];
    let gone = false;
    const begin = async () => {
      const [{ tellOfDevice }, { lockWhenIdle }, { commit }] = await Promise.all([
        import("./inspection/knownDevice"),
        import("./session/lockWhenIdle"),
        import("./inspection/desk"),
      ]);
      if (!gone) stops.push(tellOfDevice(me), lockWhenIdle(commit));
      // What was taken along for others goes, whichever screen is open.
      void import("./handover/taken").then(({ openTaken }) => openTaken()).catch(() => undefined);
    };
    const calm = setTimeout(() => void begin().catch(() => undefined), LATER);
    return () => {
      gone = true;
      clearTimeout(calm);
      for (const stop of stops) stop();
    };
  }, [me]);
}

function Screens({ me }: { me: Me }) {
  // What waits on this device goes, whichever screen is open.
  useEffect(() => {
    // What was signed for is known before the signature is looked at.
    const left = import("./inspection/outbox").then((outbox) => outbox.open(me.id));
    void left
      .then(() => import("./inspection/signed"))
      .then((signed) => signed.open(me.id))
      .catch(() => undefined);
  }, [me.id]);
  useEffect(startSoon, []);
  useWatch(me);
  return (
    <>
      <HelpKey />
      <Routes>
        <Route path="/" element={<Home me={me} />} />
        <Route path="/clients" element={<Clients me={me} />} />
        <Route path="/client/:id" element={<Client me={me} />} />
        <Route path="/property/:id" element={<Property />} />
        <Route path="/job/:id" element={<Job me={me} />} />
        <Route path="/portfolio/:client?" element={<Portfolio />} />
        <Route path="/planner" element={<Planner me={me} />} />
        <Route path="/planner/times" element={<VisitTimes />} />
        <Route path="/planner/weeks" element={<Weeks me={me} />} />
        <Route path="/instruments" element={<Instruments me={me} />} />
        <Route path="/firm/:part?" element={<FirmScreen me={me} />} />
        <Route path="/kit" element={<Kit />} />
        <Route path="/to-put-right" element={<OpenReports />} />
        <Route path="/to-put-right/:id" element={<AfterReport me={me} />} />
        <Route path="/letters" element={<Letters />} />
        <Route path="/help" element={<Help />} />
        <Route path="/account" element={<Account me={me} />} />
        <Route path="/device" element={<ThisDevice me={me} />} />
        {me.may.includes("give a second opinion") && <Route path="/opinions" element={<SecondOpinions me={me} />} />}
        {me.may.includes("manage people") && <Route path="/people" element={<People me={me} />} />}
        {me.may.includes("read the audit log") && <Route path="/audit" element={<AuditLog />} />}
        <Route path="/inspection/:id" element={<Navigate to="brief" replace />} />
        <Route path="/inspection/:id/:stage" element={<InspectionScreen me={me} />} />
        <Route path="*" element={<Navigate to="/" replace />} />
      </Routes>
    </>
  );
}
