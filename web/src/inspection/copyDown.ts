/** A limitation said once for the figures below it that are still empty: `LIM` with the same reason, never a figure. */
import { useMemo } from "react";
import { tell } from "../ui/tell";
import { same, useDesk } from "./desk";
import { setField, useInspection } from "./open";
import { type Place, type Value, placeOf } from "./types";

export const isLimited = (value: unknown): value is string =>
  typeof value === "string" && value.toUpperCase().startsWith("LIM");

const valueAt = (place: Place): Value | undefined =>
  useInspection.getState().model?.entities[place.id]?.values[place.field];

/** Figures of the same test that come after a place and are empty. */
function emptyBelow(order: readonly Place[], place: Place): Place[] {
  const at = order.findIndex((one) => same(one, place));
  return at < 0
    ? []
    : order.slice(at + 1).filter((one) => one.kind === place.kind && one.field === place.field && valueAt(one) == null);
}

/** Those that a limitation at the place can be said of too. */
export function useSameBelow(place: Place): Place[] {
  const order = useDesk((s) => s.order);
  const written = useInspection((s) =>
    isLimited(s.model?.entities[place.id]?.values[place.field])
      ? emptyBelow(order, place)
          .map(({ id }) => id)
          .join()
      : "",
  );
  return useMemo(
    () => (written ? written.split(",").map((id) => placeOf(place.kind, id, place.field)) : []),
    [written, place.kind, place.field],
  );
}

/** Say it of all of them; also: the field in which the reason is kept too. Can be taken back at once. */
export function copyDown(place: Place, also = ""): void {
  const limited = valueAt(place);
  if (!isLimited(limited)) return;
  const to = emptyBelow(useDesk.getState().order, place);
  const reason = also ? (valueAt(placeOf(place.kind, place.id, also)) ?? null) : null;
  for (const target of to) {
    setField(target, limited);
    if (reason !== null) setField(placeOf(target.kind, target.id, also), reason);
  }
  tell(`${limited}: said of ${to.length} more.`, () => {
    for (const target of to) {
      setField(target, null);
      if (reason !== null) setField(placeOf(target.kind, target.id, also), null);
    }
  });
}
