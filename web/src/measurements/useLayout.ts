/** Which figures of a board stand where, and in which order they come. Anew only when that changes, not at every figure. */
import { useEffect, useMemo } from "react";
import { setOrder } from "../inspection/desk";
import { children } from "../inspection/model";
import { useInspection } from "../inspection/open";
import type { Kind, Place } from "../inspection/types";
import { type Column, COLUMNS, columnsFor, DEVICE_COLUMNS, order } from "./columns";
import { askedOf } from "./verdicts";

/** Figures of the board as a whole: field, label, unit, what to mind. Which of them are asked comes with the judgement. */
const WHOLE = [
  ["zdb_ohm", "Zdb at this board", "Ω", "with every bond reconnected"],
  ["insulation_ln_mohm", "Insulation of the board, L–N", "MΩ", "every circuit on, every load out"],
  ["insulation_lne_mohm", "Insulation of the board, L+N–E", "MΩ", "measure the circuits apart where it is low"],
] as const;

export type Whole = (typeof WHOLE)[number];

export interface Layout {
  columns: readonly Column[];
  deviceColumns: readonly Column[];
  whole: readonly Whole[];
  /** Every figure in the order of the work. */
  places: readonly Place[];
}

export type Tests = "dead" | "live";

/** As text, so that two layouts can be told to be the same. */
type Written = [columns: string[], deviceColumns: string[], whole: string[], places: [Kind, string, string][]];

const NONE = JSON.stringify([[], [], [], []] satisfies Written);

export function useLayout(boardId: string | undefined, tests: Tests, byTest: boolean): Layout {
  const written = useInspection((s) => {
    if (!s.model || !boardId) return NONE;
    const { judgement } = s.model;
    const asked = askedOf(judgement, tests);
    const circuits = children(s.model, "circuit", boardId);
    const devices = tests === "live" ? children(s.model, "rcd", boardId) : [];
    const columns = columnsFor(COLUMNS[tests], circuits, asked);
    const deviceColumns = columnsFor(DEVICE_COLUMNS, devices, asked);
    const ofBoard = asked.get(boardId);
    const whole = WHOLE.filter(([field]) => ofBoard?.fields.includes(field) || ofBoard?.more.includes(field));
    const places: Place[] = [
      ...whole.map(([field]): Place => ({ kind: "board", id: boardId, field })),
      ...order("rcd", deviceColumns, devices, asked, byTest),
      ...order("circuit", columns, circuits, asked, byTest),
    ];
    return JSON.stringify([
      columns.map(({ field }) => field),
      deviceColumns.map(({ field }) => field),
      whole.map(([field]) => field),
      places.map(({ kind, id, field }) => [kind, id, field]),
    ] satisfies Written);
  });
  const layout = useMemo((): Layout => {
    const [columns, deviceColumns, whole, places] = JSON.parse(written) as Written;
    return {
      columns: COLUMNS[tests].filter(({ field }) => columns.includes(field)),
      deviceColumns: DEVICE_COLUMNS.filter(({ field }) => deviceColumns.includes(field)),
      whole: WHOLE.filter(([field]) => whole.includes(field)),
      places: places.map(([kind, id, field]) => ({ kind, id, field })),
    };
  }, [written, tests]);
  useEffect(() => setOrder([...layout.places]), [layout]);
  return layout;
}
