/** Who is signed in, and which screen is open. Screens beyond the first are loaded when they are opened. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { lazy, type ReactNode, Suspense, useEffect } from "react";
import { Navigate, Route, Routes, useLocation, useNavigate } from "react-router";
import { api, answer, type Me } from "./api/client";
import { explain } from "./api/errors";
import "./theme/useTheme";
import { Boundary } from "./ui/Boundary";
import { Loading, Trouble } from "./ui/States";

const SignIn = lazy(() => import("./signin/SignIn"));
const Welcome = lazy(() => import("./signin/Welcome"));
const Home = lazy(() => import("./home/Home"));
const Clients = lazy(() => import("./register/Clients").then((m) => ({ default: m.Clients })));
const Client = lazy(() => import("./register/Clients").then((m) => ({ default: m.Client })));
const Property = lazy(() => import("./register/Property"));
const Job = lazy(() => import("./register/Job"));
const Instruments = lazy(() => import("./register/Instruments"));
const FirmScreen = lazy(() => import("./firm/Firm"));
const Account = lazy(() => import("./account/Account"));
const People = lazy(() => import("./people/People"));
const Kit = lazy(() => import("./kit/Kit"));
const AuditLog = lazy(() => import("./audit/AuditLog"));
const InspectionScreen = lazy(() => import("./shell/InspectionScreen"));
// Not needed for the first picture: what was just done is told later.
const Toaster = lazy(() => import("./ui/toaster").then((m) => ({ default: m.Toaster })));

// The first picture does not wait for what keeps things on the device.
const device = () => import("./api/kept");

/** Who is signed in; without a server, who was here last. */
async function askSession(): Promise<Me | null> {
  const asked = answer(api.GET("/api/session"));
  asked.catch(() => undefined);
  const { remembered } = await device();
  return remembered("session", () => asked);
}

export function App() {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const session = useQuery({
    queryKey: ["session"],
    queryFn: askSession,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  if (session.isPending) return <Loading what="Dorrik" />;
  if (session.isError) {
    const said = explain(session.error, "What waits on this device is safe.");
    return <Trouble message={said} again={() => session.refetch()} />;
  }
  const enter = (me: Me) => {
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
  return (
    <Boundary what="This screen">
      <Suspense fallback={<Loading what="the screen" />}>{children}</Suspense>
      <Suspense fallback={null}>
        <Toaster />
      </Suspense>
    </Boundary>
  );
}

function Screens({ me }: { me: Me }) {
  // What waits on this device goes, whichever screen is open.
  useEffect(() => void import("./inspection/outbox").then((outbox) => outbox.open(me.id)), [me.id]);
  return (
    <Routes>
      <Route path="/" element={<Home me={me} />} />
      <Route path="/clients" element={<Clients me={me} />} />
      <Route path="/client/:id" element={<Client me={me} />} />
      <Route path="/property/:id" element={<Property />} />
      <Route path="/job/:id" element={<Job me={me} />} />
      <Route path="/instruments" element={<Instruments me={me} />} />
      <Route path="/firm/:part?" element={<FirmScreen />} />
      <Route path="/kit" element={<Kit />} />
      <Route path="/account" element={<Account me={me} />} />
      {me.may.includes("manage people") && <Route path="/people" element={<People me={me} />} />}
      {me.may.includes("read the audit log") && <Route path="/audit" element={<AuditLog />} />}
      <Route path="/inspection/:id" element={<Navigate to="brief" replace />} />
      <Route path="/inspection/:id/:stage" element={<InspectionScreen me={me} />} />
      <Route path="*" element={<Navigate to="/" replace />} />
    </Routes>
  );
}
