/** The margin: what an experienced colleague would pencil beside the figures. Quiet when all is well. */
import { useState } from "react";
import { useNavigate } from "react-router";
import type { Note, Schemas, Stage, Status } from "../api/client";
import { useFieldSpec, useReference } from "../api/reference";
import { focusOn, observe, useDesk } from "../inspection/desk";
import { children } from "../inspection/model";
import { add, setField, useInspection } from "../inspection/sync";
import type { Kind } from "../inspection/types";
import { stageOfField, standing, useSay } from "../inspection/words";
import { Mark } from "../ui/Mark";
import { useNarrow } from "../ui/layout";
import css from "./Margin.module.css";

const WEIGHT: Record<Status, number> = { fail: 0, attention: 1, unknown: 2, pass: 3 };
const PAIRING: Record<string, string> = {
  insulation_ln_mohm: "L–N",
  insulation_lne_mohm: "L+N–E",
  insulation_le_mohm: "L–E",
  insulation_ne_mohm: "N–E",
};
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
    .filter((n) => standing(n) !== "pass" && !focused.includes(n))
    .sort((a, b) => WEIGHT[standing(a)] - WEIGHT[standing(b)]);
  const sums = stage === "dead" ? judgement.board_sums : [];
  const pressing = [...focused, ...others].filter((n) => standing(n) !== "pass").length + sums.filter((s) => s.status !== "pass").length;
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
  const spec = useFieldSpec(note.entity, offer?.field ?? "");
  const say = useSay();
  const retest = () => {
    navigate(`/inspection/${inspection}/${stageOfField(kind, note.field)}`);
    // The stage sets its own order and focus as it opens; the figure is taken up once it stands.
    setTimeout(() => focusOn({ kind, id: note.id, field: note.field }), 60);
  };
  return (
    <div className={css.note} data-status={standing(note)} data-here={here || undefined}>
      <b className={css.title}>
        <Mark status={note.status} /> {note.title}
      </b>
      <p>{note.reason}</p>
      {note.overruled && (
        <p className={css.step}>
          <Mark status={note.overruled.status} /> Your view: {note.overruled.reason}
        </p>
      )}
      {note.next_step && <p className={css.step}>{note.next_step}</p>}
      <div className={css.offers}>
        {offer && (
          <button type="button" onClick={() => setField({ kind, id: note.id, field: offer.field }, offer.value as number)}>
            Set {say(spec?.label ?? offer.field)} {String(offer.value)} {spec?.unit}
          </button>
        )}
        {note.observation && !raised && (
          <button
            type="button"
            onClick={() => observe({ kind, id: note.id, field: note.field, raise: note.observation })}
          >
            Observation
          </button>
        )}
        {raised && <span>observation recorded</span>}
        {["ze-above-maximum", "no-earth-at-origin"].includes(note.observation ?? "") && note.field === "ze_ohm" && (
          <>
            <a className={css.link} href={`/api/inspections/${inspection}/operator-letter.pdf`} download>
              Letter to the operator
            </a>
            <HoldOffer inspection={inspection ?? ""} reason={note.reason} />
          </>
        )}
        {here && note.status !== "pass" && <Overrule note={note} />}
        {!here && kind === "circuit" && note.status !== "pass" && TESTS.includes(stageOfField(kind, note.field) as Stage) && (
          <button type="button" onClick={retest}>
            Retest
          </button>
        )}
      </div>
      <p className={css.source}>{note.source}</p>
    </div>
  );
}

/** Live tests cannot go on: the job waits for the operator and a return visit. */
function HoldOffer({ inspection, reason }: { inspection: string; reason: string }) {
  const held = useInspection((s) => s.model?.entities[inspection]?.values.held_at);
  const navigate = useNavigate();
  if (held) return <span>on hold</span>;
  const hold = () => {
    const at = (field: string) => ({ kind: "inspection" as const, id: inspection, field });
    setField(at("held_at"), new Date().toISOString());
    setField(at("held_reason"), `${reason} Live tests stopped, the network operator was called.`.slice(0, 500));
    navigate(`/inspection/${inspection}/brief`);
  };
  return (
    <button type="button" onClick={hold}>
      Put on hold
    </button>
  );
}

const VIEWS = ["pass", "attention", "fail"] as const;

/** The inspector sees a figure otherwise: taken for what, and why. The verdict stays beside it, here and in the report. */
function Overrule({ note }: { note: Note }) {
  const [opened, setOpened] = useState(false);
  const [view, setView] = useState<string>("pass");
  const [reason, setReason] = useState("");
  const inspection = useInspection((s) => s.model?.id) ?? "";
  const standing = useInspection((s) =>
    s.model && children(s.model, "overruling", s.model.id).find((o) => o.values.about_id === note.id && o.values.field === note.field),
  );
  if (standing) {
    return (
      <button type="button" onClick={() => setField({ kind: "overruling", id: standing.id, field: "removed" }, true)}>
        Take my view back
      </button>
    );
  }
  if (!opened) {
    return (
      <button type="button" onClick={() => setOpened(true)}>
        I see it otherwise
      </button>
    );
  }
  const keep = () => {
    add("overruling", inspection, { about_id: note.id, field: note.field, status: view, reason: reason.trim() });
    setOpened(false);
  };
  return (
    <div className={css.overrule}>
      <div role="group" aria-label="Taken for">
        {VIEWS.map((one) => (
          <button key={one} type="button" aria-pressed={view === one} onClick={() => setView(one)}>
            {one}
          </button>
        ))}
      </div>
      <textarea rows={2} aria-label="Why you see it otherwise" placeholder="Why" value={reason} maxLength={500} onChange={(e) => setReason(e.target.value)} />
      <div>
        <button type="button" disabled={!reason.trim()} onClick={keep}>
          Keep my view
        </button>
        <button type="button" onClick={() => setOpened(false)}>
          Leave it
        </button>
      </div>
    </div>
  );
}

function SumCard({ sum }: { sum: Schemas["BoardSumOut"] }) {
  const board = useInspection((s) => s.model?.entities[sum.board_id]?.values.name ?? "Board");
  const pairing = PAIRING[sum.field] ?? sum.field;
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
