/** Small views of the open inspection: what draws a thing is drawn anew when that thing changed, and not otherwise. */
import { useShallow } from "zustand/react/shallow";
import { children } from "./model";
import { useInspection } from "./sync";
import type { Entity, Kind } from "./types";

export function useEntity(id: string): Entity | undefined {
  return useInspection((s) => s.model?.entities[id]);
}

/** What stands in an entity, in its order: anew where one of them changed. */
export function useChildren(kind: Kind, parentId: string | undefined): Entity[] {
  return useInspection(useShallow((s) => (s.model && parentId ? children(s.model, kind, parentId) : [])));
}

/** Ids of what stands in an entity, in its order: anew only where one came, went or moved. */
export function useChildIds(kind: Kind, parentId: string | undefined): string[] {
  return useInspection(
    useShallow((s) => (s.model && parentId ? children(s.model, kind, parentId).map((one) => one.id) : [])),
  );
}
