/** What the screens need to know before any inspection: fields, catalogue, devices, house rules. */
import { useQuery } from "@tanstack/react-query";
import { api, answer, type FieldSpec, type Schemas } from "./client";
import { remembered } from "./remembered";
import { namesAre } from "./labels";

export function useReference(): Schemas["Reference"] | undefined {
  return useQuery({
    queryKey: ["reference"],
    queryFn: async () => {
      const reference = await remembered("reference", () => answer(api.GET("/api/reference")));
      namesAre(reference.fields);
      return reference;
    },
    staleTime: Number.POSITIVE_INFINITY,
  }).data;
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
