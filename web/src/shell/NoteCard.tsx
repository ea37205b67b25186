/** One note of the margin: verdict, reason, next step, what follows from it, and its offers in one tap. */
import { useState } from "react";
import { useNavigate } from "react-router";
import type { Note, Schemas } from "../api/client";
import { focusOn, observe } from "../inspection/desk";
import { children } from "../inspection/model";
import { add, setField, useInspection } from "../inspection/sync";
import type { Kind, Value } from "../inspection/types";
import { Mark } from "../ui/Mark";
import { RuleDialog } from "../ui/RuleDialog";
import css from "./Margin.module.css";

interface Props {
  note: Note;
  /** The figure in focus is what it speaks of. */
  here?: boolean;
  /** Titles of what is folded under it. */
  follows: string[];
}

export function NoteCard({ note, here = false, follows }: Props) {
  const navigate = useNavigate();
  const inspection = useInspection((s) => s.model?.id);
  const cause = useInspection((s) => {
    const of = note.because_of;
    return of ? s.model?.judgement?.notes.find((n) => n.id === of.id && n.field === of.field && !n.because_of)?.title : undefined;
  });
  const kind = note.entity as Kind;
  const retest = () => {
    navigate(`/inspection/${inspection}/${note.stage}`);
    // The stage sets its own order and focus as it opens; the figure is taken up once it stands.
    setTimeout(() => focusOn({ kind, id: note.id, field: note.field }), 60);
  };
  const testable = (kind === "circuit" || kind === "rcd") && (note.stage === "dead" || note.stage === "live");
  return (
    <div className={css.note} data-status={note.because_of ? "unknown" : note.standing} data-here={here || undefined}>
      <b className={css.title}>
        <Mark status={note.status} /> {note.title}
      </b>
      <p>{note.reason}</p>
      {cause && <p className={css.step}>Follows from: {cause}</p>}
      {note.overruled && (
        <p className={css.step}>
          <Mark status={note.overruled.status} /> Your view: {note.overruled.reason}
        </p>
      )}
      {note.next_step && !note.because_of && <p className={css.step}>{note.next_step}</p>}
      {follows.length > 0 && (
        <details className={css.follows}>
          <summary>
            {follows.length} {follows.length === 1 ? "figure follows" : "figures follow"} from it
          </summary>
          <ul className={css.left}>
            {follows.map((title, i) => (
              <li key={i}>{title}</li>
            ))}
          </ul>
        </details>
      )}
      <div className={css.offers}>
        {note.actions.map((action, i) => (
          <Offer key={i} action={action} note={note} />
        ))}
        {note.on_record && <span>observation recorded</span>}
        {here && note.status !== "pass" && <Overrule note={note} />}
        {!here && testable && note.status !== "pass" && (
          <button type="button" onClick={retest}>
            Retest
          </button>
        )}
      </div>
      <SourceLine source={note.source} />
    </div>
  );
}

/** Everything that a note can offer is carried out here. */
function Offer({ action, note }: { action: Schemas["ActionOut"]; note: Note }) {
  const inspection = useInspection((s) => s.model?.id) ?? "";
  switch (action.kind) {
    case "observe":
      return (
        <button type="button" onClick={() => observe({ kind: note.entity as Kind, id: note.id, field: note.field, raise: action.key })}>
          {action.label}
        </button>
      );
    case "set":
      return (
        <button type="button" onClick={() => setField({ kind: action.entity as Kind, id: action.id, field: action.field }, action.value as Value)}>
          {action.label}
        </button>
      );
    case "letter":
      return (
        <a className={css.link} href={`/api/inspections/${inspection}/operator-letter.pdf`} download>
          {action.label}
        </a>
      );
    case "hold":
      return <HoldOffer inspection={inspection} label={action.label} reason={note.reason} />;
  }
}

/** Live tests cannot go on: the job waits for the operator and a return visit. */
function HoldOffer({ inspection, label, reason }: { inspection: string; label: string; reason: string }) {
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
      {label}
    </button>
  );
}

/** Clause and rule; each rule opens in our own words with its formula and limits. */
export function SourceLine({ source }: { source: string }) {
  const [rule, setRule] = useState<string | null>(null);
  const at = source.search(/rules? \d/);
  const clause = at < 0 ? source : source.slice(0, at);
  const parts = at < 0 ? [] : source.slice(at).split(/(\d+(?:\.\d+)?)/);
  return (
    <p className={css.source}>
      {clause}
      {parts.map((part, i) =>
        /^\d/.test(part) ? (
          <button key={i} type="button" className={css.rule} aria-label={`Rule ${part}`} onClick={() => setRule(part)}>
            {part}
          </button>
        ) : (
          part
        ),
      )}
      {rule && <RuleDialog number={rule} close={() => setRule(null)} />}
    </p>
  );
}

const VIEWS = ["pass", "attention", "fail"] as const;

/** The inspector sees a figure otherwise: taken for what, and why. The verdict stays beside it, here and in the report. */
function Overrule({ note }: { note: Note }) {
  const [opened, setOpened] = useState(false);
  const [view, setView] = useState<string>("pass");
  const [reason, setReason] = useState("");
  const inspection = useInspection((s) => s.model?.id) ?? "";
  const own = useInspection((s) =>
    s.model && children(s.model, "overruling", s.model.id).find((o) => o.values.about_id === note.id && o.values.field === note.field),
  );
  if (own) {
    return (
      <button type="button" onClick={() => setField({ kind: "overruling", id: own.id, field: "removed" }, true)}>
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
