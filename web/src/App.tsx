/** Who is signed in, and which screen is open. Screens beyond the first are loaded when they are opened. */
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { lazy, Suspense } from "react";
import { Navigate, Route, Routes } from "react-router";
import { api, answer, Refused } from "./api/client";
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
const InspectionScreen = lazy(() => import("./shell/InspectionScreen"));

export function App() {
  const queries = useQueryClient();
  const session = useQuery({
    queryKey: ["session"],
    queryFn: () => answer(api.GET("/api/session")),
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  if (session.isPending) return <Loading what="Dorrik" />;
  if (session.isError) {
    if (!(session.error instanceof Refused) || session.error.status !== 401) {
      return <Trouble message="The server cannot be reached. What waits on this device is safe." again={() => session.refetch()} />;
    }
    return <SignIn done={(me) => queries.setQueryData(["session"], me)} />;
  }
  const me = session.data;
  return (
    <Suspense fallback={<Loading what="the screen" />}>
      <Routes>
        <Route path="/" element={<Home me={me} />} />
        <Route path="/clients" element={<Clients me={me} />} />
        <Route path="/client/:id" element={<Client />} />
        <Route path="/property/:id" element={<Property />} />
        <Route path="/job/:id" element={<Job me={me} />} />
        <Route path="/instruments" element={<Instruments me={me} />} />
        <Route path="/firm" element={<FirmScreen />} />
        <Route path="/inspection/:id" element={<Navigate to="brief" replace />} />
        <Route path="/inspection/:id/:stage" element={<InspectionScreen me={me} />} />
        <Route path="*" element={<Navigate to="/" replace />} />
      </Routes>
    </Suspense>
  );
}
