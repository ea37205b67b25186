/** One note of the margin: verdict, reason, next step, what follows from it, and its offers in one tap. */
import { memo, type ReactNode } from "react";
import { useNavigate } from "react-router";
import type { Note, Status } from "../api/client";
import { Mark } from "../drawings/Mark";
import { waveKey } from "../inspection/arrange";
import { waveOn } from "../inspection/desk";
import { useGoTo } from "../inspection/goTo";
import { useMayChangeAny } from "../fields/mayChange";
import { carryOut } from "../inspection/offers";
import { useInspection } from "../inspection/open";
import type { Kind } from "../inspection/types";
import { SourceLine } from "../rules/SourceLine";
import { Button, LinkButton } from "../ui/Button";
import { Fold } from "../ui/Fold";
import css from "./Note.module.css";
import { OwnView } from "./OwnView";

interface FrameProps {
  status: Status;
  title: ReactNode;
  /** The hands are at what it speaks of: lit. */
  lit?: boolean;
  children?: ReactNode;
}

/** A note's frame: a line of ink at its side, as heavy as it is urgent. */
export function NoteFrame({ status, title, lit, children }: FrameProps) {
  const heavy = status === "fail" || status === "attention";
  return (
    <div className={[css.note, heavy && css.heavy, lit && css.lit].filter(Boolean).join(" ")} data-status={status}>
      <b>
        <Mark status={status} /> {title}
      </b>
      {children}
    </div>
  );
}

interface Props {
  note: Note;
  /** It speaks of the figure in focus, or of one that was just left. */
  lit?: boolean;
  /** It stays on top until it is answered: it can be waved on. */
  held?: boolean;
  /** Titles of what is folded under it. */
  follows: readonly string[];
}

const TESTS = ["dead", "live"];

/** Drawn anew only for another note: a margin of forty is not drawn forty times at every figure. */
export const NoteCard = memo(function NoteCard({ note, lit = false, held = false, follows }: Props) {
  const navigate = useNavigate();
  const goTo = useGoTo();
  const inspection = useInspection((s) => s.model?.id) ?? "";
  const onHold = useInspection((s) => !!s.model?.entities[s.model.id]?.values.held_at);
  const mayChange = useMayChangeAny();
  const cause = useInspection((s) => {
    const of = note.because_of;
    return of
      ? s.model?.judgement?.notes.find((n) => n.id === of.id && n.field === of.field && !n.because_of)?.title
      : undefined;
  });
  const kind = note.entity as Kind;
  const retest = () => goTo({ stage: note.stage, entity: note.entity, id: note.id, field: note.field });
  const testable = (kind === "circuit" || kind === "rcd") && TESTS.includes(note.stage);
  const open = note.status !== "pass";
  return (
    <NoteFrame status={note.because_of ? "unknown" : note.standing} title={note.title} lit={lit}>
      <p className={css.reason}>{note.reason}</p>
      {cause && <p>Follows from: {cause}</p>}
      {note.overruled && (
        <p>
          <Mark status={note.overruled.status} /> Your view: {note.overruled.reason}
        </p>
      )}
      {note.next_step && !note.because_of && <p>{note.next_step}</p>}
      {follows.length > 0 && (
        <Fold small title={`${follows.length} ${follows.length === 1 ? "figure follows" : "figures follow"} from it`}>
          <ul className={css.follows}>
            {follows.map((title, i) => (
              <li key={i}>{title}</li>
            ))}
          </ul>
        </Fold>
      )}
      <div className={css.offers}>
        {note.actions.map((offer, i) => {
          if (offer.kind === "hold" && onHold) return <span key={i}>on hold</span>;
          if (offer.kind === "set" && !mayChange(offer.entity, offer.field)) return null;
          if (offer.kind === "letter") {
            const to = carryOut(offer, note, inspection);
            return (
              to &&
              "file" in to && (
                <LinkButton key={i} size="sm" file to={to.file}>
                  {offer.label}
                </LinkButton>
              )
            );
          }
          return (
            <Button
              key={i}
              size="sm"
              onClick={() => {
                const to = carryOut(offer, note, inspection);
                if (to && "stage" in to) navigate(`/inspection/${inspection}/${to.stage}`);
              }}
            >
              {offer.label}
            </Button>
          );
        })}
        {note.on_record && <span>observation recorded</span>}
        {(lit || held) && open && mayChange("overruling", "reason") && <OwnView note={note} />}
        {!lit && testable && open && (
          <Button size="sm" onClick={retest}>
            Retest
          </Button>
        )}
        {held && open && !note.on_record && !note.overruled && (
          <Button size="sm" variant="quiet" label={`Later: ${note.title}`} onClick={() => waveOn(waveKey(note))}>
            later
          </Button>
        )}
      </div>
      <SourceLine source={note.source} />
    </NoteFrame>
  );
});

/** Equal notes as one: what they say once, whom they speak of, and each with its own figures when it is opened. */
export function NoteGroup({ notes, follows }: { notes: Note[]; follows: (note: Note) => readonly string[] }) {
  const [first] = notes;
  if (!first) return null;
  if (notes.length === 1) return <NoteCard note={first} follows={follows(first)} />;
  const names = notes.map((note) => note.of);
  return (
    <NoteFrame status={first.standing} title={`${first.words}: ${notes.length}`}>
      <p className={css.reason}>{names.join(", ")}</p>
      {first.next_step && <p>{first.next_step}</p>}
      <Fold small title="each of them">
        <div className={css.each}>
          {notes.map((note) => (
            <NoteCard key={waveKey(note)} note={note} follows={follows(note)} />
          ))}
        </div>
      </Fold>
    </NoteFrame>
  );
}
