/** The live tests of one circuit at its points: Zs and voltages, the highest Zs carried up. */
import { Box } from "@chakra-ui/react";
import { ZsBar } from "../drawings/ZsBar";
import { FieldInput } from "../fields/FieldInput";
import { useInspection } from "../inspection/open";
import { useEntity } from "../inspection/select";
import type { Entity } from "../inspection/types";
import { cableAndDevice, nameOf } from "../inspection/words";
import { Reminder } from "../measurements/Reminder";
import { markAt } from "../measurements/verdicts";
import { Button } from "../ui/Button";
import { StageHead } from "../ui/StageHead";
import { Empty } from "../ui/States";
import { Highest } from "./Highest";
import { PointTable } from "./PointTable";
import { useBench, usePointOrder } from "./useBench";
import { useFinish } from "./useFinish";
import css from "./bench.module.css";

const NONE: never[] = [];

export function LiveBench({ circuit, go }: { circuit: Entity; go: (circuitId: string | null) => void }) {
  const board = useEntity(circuit.parentId);
  const bench = useBench(circuit.id);
  const scale = useInspection((s) =>
    s.model?.judgement?.zs_scales.find((zsScale) => zsScale.circuit_id === circuit.id),
  );
  const status = useInspection((s) => markAt(s.model?.judgement, circuit.id, "zs_ohm"));
  useFinish(circuit, bench, true, go);
  usePointOrder(NONE, bench?.points ?? NONE, bench?.live_fields ?? NONE, circuit.id, bench?.second);
  return (
    <div className={css.screen}>
      <StageHead title={nameOf(circuit)} line={cableAndDevice(circuit.values)}>
        <Button onClick={() => go(null)}>All circuits</Button>
      </StageHead>
      {board && <Reminder live board={board} />}
      {!bench?.points.length ? (
        <Empty title="No points on this circuit">
          Points assigned under Walk-round are listed here, in the order of the walk.
        </Empty>
      ) : (
        <div className={css.live}>
          {scale && (
            <div className={css.scale}>
              <ZsBar scale={scale} status={status} />
              <span>
                {scale.limit}: max {scale.held_ohm.toFixed(2)} Ω as read
              </span>
            </div>
          )}
          <Highest circuit={circuit} points={bench.points} highest={bench.highest_zs} />
          <Box maxW="16rem" pb="2">
            <FieldInput
              place={{ kind: "circuit", id: circuit.id, field: "live_r1_r2_ohm" }}
              hint="Stands beside the dead test, never for it."
            />
          </Box>
          <PointTable bench={bench} fields={bench.live_fields} radial={false} />
        </div>
      )}
    </div>
  );
}
