/** The highest reading of a circuit's points, told where it was read, and recorded for the circuit by a tap. */
import type { Schemas } from "../api/client";
import { useFieldSpec } from "../api/reference";
import { setField } from "../inspection/open";
import { type Entity, placeOf, valueIn } from "../inspection/types";
import { useTranslate } from "../inspection/words";
import { Button } from "../ui/Button";
import { type BenchPoint, inOhm } from "./useBench";
import css from "./bench.module.css";

/** The highest reading is the circuit's: told where it was read, and recorded by a tap. */
interface Props {
  circuit: Entity;
  points: readonly BenchPoint[];
  highest: Schemas["Highest"] | null;
}

export function Highest({ circuit, points, highest }: Props) {
  const translate = useTranslate();
  const spec = useFieldSpec("circuit", highest?.to ?? "");
  if (!highest || !spec) return null;
  const recorded = valueIn(circuit, highest.to);
  const where = points.find((benchPoint) => benchPoint.id === highest.point_id)?.name ?? "";
  const name = translate(spec.label);
  return (
    <div className={css.highest}>
      <span>
        Highest <b>{inOhm(highest.text)}</b> at {where}.{" "}
        {recorded != null ? `${name} recorded: ${inOhm(String(recorded))}.` : `${name} is not recorded yet.`}
      </span>
      {recorded !== highest.text && (
        <Button size="sm" onClick={() => setField(placeOf("circuit", circuit.id, highest.to), highest.text)}>
          Record {inOhm(highest.text)}
        </Button>
      )}
    </div>
  );
}
