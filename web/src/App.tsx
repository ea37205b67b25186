/** Who is signed in, and which screen is open. Screens beyond the first are loaded when they are opened. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { lazy, Suspense } from "react";
import { Navigate, Route, Routes, useLocation, useNavigate } from "react-router";
import { api, answer, type Me } from "./api/client";
import { SignIn } from "./signin/SignIn";
import "./theme/useTheme";
import { Loading, Trouble } from "./ui/States";

const Home = lazy(() => import("./home/Home"));
const Clients = lazy(() => import("./book/Clients").then((m) => ({ default: m.Clients })));
const Client = lazy(() => import("./book/Clients").then((m) => ({ default: m.Client })));
const Property = lazy(() => import("./book/Property"));
const Job = lazy(() => import("./book/Job"));
const Instruments = lazy(() => import("./book/Instruments"));
const FirmScreen = lazy(() => import("./firm/Firm"));
const Account = lazy(() => import("./account/Account"));
const People = lazy(() => import("./people/People"));
const AuditLog = lazy(() => import("./audit/AuditLog"));
const Welcome = lazy(() => import("./signin/Welcome"));
const InspectionScreen = lazy(() => import("./shell/InspectionScreen"));

export function App() {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const session = useQuery({
    queryKey: ["session"],
    queryFn: () => answer(api.GET("/api/session")),
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  if (session.isPending) return <Loading what="Dorrik" />;
  if (session.isError) {
    return <Trouble message="The server cannot be reached. What waits on this device is safe." again={() => session.refetch()} />;
  }
  const enter = (me: Me) => {
    queries.setQueryData(["session"], me);
    if (pathname === "/welcome") navigate("/", { replace: true });
  };
  if (pathname === "/welcome") {
    return (
      <Suspense fallback={<Loading what="your link" />}>
        <Welcome done={enter} />
      </Suspense>
    );
  }
  const me = session.data;
  if (!me) return <SignIn done={enter} />;
  return (
    <Suspense fallback={<Loading what="the screen" />}>
      <Routes>
        <Route path="/" element={<Home me={me} />} />
        <Route path="/clients" element={<Clients me={me} />} />
        <Route path="/client/:id" element={<Client me={me} />} />
        <Route path="/property/:id" element={<Property />} />
        <Route path="/job/:id" element={<Job me={me} />} />
        <Route path="/instruments" element={<Instruments me={me} />} />
        <Route path="/firm" element={<FirmScreen />} />
        <Route path="/account" element={<Account me={me} />} />
        {me.may.includes("manage people") && <Route path="/people" element={<People me={me} />} />}
        {me.may.includes("read the audit log") && <Route path="/audit" element={<AuditLog />} />}
        <Route path="/inspection/:id" element={<Navigate to="brief" replace />} />
        <Route path="/inspection/:id/:stage" element={<InspectionScreen me={me} />} />
        <Route path="*" element={<Navigate to="/" replace />} />
      </Routes>
    </Suspense>
  );
}
