/** What is asked before tests begin: the isolation, and the usual care. */
import { answerReminder, useDesk } from "../inspection/desk";
import { useInspection } from "../inspection/open";
import type { Entity } from "../inspection/types";
import { nameOf } from "../inspection/words";
import { Banner } from "../ui/Banner";
import { Button, LinkButton } from "../ui/Button";

/** Asked once a visit: isolation before dead tests, the usual care before live ones. Never in the way of a note. */
export function Reminder({ live, board }: { live: boolean; board: Entity }) {
  const id = useInspection((s) => s.model?.id) ?? "";
  const key = live ? `live.${id}` : `dead.${board.id}`;
  const answered = useDesk((s) => s.answered[key]);
  const isolated = useInspection(
    (s) => !!s.model?.judgement?.boards.find((boardState) => boardState.board_id === board.id)?.proved_at,
  );
  if (answered || (!live && isolated)) return null;
  return (
    <Banner
      role="note"
      acts={
        <>
          {!live && (
            <LinkButton variant="action" to={`/inspection/${id}/isolation`}>
              Record isolation
            </LinkButton>
          )}
          <Button onClick={() => answerReminder(key)}>{live ? "Understood" : "Not now"}</Button>
        </>
      }
    >
      {live ? (
        <>
          <b>Live tests.</b> Insulated tools, shrouded probes, nobody else near; every conductor and bond back in place
          first.
        </>
      ) : (
        <>
          <b>No safe isolation is recorded for {nameOf(board)}.</b> Before insulation tests: unplug equipment, warn
          people, disconnect SPDs.
        </>
      )}
    </Banner>
  );
}
