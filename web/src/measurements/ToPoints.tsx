/** From a circuit of the grid to its points: how many of them have a reading. */
import { Link } from "react-router";
import { useInspection } from "../inspection/open";
import css from "./TestGrid.module.css";

export function ToPoints({ circuitId, name }: { circuitId: string; name: string }) {
  const told = useInspection((s) => {
    const bench = s.model?.judgement?.benches.find((one) => one.circuit_id === circuitId);
    return bench && `${bench.points.filter((one) => one.tested).length}/${bench.points.length}`;
  });
  if (!told) return null;
  return (
    <Link
      className={css.toPoints}
      to={`?circuit=${circuitId}`}
      aria-label={`${told} points of ${name} tested`}
      title="Test point by point"
    >
      {told} <span aria-hidden>›</span>
    </Link>
  );
}
