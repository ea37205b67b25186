/** The margin: what an experienced colleague would pencil beside the figures. Quiet when all is well. */
import { useState } from "react";
import type { Judgement, Note, Schemas, Stage, Status } from "../api/client";
import { useReference } from "../api/reference";
import { observe, useDesk } from "../inspection/desk";
import { useInspection } from "../inspection/sync";
import { Mark } from "../ui/Mark";
import { useNarrow } from "../ui/layout";
import css from "./Margin.module.css";
import { NoteCard, SourceLine } from "./NoteCard";

const WEIGHT: Record<Status, number> = { fail: 0, attention: 1, unknown: 2, pass: 3 };
const TESTS: Stage[] = ["dead", "live"];

/** Figures as keys, so that what follows from one is found at it. */
const keyOf = (figure: { id: string; field: string }) => `${figure.id}.${figure.field}`;

/** What follows from each figure: notes and board sums that are folded under it. */
function consequences(judgement: Judgement): Map<string, string[]> {
  const found = new Map<string, string[]>();
  for (const one of [...judgement.notes, ...judgement.board_sums]) {
    if (!one.because_of) continue;
    const key = keyOf(one.because_of);
    found.set(key, [...(found.get(key) ?? []), one.title]);
  }
  return found;
}

/** A board that fails is told first; one that is sound, or not measured whole yet, last. */
const grave = (sum: Schemas["BoardSumOut"]) => sum.status === "fail" || sum.status === "attention";

export function Margin({ stage }: { stage: Stage }) {
  const judgement = useInspection((s) => s.model?.judgement);
  const focus = useDesk((s) => s.focus);
  const reference = useReference();
  const narrow = useNarrow();
  const [opened, setOpened] = useState(false);
  if (!judgement) return <aside className={css.margin} aria-label="Margin" />;

  const follows = consequences(judgement);
  const speaksOf = (n: Note) => !!focus && ((n.id === focus.id && n.field === focus.field) || (n.field === focus.field && n.touches.includes(focus.id)));
  const focused = judgement.notes.filter(speaksOf);
  const others = judgement.notes
    .filter((n) => (n.stage === stage || stage === "report") && n.standing !== "pass" && !n.because_of && !focused.includes(n))
    .sort((a, b) => WEIGHT[a.standing] - WEIGHT[b.standing]);
  const sums = stage === "dead" ? judgement.board_sums.filter((s) => !s.because_of) : [];
  const pressing = [...focused, ...others].filter((n) => n.standing !== "pass").length + sums.filter((s) => s.status !== "pass").length;
  const quiet = pressing === 0;

  if (narrow && !opened) {
    return (
      <aside className={css.margin} aria-label="Margin">
        <button type="button" className={css.opener} onClick={() => setOpened(true)} aria-expanded="false">
          {quiet ? "Margin: nothing to point out" : <b>Margin: {pressing} to look at</b>}
        </button>
      </aside>
    );
  }
  // What follows from a figure is told once, with the first note of that figure.
  const told = new Set<string>();
  const followed = (n: Note): string[] => {
    const key = keyOf(n);
    if (n.because_of || n.standing === "pass" || told.has(key)) return [];
    told.add(key);
    return follows.get(key) ?? [];
  };
  return (
    <aside className={css.margin} aria-label="Margin" data-narrow={narrow || undefined}>
      <div className={css.head}>
        In the margin
        {narrow && (
          <button type="button" onClick={() => setOpened(false)}>
            close
          </button>
        )}
      </div>
      {focused.map((n, i) => (
        <NoteCard key={`f${i}`} note={n} here follows={followed(n)} />
      ))}
      {sums.filter(grave).map((s) => (
        <SumCard key={s.board_id + s.field} sum={s} />
      ))}
      {others.map((n, i) => (
        <NoteCard key={i} note={n} follows={followed(n)} />
      ))}
      {sums.filter((s) => !grave(s)).map((s) => (
        <SumCard key={s.board_id + s.field} sum={s} />
      ))}
      {stage === "intake" && judgement.prospective_fault_ka && (
        <p className={css.aside}>
          Prospective fault current recorded: <b>{judgement.prospective_fault_ka} kA</b>, the higher of the two (rule 3.4).
        </p>
      )}
      {!TESTS.includes(stage) && <Left stage={stage} />}
      {quiet && TESTS.includes(stage) && <p className={css.aside}>Nothing to point out{focus ? "." : ": notes appear here as you leave each figure."}</p>}
      {stage === "dead" && judgement.limited_warning && <p className={css.aside}>{judgement.limited_warning}</p>}
      <p className={css.foot}>
        {judgement.rule_book}. {reference?.caution}
      </p>
    </aside>
  );
}

function Left({ stage }: { stage: Stage }) {
  const progress = useInspection((s) => s.model?.judgement?.stages.find((p) => p.stage === stage));
  if (!progress?.left) return null;
  const more = progress.left - progress.left_names.length;
  return (
    <div className={css.note}>
      <b>{progress.left} left here</b>
      <ul className={css.left}>
        {progress.left_names.map((name, i) => (
          <li key={i}>{name}</li>
        ))}
        {more > 0 && <li>and {more} more</li>}
      </ul>
    </div>
  );
}

function SumCard({ sum }: { sum: Schemas["BoardSumOut"] }) {
  return (
    <div className={css.note} data-status={sum.status}>
      <b className={css.title}>
        <Mark status={sum.status} /> {sum.title}
        {sum.status === "fail" ? "" : `: ${sum.combined} MΩ`}
      </b>
      {sum.status !== "pass" && <p>{sum.reason}</p>}
      {sum.status !== "pass" && sum.next_step && <p className={css.step}>{sum.next_step}</p>}
      {sum.status === "fail" && sum.observation && (
        <div className={css.offers}>
          <button type="button" onClick={() => observe({ kind: "board", id: sum.board_id, raise: sum.observation })}>
            Observation
          </button>
        </div>
      )}
      {sum.status !== "pass" && <SourceLine source={sum.source} />}
    </div>
  );
}
