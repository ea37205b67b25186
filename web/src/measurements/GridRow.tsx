/** A circuit's row of the grid, drawn anew when its own circuit, what is asked of it or its limits change. */
import { memo } from "react";
import { useDesk } from "../inspection/desk";
import { useEntity } from "../inspection/select";
import { useInspection } from "../inspection/open";
import { cableAndDevice, nameOf } from "../inspection/words";
import { applies, type Column } from "./columns";
import { Figure } from "./Figure";
import { ToPoints } from "./ToPoints";
import css from "./TestGrid.module.css";
import type { Tests } from "./columns";
import { askedOf, greatestAt } from "./verdicts";

const limitOf = (greatest: number | null | undefined) =>
  greatest == null ? "–" : greatest >= 100 ? greatest.toFixed(0) : greatest.toFixed(2);

/** Fields of a row's columns that apply to its circuit, as text. */
export const useApplying = (id: string, columns: readonly Column[], tests: Tests): string[] =>
  useInspection((s) => {
    const entity = s.model?.entities[id];
    const asked = askedOf(s.model?.judgement, tests);
    return entity
      ? columns
          .filter((column) => applies(column, entity, asked))
          .map(({ field }) => field)
          .join()
      : "";
  }).split(",");

interface Props {
  id: string;
  columns: readonly Column[];
  tests: Tests;
}

export const GridRow = memo(function GridRow({ id, columns, tests }: Props) {
  const circuit = useEntity(id);
  const here = useDesk((s) => s.focus?.id === id);
  const applying = useApplying(id, columns, tests);
  const limit = useInspection((s) => limitOf(greatestAt(s.model?.judgement, id, "zs_ohm")));
  const sum = useInspection((s) => s.model?.judgement?.sums[id] ?? "–");
  if (!circuit) return null;
  const name = nameOf(circuit);
  return (
    <tr data-here={here || undefined}>
      <td className={css.way}>{String(circuit.values.way ?? "")}</td>
      <th scope="row" className={css.circuit} title={name}>
        <span className={css.named}>
          <span>
            {String(circuit.values.designation ?? "Unnamed")} <small>{cableAndDevice(circuit.values)}</small>
          </span>
          {tests === "dead" && <ToPoints circuitId={id} name={name} />}
        </span>
      </th>
      {tests === "live" && <td className={css.info}>{limit}</td>}
      {tests === "live" && <td className={css.info}>{sum}</td>}
      {columns.map((column) =>
        applying.includes(column.field) ? (
          <td key={column.field} className={css.figure}>
            <Figure kind="circuit" id={id} column={column} of={name} />
          </td>
        ) : (
          <td key={column.field} className={css.none}>
            –
          </td>
        ),
      )}
    </tr>
  );
});
