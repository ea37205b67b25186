/** The run sheet: the stages in the order of work, what is left in each, and a mark where something is wrong. */
import { NavLink } from "react-router";
import type { Stage, Status } from "../api/client";
import { observe, useDesk } from "../inspection/desk";
import { useInspection } from "../inspection/sync";
import css from "./RunSheet.module.css";

export const STAGES: { stage: Stage; name: string }[] = [
  { stage: "brief", name: "Brief" },
  { stage: "intake", name: "Intake" },
  { stage: "isolation", name: "Isolation" },
  { stage: "boards", name: "Boards" },
  { stage: "dead", name: "Dead tests" },
  { stage: "live", name: "Live tests" },
  { stage: "observations", name: "Observations" },
  { stage: "report", name: "Report" },
];

/** On a phone the stages run sideways: the open one is brought into sight. */
const intoView = (element: HTMLElement | null) => element?.scrollIntoView({ block: "nearest", inline: "center" });

export function RunSheet({ stage }: { stage: Stage }) {
  const id = useInspection((s) => s.model?.id) ?? "";
  const judgement = useInspection((s) => s.model?.judgement);
  const observations = useInspection(
    (s) => Object.values(s.model?.entities ?? {}).filter((e) => e.kind === "observation" && !e.values.removed).length,
  );
  const focus = useDesk((s) => s.focus);
  const worst: Partial<Record<Stage, Status>> = {};
  for (const note of judgement?.notes ?? []) {
    if (note.because_of) continue;
    const at = note.stage;
    if (note.standing === "fail" || (note.standing === "attention" && worst[at] !== "fail")) worst[at] = note.standing;
  }
  const about = () => {
    const known = focus && (focus.kind === "inspection" || focus.kind === "board" || focus.kind === "rcd" || focus.kind === "circuit");
    observe(known ? { kind: focus.kind as "circuit", id: focus.id, field: focus.field } : { kind: "inspection", id });
  };
  return (
    <nav className={css.sheet} aria-label="Stages of the inspection">
      <ol>
        {STAGES.map(({ stage: to, name }) => {
          const progress = judgement?.stages.find((s) => s.stage === to);
          const left = progress?.left ?? 0;
          const count = to === "observations" ? observations || "" : left || "";
          const state = left === 0 && (progress?.done ?? 0) > 0 ? "done" : (progress?.done ?? 0) > 0 ? "part" : "open";
          return (
            <li key={to}>
              <NavLink to={`/inspection/${id}/${to}`} className={to === stage ? css.here : undefined} ref={to === stage ? intoView : undefined} aria-current={to === stage ? "step" : undefined}>
                <Dot state={state} />
                <span className={css.name}>{name}</span>
                {worst[to] && <span className={css.wrong} role="img" aria-label={worst[to] === "fail" ? "something fails here" : "something to look at here"} data-status={worst[to]} />}
                <span className={css.count}>
                  {count}
                  <span className={css.spoken}>{to === "observations" ? " recorded" : left ? " left" : ""}</span>
                </span>
              </NavLink>
            </li>
          );
        })}
      </ol>
      <button type="button" className={css.observe} onClick={about}>
        Observation <kbd>O</kbd>
      </button>
    </nav>
  );
}

function Dot({ state }: { state: "done" | "part" | "open" }) {
  return (
    <svg width="14" height="14" viewBox="0 0 14 14" aria-hidden="true" style={{ flex: "none" }}>
      <circle cx="7" cy="7" r="5.4" fill={state === "done" ? "currentColor" : "var(--d-colors-paper)"} stroke="currentColor" strokeWidth="2" opacity={state === "open" ? 0.55 : 1} />
      {state === "part" && <path d="M1.6 7 A5.4 5.4 0 0 0 12.4 7 Z" fill="currentColor" />}
    </svg>
  );
}
