/** A circuit's row of the grid, drawn anew when its own circuit, what is asked of it or its limits change. */
import { memo } from "react";
import { Spark } from "../drawings/Spark";
import { ZsBar } from "../drawings/ZsBar";
import { useAside } from "../inspection/aside";
import { useDesk } from "../inspection/desk";
import { useEntity } from "../inspection/select";
import { useInspection } from "../inspection/open";
import { cableAndDevice, nameOf } from "../inspection/words";
import { applies, type Column } from "./columns";
import { Figure } from "./Figure";
import { ToPoints } from "./ToPoints";
import css from "./TestGrid.module.css";
import type { Tests } from "./columns";
import { askedOf, markAt, scalesOf } from "./verdicts";

const limitOf = (greatest: number) => (greatest >= 100 ? greatest.toFixed(0) : greatest.toFixed(2));
/** The dot of today at the end of the years. */
const TODAY = new Date().toISOString().slice(0, 10);

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

/** The loop against its limits, and over the years where earlier reports are known. */
function Loop({ circuitId, years }: { circuitId: string; years: boolean }) {
  const scale = useInspection((s) => scalesOf(s.model?.judgement).byCircuit.get(circuitId));
  const status = useInspection((s) => markAt(s.model?.judgement, circuitId, "zs_ohm"));
  if (!scale)
    return (
      <td className={css.none} colSpan={years ? 2 : 1}>
        –
      </td>
    );
  const now = scale.read_ohm === null ? [] : [{ on: TODAY, text: "", value: scale.read_ohm }];
  return (
    <>
      <td className={css.bar} title={`${scale.limit}: max ${limitOf(scale.full_ohm)} Ω`}>
        <ZsBar scale={scale} status={status} />
        <span>max {limitOf(scale.held_ohm)}</span>
      </td>
      {years && (
        <td className={css.years}>{scale.before.length > 0 && <Spark points={[...scale.before, ...now]} />}</td>
      )}
    </>
  );
}

/** With more figures than these the earlier years give way to them. */
export const FEW = 3;

/** Are there earlier years to be drawn, and room for them? */
export const useYears = (columns: readonly Column[]): boolean =>
  useInspection((s) => scalesOf(s.model?.judgement).years) && columns.length <= FEW;

interface Props {
  id: string;
  columns: readonly Column[];
  tests: Tests;
}

export const GridRow = memo(function GridRow({ id, columns, tests }: Props) {
  const circuit = useEntity(id);
  const here = useDesk((s) => s.focus?.id === id);
  const applying = useApplying(id, columns, tests);
  const years = useYears(columns);
  const leftOut = useAside(id);
  if (!circuit) return null;
  const name = nameOf(circuit);
  return (
    <tr data-here={here || undefined} data-aside={leftOut ? true : undefined}>
      <td className={css.way}>{String(circuit.values.way ?? "")}</td>
      <th scope="row" className={css.circuit} title={name}>
        <span className={css.named}>
          <span>
            {String(circuit.values.designation ?? "Unnamed")}{" "}
            <small>{leftOut ? leftOut.state : cableAndDevice(circuit.values)}</small>
          </span>
          <ToPoints circuitId={id} name={name} live={tests === "live"} />
        </span>
      </th>
      {tests === "live" && <Loop circuitId={id} years={years} />}
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
