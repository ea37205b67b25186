/** What the screens need to know before any inspection: fields, catalogue, devices, house rules. */
import { QueryObserver, type QueryClient, useQueryClient } from "@tanstack/react-query";
import { useMemo, useSyncExternalStore } from "react";
import { api, answer, type FieldSpec, type Schemas } from "./client";
import { remembered } from "./remembered";
import { namesAre } from "./labels";

type Reference = Schemas["Reference"];

const REFERENCE = {
  queryKey: ["reference"],
  queryFn: async () => {
    const reference = await remembered("reference", () => answer(api.GET("/api/reference")));
    namesAre(reference.fields);
    return reference;
  },
  staleTime: Number.POSITIVE_INFINITY,
};

/** Every cell and every field asks for it: they share one observer, which costs a screen of a hundred of them nothing. */
function watched(queries: QueryClient) {
  const observer = new QueryObserver<Reference>(queries, REFERENCE);
  return {
    subscribe(drawAnew: () => void): () => void {
      // Nobody looked on for a while: what was known may have been let go meanwhile.
      if (!observer.hasListeners()) observer.setOptions(REFERENCE);
      return observer.subscribe(drawAnew);
    },
    now: (): Reference | undefined => queries.getQueryData(REFERENCE.queryKey),
  };
}

const known = new WeakMap<QueryClient, ReturnType<typeof watched>>();

export function useReference(): Reference | undefined {
  const queries = useQueryClient();
  const reference = useMemo(() => {
    const before = known.get(queries) ?? watched(queries);
    known.set(queries, before);
    return before;
  }, [queries]);
  return useSyncExternalStore(reference.subscribe, reference.now);
}

const NOTHING: readonly string[] = [];

/** Kinds of things that an observation can be about. */
export function useObservable(): readonly string[] {
  return useReference()?.fields.observation?.about_entity?.choices ?? NOTHING;
}

/** Kinds of things that can be left to come back to. */
export function useParkable(): readonly string[] {
  return useReference()?.fields.come_back?.about_entity?.choices ?? NOTHING;
}

export function useFieldSpec(kind: string, field: string): FieldSpec | undefined {
  return useReference()?.fields[kind]?.[field];
}
