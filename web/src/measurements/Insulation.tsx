/** A board's insulation as it adds up: one line under the board; each circuit's part is a tap away. */
import { useState } from "react";
import { Mark } from "../drawings/Mark";
import type { Entity } from "../inspection/types";
import { Button } from "../ui/Button";
import { loaded } from "../ui/Loaded";
import { StageLine } from "../ui/StageHead";
import { withLooks } from "../ui/withLooks";
import { useServedInsulation } from "./useServedInsulation";

const InsulationDialog = loaded(
  null,
  withLooks(() => import("./InsulationDialog").then((m) => m.InsulationDialog)),
);

export function Insulation({ board }: { board: Entity }) {
  const [opened, setOpened] = useState(false);
  const [insulationBench] = useServedInsulation(board.id);
  const first = insulationBench?.rows.filter((row) => row.first).map((row) => row.name) ?? [];
  return (
    <StageLine>
      {insulationBench ? (
        <span>
          {insulationBench.status !== "pass" && <Mark status={insulationBench.status} />} Insulation together{" "}
          <b data-figure>{insulationBench.combined} MΩ</b>
          {insulationBench.missing.length > 0 && `, ${insulationBench.missing.length} not in it`}.
          {first.length > 0 && (
            <b>
              {" "}
              Open {first.join(", ")} first{insulationBench.without ? `: ${insulationBench.without} MΩ without` : ""}.
            </b>
          )}
        </span>
      ) : (
        <span>Insulation: nothing measured yet.</span>
      )}
      <Button size="sm" label="Insulation circuit by circuit" onClick={() => setOpened(true)}>
        Circuit by circuit
      </Button>
      {opened && <InsulationDialog board={board} close={() => setOpened(false)} />}
    </StageLine>
  );
}
