/** The run sheet: the stages in the order of work, what is left in each, and a mark where something is wrong. */
import { memo, useEffect, useRef } from "react";
import type { Judgement, Stage, Status } from "../api/client";
import { useObservable, useParkable } from "../api/reference";
import { comeBackHere } from "../inspection/comeBack";
import { observeHere } from "../inspection/desk";
import { useInspection } from "../inspection/open";
import { Button } from "../ui/Button";
import { Link } from "../ui/Link";
import { useAfterPaint } from "../ui/useAfterPaint";
import css from "./RunSheet.module.css";
import { STAGE_NAMES, STAGES } from "../inspection/stages";

/** On a phone the stages run sideways: the open one is brought into sight. */
function useInSight(stage: Stage): React.RefObject<HTMLAnchorElement | null> {
  const here = useRef<HTMLAnchorElement>(null);
  useEffect(() => {
    const step = here.current;
    if (!step) return;
    // Told once the page is laid out, and before it is painted: to scroll at once would lay it out in between.
    const placed = new ResizeObserver(() => {
      placed.disconnect();
      step.scrollIntoView({ block: "nearest", inline: "center" });
    });
    placed.observe(step);
    return () => placed.disconnect();
  }, [stage]);
  return here;
}

export function RunSheet({ stage }: { stage: Stage }) {
  const judgement = useInspection((s) => s.model?.judgement);
  // The verdict on the figure that was left is drawn first.
  return <Stages stage={stage} judgement={useAfterPaint(judgement)} />;
}

const Stages = memo(function Stages({ stage, judgement }: { stage: Stage; judgement: Judgement | null | undefined }) {
  const inSight = useInSight(stage);
  const id = useInspection((s) => s.model?.id) ?? "";
  const observations = useInspection(
    (s) => Object.values(s.model?.entities ?? {}).filter((e) => e.kind === "observation" && !e.values.removed).length,
  );
  const worst: Partial<Record<Stage, Status>> = {};
  for (const note of judgement?.notes ?? []) {
    if (note.because_of) continue;
    const at = note.stage;
    if (note.standing === "fail" || (note.standing === "attention" && worst[at] !== "fail")) worst[at] = note.standing;
  }
  const observable = useObservable();
  const raise = () => observeHere(id, observable);
  const parkable = useParkable();
  const later = () => comeBackHere(parkable, STAGE_NAMES[stage]);
  return (
    <nav className={css.sheet} aria-label="Stages of the inspection">
      <ol>
        {STAGES.map(({ stage: to, name }) => {
          const progress = judgement?.stages.find((s) => s.stage === to);
          const left = progress?.left ?? 0;
          const count = to === "observations" ? observations || "" : left || "";
          const state = left === 0 && (progress?.done ?? 0) > 0 ? "done" : (progress?.done ?? 0) > 0 ? "part" : "open";
          const here = to === stage;
          return (
            <li key={to}>
              <Link
                to={`/inspection/${id}/${to}`}
                className={here ? css.here : undefined}
                ref={here ? inSight : undefined}
                aria-current={here ? "step" : undefined}
              >
                <Dot state={state} />
                <span className={css.name}>{name}</span>
                {worst[to] && <Wrong status={worst[to]} />}
                <span className={css.count}>
                  {count}
                  {count !== "" && <span className={css.said}>{to === "observations" ? " recorded" : " left"}</span>}
                </span>
              </Link>
            </li>
          );
        })}
      </ol>
      <Limited id={id} />
      <div className={css.observe}>
        <Button variant="ink" size="lg" hotkey="O" wide onClick={raise}>
          <span>
            {/* On a phone the stages need the room. */}
            <span className={css.wide}>Add </span>
            observation
          </span>
        </Button>
        <Button hotkey="C" wide title="Leave what is in focus for later" onClick={later}>
          Come back
        </Button>
      </div>
    </nav>
  );
});

/** How much of the work is limited: always in sight, and one tap from what it is. */
function Limited({ id }: { id: string }) {
  const share = useInspection((s) => s.model?.judgement?.limited_share);
  if (!share) return null;
  return (
    <div className={css.limited} title={share.says}>
      <Link to={`/inspection/${id}/walk?view=limits`}>
        {share.warning ? <b>Limitations</b> : "Limitations"} <span>{Math.round(share.share * 100)} %</span>
      </Link>
    </div>
  );
}

/** Something is wrong in a stage: a full disc where it fails, half of one where it is to be looked at. */
function Wrong({ status }: { status: Status }) {
  return (
    <span
      role="img"
      aria-label={status === "fail" ? "something fails here" : "something to look at here"}
      className={status === "fail" ? css.fails : css.attention}
    />
  );
}

function Dot({ state }: { state: "done" | "part" | "open" }) {
  return (
    <svg width="14" height="14" viewBox="0 0 14 14" aria-hidden="true" style={{ flex: "none" }}>
      <circle
        cx="7"
        cy="7"
        r="5.4"
        fill={state === "done" ? "currentColor" : "var(--d-colors-paper)"}
        stroke="currentColor"
        strokeWidth="2"
        opacity={state === "open" ? 0.55 : 1}
      />
      {state === "part" && <path d="M1.6 7 A5.4 5.4 0 0 0 12.4 7 Z" fill="currentColor" />}
    </svg>
  );
}
