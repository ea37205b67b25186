/** Which figures of a board stand where, and in which order they come. Anew only when that changes, not at every figure. */
import { useEffect, useMemo } from "react";
import type { Schemas } from "../api/client";
import { useReference } from "../api/reference";
import { setOrder } from "../inspection/desk";
import { children } from "../inspection/model";
import { useInspection } from "../inspection/open";
import { type Kind, type Place, placeOf } from "../inspection/types";
import { type Column, columnsFor, columnsOf, order, type Tests } from "./columns";
import { askedOf } from "./verdicts";

/** A figure of the board as a whole. */
export type Whole = Schemas["ColumnOut"];

export interface Layout {
  columns: readonly Column[];
  deviceColumns: readonly Column[];
  whole: readonly Whole[];
  /** Every figure in the order of the work. */
  places: readonly Place[];
}

/** As text, so that two layouts can be told to be the same. */
type Written = [columns: string[], deviceColumns: string[], whole: string[], places: [Kind, string, string][]];

const NONE = JSON.stringify([[], [], [], []] satisfies Written);

export function useLayout(boardId: string | undefined, tests: Tests, byTest: boolean): Layout {
  const reference = useReference();
  const written = useInspection((s) => {
    if (!s.model || !boardId || !reference) return NONE;
    const { judgement } = s.model;
    const asked = askedOf(judgement, tests);
    const circuits = children(s.model, "circuit", boardId);
    const devices = tests === "live" ? children(s.model, "rcd", boardId) : [];
    const columns = columnsFor(columnsOf(reference, "circuit", tests), circuits, asked);
    const deviceColumns = columnsFor(columnsOf(reference, "rcd", tests), devices, asked);
    const ofBoard = asked.get(boardId);
    const whole = (reference.columns.board ?? []).filter(
      ({ key }) => ofBoard?.fields.includes(key) || ofBoard?.more.includes(key),
    );
    const places: Place[] = [
      ...whole.map(({ key }) => placeOf("board", boardId, key)),
      ...order("rcd", deviceColumns, devices, asked, byTest),
      ...order("circuit", columns, circuits, asked, byTest),
    ];
    return JSON.stringify([
      columns.map(({ field }) => field),
      deviceColumns.map(({ field }) => field),
      whole.map(({ key }) => key),
      places.map(({ kind, id, field }) => [kind, id, field]),
    ] satisfies Written);
  });
  const layout = useMemo((): Layout => {
    const [columns, deviceColumns, whole, places] = JSON.parse(written) as Written;
    return {
      columns: reference ? columnsOf(reference, "circuit", tests).filter(({ field }) => columns.includes(field)) : [],
      deviceColumns: reference
        ? columnsOf(reference, "rcd", tests).filter(({ field }) => deviceColumns.includes(field))
        : [],
      whole: (reference?.columns.board ?? []).filter(({ key }) => whole.includes(key)),
      places: places.map(([kind, id, field]) => placeOf(kind, id, field)),
    };
  }, [written, tests, reference]);
  useEffect(() => setOrder([...layout.places]), [layout]);
  return layout;
}
