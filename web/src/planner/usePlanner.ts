/** The plan as the server has it, and what is done to it: each change is told with what moved beside it. */
import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api, answer, Refused, type Schemas } from "../api/client";
import { explain, explainField } from "../api/errors";

export type Plan = Schemas["PlannerOut"];
export type PlanVisit = Schemas["PlanVisitOut"];
export type PlanStop = Schemas["PlanStopOut"];
export type PlanDay = Schemas["PlanDayOut"];
export type PlanInspector = Schemas["PlanInspectorOut"];
export type WayOut = Schemas["WayOutOut"];
type Changed = Schemas["PlanChangedOut"];

/** Where a visit is put: minutes since midnight, null for any time of that day. */
export interface Target {
  inspector_id: string;
  day: string;
  begins: number | null;
}

/** How often a run is asked how far it is (ms). */
const ASK = 400;

/** What came of the last thing that was done. */
export interface Told {
  words: string;
  trouble: boolean;
  moved: Changed["moved"];
}

export function usePlanner(week: string | null) {
  const queries = useQueryClient();
  const [told, setTold] = useState<Told | null>(null);
  const [busy, setBusy] = useState(false);
  // The run that was begun here, until what came of it was read.
  const [watched, setWatched] = useState("");
  const plan = useQuery({
    queryKey: ["planner", week],
    queryFn: () => answer(api.GET("/api/planner", { params: { query: week ? { week } : {} } })),
    placeholderData: keepPreviousData,
    staleTime: 0,
  });
  const { refetch } = plan;
  const running = plan.data?.run?.state === "running";
  const run = useQuery({
    queryKey: ["plan-run"],
    queryFn: () => answer(api.GET("/api/planner/runs/latest")),
    enabled: running,
    refetchInterval: ASK,
    staleTime: 0,
  });
  const asked = running && run.data?.id === plan.data?.run?.id ? run.data : plan.data?.run;
  const ended = running && asked != null && asked.state !== "running";
  useEffect(() => {
    if (ended) void refetch();
  }, [ended, refetch]);
  const ofRun: Told | null =
    asked && asked.id === watched && asked.state !== "running"
      ? { words: asked.told ?? "", trouble: asked.state === "failed", moved: plan.data?.moved ?? [] }
      : null;

  const act = async (words: string, call: () => Promise<Changed>, field = "day") => {
    setBusy(true);
    setWatched("");
    try {
      const changed = await call();
      setTold({ words, trouble: false, moved: changed.moved });
    } catch (error) {
      const message = error instanceof Refused ? explainField(error, field) : explain(error);
      setTold({ words: message, trouble: true, moved: [] });
    }
    setBusy(false);
    await refetch();
    void queries.invalidateQueries({ queryKey: ["portfolio"] });
  };
  const path = (visit: PlanVisit) => ({ params: { path: { visit_id: visit.id } } });
  return {
    plan,
    run: asked ?? null,
    told: told ?? ofRun,
    busy,
    dismiss: () => {
      setTold(null);
      setWatched("");
    },
    move: (visit: PlanVisit, to: Target) =>
      act(`${visit.name} moved.`, () =>
        answer(
          api.POST("/api/planner/visits/{visit_id}/move", { ...path(visit), body: { ...to, version: visit.version } }),
        ),
      ),
    hold: (visit: PlanVisit, pinned: boolean) =>
      act(
        pinned ? `${visit.name} stays there.` : `Planning may move ${visit.name} again.`,
        () =>
          answer(
            api.POST("/api/planner/visits/{visit_id}/hold", {
              ...path(visit),
              body: { pinned, version: visit.version },
            }),
          ),
        "pinned",
      ),
    book: (visit: PlanVisit) =>
      act(`${visit.name} booked.`, () => answer(api.POST("/api/planner/visits/{visit_id}/booking", path(visit)))),
    unbook: (visit: PlanVisit) =>
      act(`Booking of ${visit.name} cancelled.`, () =>
        answer(api.DELETE("/api/planner/visits/{visit_id}/booking", path(visit))),
      ),
    take: (visit: PlanVisit, { kind, inspector_id, day, earlier_min, moved }: WayOut) =>
      act(`${visit.name} fits now.`, () =>
        answer(
          api.POST("/api/planner/visits/{visit_id}/ways-out", {
            ...path(visit),
            body: { kind, inspector_id, day, earlier_min, moved },
          }),
        ),
      ),
    begin: async (anew: boolean) => {
      setTold(null);
      try {
        setWatched((await answer(api.POST("/api/planner/runs", { body: { anew } }))).id);
      } catch (error) {
        setTold({ words: explain(error), trouble: true, moved: [] });
      }
      await refetch();
    },
    stop: async (id: string) => {
      await answer(api.POST("/api/planner/runs/{run_id}/stop", { params: { path: { run_id: id } } })).catch(
        () => undefined,
      );
    },
  };
}

export type Planning = ReturnType<typeof usePlanner>;
