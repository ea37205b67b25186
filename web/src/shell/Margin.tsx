/** The margin: what an experienced colleague would pencil beside the figures. Quiet when all is well. */
import { useState } from "react";
import { useNavigate } from "react-router";
import type { Note, Schemas, Stage, Status } from "../api/client";
import { useReference } from "../api/reference";
import { focusOn, observe, useDesk } from "../inspection/desk";
import { children } from "../inspection/model";
import { setField, useInspection } from "../inspection/sync";
import type { Kind } from "../inspection/types";
import { stageOfField } from "../inspection/words";
import { Mark } from "../ui/Mark";
import { useNarrow } from "../ui/layout";
import css from "./Margin.module.css";

const WEIGHT: Record<Status, number> = { fail: 0, attention: 1, unknown: 2, pass: 3 };
const TESTS: Stage[] = ["dead", "live"];

export function Margin({ stage }: { stage: Stage }) {
  const judgement = useInspection((s) => s.model?.judgement);
  const focus = useDesk((s) => s.focus);
  const reference = useReference();
  const narrow = useNarrow();
  const [opened, setOpened] = useState(false);
  if (!judgement) return <aside className={css.margin} aria-label="Margin" />;

  const here = judgement.notes.filter((n) => stageOfField(n.entity as Kind, n.field) === stage || stage === "report");
  const focused = judgement.notes.filter((n) => focus && n.id === focus.id && n.field === focus.field);
  const others = here
    .filter((n) => n.status !== "pass" && !focused.includes(n))
    .sort((a, b) => WEIGHT[a.status] - WEIGHT[b.status]);
  const sums = stage === "dead" ? judgement.board_sums : [];
  const pressing = [...focused, ...others].filter((n) => n.status !== "pass").length + sums.filter((s) => s.status !== "pass").length;
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
        <NoteCard key={`f${i}`} note={n} here />
      ))}
      {sums.map((s) => (
        <SumCard key={s.board_id + s.field} sum={s} />
      ))}
      {others.map((n, i) => (
        <NoteCard key={i} note={n} />
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
        {reference?.rule_book}. {reference?.caution}
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

function NoteCard({ note, here = false }: { note: Note; here?: boolean }) {
  const navigate = useNavigate();
  const inspection = useInspection((s) => s.model?.id);
  const raised = useInspection((s) => {
    const model = s.model;
    if (!model) return false;
    return children(model, "observation", model.id).some(
      (o) => o.values.about_id === note.id && o.values.catalogue_key === note.observation,
    );
  });
  const kind = note.entity as Kind;
  const offer = note.set_field;
  const retest = () => {
    navigate(`/inspection/${inspection}/${stageOfField(kind, note.field)}`);
    // The stage sets its own order and focus as it opens; the figure is taken up once it stands.
    setTimeout(() => focusOn({ kind, id: note.id, field: note.field }), 60);
  };
  return (
    <div className={css.note} data-status={note.status} data-here={here || undefined}>
      <b className={css.title}>
        <Mark status={note.status} /> {note.title}
      </b>
      <p>{note.reason}</p>
      {note.next_step && <p className={css.step}>{note.next_step}</p>}
      <div className={css.offers}>
        {offer && (
          <button type="button" onClick={() => setField({ kind, id: note.id, field: offer.field }, offer.value as number)}>
            Set cpc {String(offer.value)} mm²
          </button>
        )}
        {note.observation && !raised && (
          <button
            type="button"
            onClick={() => observe({ kind: kind as "circuit", id: note.id, field: note.field, raise: note.observation })}
          >
            Observation
          </button>
        )}
        {raised && <span>observation recorded</span>}
        {!here && kind === "circuit" && note.status !== "pass" && (
          <button type="button" onClick={retest}>
            Retest
          </button>
        )}
      </div>
      <p className={css.source}>{note.source}</p>
    </div>
  );
}

function SumCard({ sum }: { sum: Schemas["BoardSumOut"] }) {
  const board = useInspection((s) => s.model?.entities[sum.board_id]?.values.name ?? "Board");
  const pairing = sum.field === "insulation_ln_mohm" ? "L–N" : "L+N–E";
  return (
    <div className={css.note} data-status={sum.status}>
      <b className={css.title}>
        <Mark status={sum.status} /> {String(board)} as a whole, {pairing}
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
      {sum.status !== "pass" && <p className={css.source}>{sum.source}</p>}
    </div>
  );
}
