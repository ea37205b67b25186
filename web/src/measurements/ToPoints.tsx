/** From a circuit of the grid to its points: how many of them have a reading. */
import { useInspection } from "../inspection/open";
import { Link } from "../ui/Link";
import css from "./TestGrid.module.css";

export function ToPoints({ circuitId, name, live }: { circuitId: string; name: string; live: boolean }) {
  const count = useInspection((s) => {
    const bench = s.model?.judgement?.benches.find((one) => one.circuit_id === circuitId);
    return (
      bench &&
      `${bench.points.filter((benchPoint) => (live ? benchPoint.live : benchPoint.tested)).length}/${bench.points.length}`
    );
  });
  if (!count) return null;
  return (
    <Link
      className={css.toPoints}
      to={`?circuit=${circuitId}`}
      aria-label={`${count} points of ${name} tested`}
      title="Test point by point"
    >
      {count} <span aria-hidden>›</span>
    </Link>
  );
}
