/** While a board is open: what stays live in it, who is there, and what has to come off and go back; the list opens by a tap. */
import { useState } from "react";
import { children } from "../inspection/model";
import { useInspection } from "../inspection/open";
import type { Entity } from "../inspection/types";
import { nameOf } from "../inspection/words";
import { Button } from "../ui/Button";
import { loaded } from "../ui/Loaded";
import { StageLine } from "../ui/StageHead";
import { withLooks } from "../ui/withLooks";
import { usePuttingBack } from "./usePuttingBack";

const PutBackDialog = loaded(
  null,
  withLooks(() => import("./PutBackDialog").then((m) => m.PutBackDialog)),
);

export function Apart({ board }: { board: Entity }) {
  const [opened, setOpened] = useState(false);
  const things = usePuttingBack(board.id);
  const state = useInspection((s) => s.model?.judgement?.boards.find((boardState) => boardState.board_id === board.id));
  const learning = useInspection((s) =>
    s.model
      ? children(s.model, "attendance", s.model.id)
          .filter(({ values }) => values.purpose === "trainee" && !values.left_at)
          .map(({ values }) => String(values.who ?? "A trainee"))
          .join(", ")
      : "",
  );
  const open = !!state?.proved_at && !state.restored;
  const coming = things.filter((putBack) => putBack.before && !putBack.off).length;
  const back = things.filter((putBack) => putBack.open).length;
  if (!open && !coming && !back) return null;
  const words = [coming && `${coming} to take off before 500 V`, back && `${back} to put back`].filter(Boolean);
  const short = [coming && `${coming} to take off`, back && `${back} to put back`].filter(Boolean);
  return (
    <StageLine label={`${nameOf(board)} is open`}>
      <span>
        {open && (
          <>
            <b>{state.stays_live}</b>
            {state.key_with ? ` Key with ${state.key_with}.` : ""}
            {learning ? ` ${learning} learns beside you.` : ""}
          </>
        )}
      </span>
      {things.length > 0 && (
        <Button size="sm" label={words.join(", ") || "Everything is back"} onClick={() => setOpened(true)}>
          {short.join(" · ") || "Everything is back"}
        </Button>
      )}
      {opened && <PutBackDialog board={board} close={() => setOpened(false)} />}
    </StageLine>
  );
}
