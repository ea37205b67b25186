/** The margin: what an experienced colleague would pencil beside the figures. Quiet when all is well. */
import { memo, useMemo, useState } from "react";
import type { Judgement, Note, Schemas, Stage } from "../api/client";
import { useFieldSpec, useReference } from "../api/reference";
import { Mark } from "../drawings/Mark";
import { arrange, type Arrangement, waveKey } from "../inspection/arrange";
import { URGENCY, type Urgency } from "../inspection/urgency";
import { observe, useDesk } from "../inspection/desk";
import { refusal } from "../inspection/model";
import { useInspection } from "../inspection/open";
import { useOvertaken, useUnjudged, useWaits } from "../inspection/select";
import { type Reach, useReach } from "../inspection/transport";
import { keyOf, type Place } from "../inspection/types";
import { whereOf } from "../inspection/words";
import { SourceLine } from "../rules/SourceLine";
import { Button } from "../ui/Button";
import { Fold } from "../ui/Fold";
import { useNarrow } from "../ui/layout";
import { useAfterPaint } from "../ui/useAfterPaint";
import css from "./Margin.module.css";
import card from "./Note.module.css";
import { NoteCard, NoteFrame, NoteGroup } from "./NoteCard";

const TESTS: Stage[] = ["dead", "live"];

const known = new WeakMap<Judgement, Map<string, string[]>>();

/** What follows from each figure: notes and board sums that are folded under it; gone through once for a judgement. */
function consequencesOf(judgement: Judgement): Map<string, string[]> {
  const before = known.get(judgement);
  if (before) return before;
  const titles = new Map<string, string[]>();
  known.set(judgement, titles);
  for (const note of [...judgement.notes, ...judgement.board_sums]) {
    if (!note.because_of) continue;
    const key = keyOf(note.because_of.id, note.because_of.field);
    titles.set(key, [...(titles.get(key) ?? []), note.title]);
  }
  return titles;
}

export function Margin({ stage }: { stage: Stage }) {
  const judgement = useInspection((s) => s.model?.judgement);
  const focus = useDesk((s) => s.focus);
  const left = useDesk((s) => s.left);
  const waved = useDesk((s) => s.waved);
  const narrow = useNarrow();
  const [opened, setOpened] = useState(false);
  const arranged = useMemo(
    () => judgement && arrange(judgement, { stage, focus, left, waved }),
    [judgement, stage, focus, left, waved],
  );
  const later = useAfterPaint(useMemo(() => ({ judgement, arranged }), [judgement, arranged]));
  if (!judgement || !arranged) return <Frame narrow={narrow}>{null}</Frame>;
  const pressing = arranged.pressing + sumsAt(stage, judgement).filter((sum) => sum.status !== "pass").length;
  if (narrow && !opened) {
    return (
      <Frame narrow>
        <Button variant="plain" wide expanded={false} onClick={() => setOpened(true)}>
          <Opener arranged={arranged} pressing={pressing} />
        </Button>
      </Frame>
    );
  }
  return (
    <Frame narrow={narrow}>
      <div className={css.top}>
        <b>In the margin</b>
        {narrow && (
          <Button variant="quiet" size="sm" onClick={() => setOpened(false)}>
            close
          </Button>
        )}
      </div>
      <Latest judgement={judgement} arranged={arranged} />
      {later.judgement && later.arranged && (
        <Rest stage={stage} judgement={later.judgement} arranged={later.arranged} />
      )}
    </Frame>
  );
}

function Frame({ narrow, children }: { narrow: boolean; children: React.ReactNode }) {
  return (
    <aside aria-label="Margin" className={css.margin} data-narrow={narrow || undefined}>
      {children}
    </aside>
  );
}

/** On a phone: the verdict on what was just left, or how much there is to look at. */
function Opener({ arranged, pressing }: { arranged: Arrangement; pressing: number }) {
  const unjudged = useUnjudged();
  const [verdict] = arranged.left;
  if (unjudged === 0 && verdict && verdict.standing !== "pass") {
    return (
      <span className={`${css.opener} ${css.short}`}>
        <Mark status={verdict.standing} /> <b>{verdict.title}</b>
      </span>
    );
  }
  return (
    <span className={css.opener}>
      {unjudged > 0 && <b>Margin: {unjudged} not judged yet</b>}
      {unjudged > 0 && pressing > 0 && ", "}
      {pressing > 0 && <b>{unjudged > 0 ? pressing : `Margin: ${pressing}`} to look at</b>}
      {unjudged === 0 && pressing === 0 && "Margin: nothing to point out"}
    </span>
  );
}

interface NotesProps {
  stage: Stage;
  judgement: Judgement;
  arranged: Arrangement;
}

/** So many of what was left and is not answered stand open, the newest first; the others are one tap away. */
const WHOLE = 3;
const NOTHING: readonly string[] = [];

const HEADS: Record<Urgency, string> = { fail: "fail", attention: "to look at", unknown: "cannot be judged yet" };

/** Sums of boards that speak for themselves. */
const sumsAt = (stage: Stage, judgement: Judgement) =>
  stage === "dead" ? judgement.board_sums.filter((sum) => !sum.because_of) : [];

/** Draws cards; what follows from a figure is told once, with the first note of that figure. before: notes that were
 * drawn before these. */
function cardsOf(judgement: Judgement, before: readonly Note[] = []) {
  const follows = consequencesOf(judgement);
  const speaksFor = (note: Note) => !note.because_of && note.standing !== "pass";
  const shownKeys = new Set(before.filter(speaksFor).map((note) => keyOf(note.id, note.field)));
  const followed = (note: Note): readonly string[] => {
    const key = keyOf(note.id, note.field);
    if (!speaksFor(note) || shownKeys.has(key)) return NOTHING;
    shownKeys.add(key);
    return follows.get(key) ?? NOTHING;
  };
  const cards = (notes: Note[], how: { lit?: boolean; held?: boolean }) =>
    notes.map((note) => <NoteCard key={waveKey(note)} note={note} {...how} follows={followed(note)} />);
  return { cards, followed };
}

/** What was just left, and its verdict: drawn before anything else. */
function Latest({ judgement, arranged }: Omit<NotesProps, "stage">) {
  const last = useDesk((s) => s.left[0]);
  const unjudged = useUnjudged();
  // What was left meanwhile has a verdict of the figure before it, if any: that is not shown for it.
  const overtaken = useOvertaken(last?.id ?? "", last?.field ?? "");
  const { cards } = cardsOf(judgement);
  const { left } = arranged;
  return (
    <>
      {unjudged > 0 && (
        <div role="note" className={css.unjudged}>
          <b>{unjudged === 1 ? "One entry is" : `${unjudged} entries are`} not judged yet.</b>
          <p>These notes are from before your last entries. They update when the server answers.</p>
        </div>
      )}
      {last && (
        <div className={css.latest}>
          <JustLeft place={last} judged={left.length > 0} />
          {!overtaken && cards(left, { lit: true, held: true })}
        </div>
      )}
    </>
  );
}

/** Everything else, in the moment after. */
const Rest = memo(function Rest({ stage, judgement, arranged }: NotesProps) {
  const reference = useReference();
  const last = useDesk((s) => s.left[0]);
  const testing = TESTS.includes(stage);
  const unjudged = useUnjudged();
  const { left, unanswered, focused, rest, pressing } = arranged;
  const { cards, followed } = cardsOf(judgement, left);
  const sums = sumsAt(stage, judgement);
  const sumsOf = (urgency: Urgency) => sums.filter((sum) => sum.status === urgency);
  const sound = sums.filter((sum) => sum.status === "pass");
  return (
    <>
      {cards(unanswered.slice(0, WHOLE), { held: true })}
      {unanswered.length > WHOLE && (
        <Fold title={`${unanswered.length - WHOLE} more not answered yet`} opened={false}>
          {cards(unanswered.slice(WHOLE), { held: true })}
        </Fold>
      )}
      {cards(focused, { lit: true })}
      {URGENCY.map((urgency) => {
        const groups = rest[urgency];
        const ofBoard = sumsOf(urgency);
        const count = groups.reduce((sum, notes) => sum + notes.length, ofBoard.length);
        if (!count) return null;
        return (
          <Fold key={urgency} title={`${count} ${HEADS[urgency]}`} opened={urgency !== "unknown"}>
            {ofBoard.map((sum) => (
              <SumCard key={sum.board_id + sum.field} sum={sum} />
            ))}
            {groups.map((notes) => (
              <NoteGroup key={notes.map(waveKey).join()} notes={notes} follows={followed} />
            ))}
          </Fold>
        );
      })}
      {sound.map((sum) => (
        <SumCard key={sum.board_id + sum.field} sum={sum} />
      ))}
      {stage === "intake" && judgement.prospective_fault_ka && (
        <p className={css.line}>
          Prospective fault current recorded: <b>{judgement.prospective_fault_ka} kA</b>, the higher of the two (rule
          3.4).
        </p>
      )}
      {!testing && <Left stage={stage} />}
      {pressing === 0 && !last && testing && unjudged === 0 && (
        <p className={css.line}>No notes. They appear after each reading.</p>
      )}
      {stage === "dead" && judgement.limited_share.warning && (
        <p className={css.line}>{judgement.limited_share.warning}</p>
      )}
      <p className={css.book}>
        {judgement.rule_book}. {reference?.caution}
      </p>
    </>
  );
});

const FIGURES = ["reading", "number", "integer"];

const LATER = "Kept on this device; it is judged when the server can be reached.";
/** What is said of an entry that is on its way, by how the server is. */
const WAITS: Record<Reach, string> = {
  ok: "being judged …",
  slow: "Kept on this device; the server is slow to judge it.",
  failing: LATER,
  unreachable: LATER,
  "signed-out": LATER,
};

/** A figure that was just left, while nothing is said of it: on its way, refused, or without a verdict of its own. */
function JustLeft({ place, judged }: { place: Place; judged: boolean }) {
  const spec = useFieldSpec(place.kind, place.field);
  const entity = useInspection((s) => s.model?.entities[place.id]);
  const waits = useWaits(place.id, place.field);
  const refused = useInspection((s) => s.model && refusal(s.model, place.id, place.field));
  const reach = useReach((s) => s.reach);
  if (!FIGURES.includes(spec?.kind ?? "") || (judged && !waits && !refused)) return null;
  const value = String(entity?.values[place.field] ?? "nothing");
  const says = refused ? refused : waits ? WAITS[reach] : "Saved. This reading has no limit of its own.";
  return (
    <div className={css.left}>
      <b>
        {whereOf(entity)}: {value}
      </b>
      <p>{says}</p>
    </div>
  );
}

function Left({ stage }: { stage: Stage }) {
  const progress = useInspection((s) => s.model?.judgement?.stages.find((p) => p.stage === stage));
  if (!progress?.left) return null;
  const more = progress.left - progress.left_names.length;
  return (
    <div className={css.todo}>
      <b>{progress.left} left here</b>
      <ul>
        {progress.left_names.map((name, i) => (
          <li key={i}>{name}</li>
        ))}
        {more > 0 && <li>and {more} more</li>}
      </ul>
    </div>
  );
}

function SumCard({ sum }: { sum: Schemas["BoardSumView"] }) {
  const open = sum.status !== "pass";
  const { observation } = sum;
  return (
    <NoteFrame status={sum.status} title={sum.status === "fail" ? sum.title : `${sum.title}: ${sum.combined} MΩ`}>
      {open && <p className={card.reason}>{sum.reason}</p>}
      {open && sum.next_step && <p>{sum.next_step}</p>}
      {sum.status === "fail" && observation && (
        <Button size="sm" onClick={() => observe({ kind: "board", id: sum.board_id, raise: observation })}>
          Observation
        </Button>
      )}
      {open && <SourceLine source={sum.source} />}
    </NoteFrame>
  );
}
