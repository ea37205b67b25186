/** Small views of the open inspection: what draws a thing is drawn anew when that thing changed, and not otherwise. */
import { useShallow } from "zustand/react/shallow";
import { children, type Model } from "./model";
import { useInspection } from "./open";
import { useReach } from "./transport";
import type { Entity, EntityOf, Kind } from "./types";

export function useEntity(id: string): Entity | undefined {
  return useInspection((s) => s.model?.entities[id]);
}

/** Whether this device's own verdicts are shown, and how many questions they have not answered yet. */
const ownLeft = (s: { model: Model | null }): number | null => {
  const own = s.model?.own;
  return own?.trusted && own.judgement ? own.asked - own.answered : null;
};

/** How many entries here no verdict knows of yet, where nobody who judges can be asked; else none. */
export function useUnjudged(): number {
  const asked = useReach((s) => s.reach === "ok");
  return useInspection((s) =>
    asked || ownLeft(s) !== null ? 0 : (s.model?.pending.filter((p) => !p.refused).length ?? 0),
  );
}

/** Whether the verdict that stands at a figure is of what was there before, and stays so for now. */
export function useOvertaken(id: string, field: string): boolean {
  const asked = useReach((s) => s.reach === "ok");
  return useInspection(
    (s) =>
      !asked &&
      ownLeft(s) === null &&
      !!s.model?.pending.some((p) => p.change.entity_id === id && p.change.field === field),
  );
}

/** Whether what was entered at a figure waits for its verdict: of this device, or else of the server. */
export function useWaits(id: string, field: string): boolean {
  return useInspection((s) => {
    const left = ownLeft(s);
    if (left !== null) return left > 0;
    return !!s.model?.pending.some((p) => !p.refused && p.change.entity_id === id && p.change.field === field);
  });
}

/** What stands in an entity, in its order: anew where one of them changed. */
export function useChildren<K extends Kind>(kind: K, parentId: string | undefined): EntityOf<K>[] {
  return useInspection(useShallow((s) => (s.model && parentId ? children(s.model, kind, parentId) : [])));
}

/** Ids of what stands in an entity, in its order: anew only where one came, went or moved. */
export function useChildIds(kind: Kind, parentId: string | undefined): string[] {
  return useInspection(
    useShallow((s) => (s.model && parentId ? children(s.model, kind, parentId).map((child) => child.id) : [])),
  );
}
