/** The list of what tests took apart at a board, opened from beside its figures. */
import type { Entity } from "../inspection/types";
import { nameOf } from "../inspection/words";
import { Dialog } from "../ui/Dialog";
import { PutBackList } from "./PutBackList";

export function PutBackDialog({ board, close }: { board: Entity; close: () => void }) {
  return (
    <Dialog title={`Taken off at ${nameOf(board)}`} close={close} width="38rem">
      <PutBackList boardId={board.id} />
    </Dialog>
  );
}
