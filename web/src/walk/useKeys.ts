/** The walk by keyboard: digits count, arrows go from point to point, a letter says how it was found. */
import { useLayoutEffect } from "react";
import { useReference } from "../api/reference";
import { useInspection } from "../inspection/open";
import { usualKinds } from "./Dock";
import { pointsOf } from "./points";
import { addPoint, choose, likelyNext, mark, nextRoom, openRoom, press, restFine, select, useWalking } from "./walking";

export function useKeys(): void {
  const usual = useReference()?.usual_rooms;
  useLayoutEffect(() => {
    if (!usual) return;
    function keyDown(event: KeyboardEvent) {
      const target = event.target as HTMLElement;
      const model = useInspection.getState().model;
      // Asked as the key comes, not as the screen was drawn: keys follow each other faster than that.
      const { choosing, adding, point: chosen, room: open } = useWalking.getState();
      const room = model ? openRoom(model, open) : undefined;
      if (choosing && /^[1-9]$/.test(event.key)) {
        event.preventDefault();
        press(Number(event.key));
        return;
      }
      if (choosing || adding || !room || !usual || !model || event.ctrlKey || event.metaKey || event.altKey) return;
      if (target.matches("input, textarea, select, [contenteditable]") || target.closest("[role=dialog]")) return;
      const points = pointsOf(model, room.id);
      const at = points.findIndex((entity) => entity.id === chosen);
      const point = points[at];
      const kind = /^[1-9]$/.test(event.key) ? usualKinds(room, usual)[Number(event.key) - 1] : undefined;
      const onPoint: Record<string, () => void> = point
        ? {
            f: () => mark(point, "looked", "fine"),
            d: () => choose(point.id),
            b: () => mark(point, "not_reached", point.values.not_reached ?? "furniture in the way"),
            e: () => mark(point, "opened", true),
          }
        : {};
      const step = (by: number) =>
        select((points[Math.max(0, Math.min(points.length - 1, at + by))] ?? point)?.id ?? null);
      const act: Record<string, () => void> = {
        ...onPoint,
        arrowdown: () => step(1),
        arrowup: () => step(at < 0 ? points.length : -1),
        n: () => {
          const view = model.judgement?.rooms.find((one) => one.id === room.id);
          restFine(room, view?.checks ?? []);
          nextRoom(room, likelyNext(model, usual));
        },
        p: () => {
          const files = document.querySelector<HTMLInputElement>('input[aria-label="Take a photo"]');
          // The same file can be taken again.
          if (files) files.value = "";
          files?.click();
        },
        ...(kind ? { [event.key]: () => addPoint(room, kind) } : {}),
      };
      const action = act[event.key.toLowerCase()];
      if (!action) return;
      event.preventDefault();
      action();
    }
    document.addEventListener("keydown", keyDown);
    return () => document.removeEventListener("keydown", keyDown);
  }, [usual]);
}
