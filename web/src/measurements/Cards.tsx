/** The grid on a phone: one circuit under another, each test with its name beside its figure. */
import { memo, useDeferredValue } from "react";
import { useEntity } from "../inspection/select";
import { cableAndDevice, nameOf, useTranslate } from "../inspection/words";
import type { Column } from "./columns";
import { Figure } from "./Figure";
import { ToPoints } from "./ToPoints";
import { useApplying } from "./GridRow";
import css from "./TestGrid.module.css";
import type { Tests } from "./columns";

interface Props {
  ids: readonly string[];
  columns: readonly Column[];
  tests: Tests;
}

/** So many fill a phone; the others follow a moment later, in slices. */
const FIRST = 3;

export function Cards({ ids, columns, tests }: Props) {
  const drawn = useDeferredValue(ids, ids.slice(0, FIRST));
  return (
    <ul className={css.cards}>
      {drawn.map((id) => (
        <Card key={id} id={id} columns={columns} tests={tests} />
      ))}
    </ul>
  );
}

const Card = memo(function Card({ id, columns, tests }: Omit<Props, "ids"> & { id: string }) {
  const translate = useTranslate();
  const circuit = useEntity(id);
  const applying = useApplying(id, columns, tests);
  if (!circuit || circuit.values.spare) return null;
  const name = nameOf(circuit);
  return (
    <li>
      <div className={css.cardHead}>
        <span>
          <b>{name}</b> <small>{cableAndDevice(circuit.values)}</small>
        </span>
        <ToPoints circuitId={id} name={name} live={tests === "live"} />
      </div>
      <div className={css.card}>
        {columns
          .filter((column) => applying.includes(column.field))
          .map((column) => (
            <div key={column.field}>
              <span>{`${translate(column.head[0])} ${column.head[1]}`.trim()}</span>
              <Figure kind="circuit" id={id} column={column} of={name} boxed />
            </div>
          ))}
      </div>
    </li>
  );
});
