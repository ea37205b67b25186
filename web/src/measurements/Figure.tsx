/** One figure of the grid: it watches its own verdict, so that another's changes nothing here. */
import { memo, useMemo } from "react";
import { ReadingCell } from "../fields/ReadingCell";
import { useInspection } from "../inspection/open";
import { useOvertaken } from "../inspection/select";
import { type Kind, placeOf } from "../inspection/types";
import type { Column } from "./columns";
import { greatestAt, markAt } from "./verdicts";

interface Props {
  kind: Kind;
  id: string;
  column: Column;
  /** The name of what is tested. */
  of: string;
  boxed?: boolean;
}

export const Figure = memo(function Figure({ kind, id, column, of, boxed }: Props) {
  const { field } = column;
  const place = useMemo(() => placeOf(kind, id, field), [kind, id, field]);
  const overtaken = useOvertaken(id, field);
  const status = useInspection((s) => (overtaken ? undefined : markAt(s.model?.judgement, id, field)));
  // Only what a ring's ends lead to is shown before it is measured: a limit is no expectation.
  const greatest = useInspection((s) => (field === "r1_r2_ohm" ? greatestAt(s.model?.judgement, id, field) : null));
  return (
    <ReadingCell
      place={place}
      label={`${of}, ${column.head.join(" ")}`.trim()}
      check={column.check}
      status={status}
      ghost={greatest == null ? undefined : `≤ ${greatest.toFixed(2)}`}
      boxed={boxed}
    />
  );
});
