/** The reading pad: docked under the work, never over it. Keys of 48 px; a keyboard does all of it too. */
import type { ReactNode } from "react";
import type { Schemas } from "../api/client";
import { useFieldSpec } from "../api/reference";
import {
  backspace,
  draft as setDraft,
  focusOn,
  goOn,
  move,
  neighbour,
  neighbourOf,
  placeKey,
  type as typeKey,
  useDesk,
} from "../inspection/desk";
import { copyDown, isLimited, useSameBelow } from "../inspection/copyDown";
import { children, refusal } from "../inspection/model";
import { setField, undo, useInspection, useMay } from "../inspection/open";
import { useReadingSource } from "../inspection/readingSource";
import { type Entity, type Place, placeOf } from "../inspection/types";
import { useTranslate, whereOf } from "../inspection/words";
import { HistoryButton } from "../fields/HistoryButton";
import { usePositionsOf } from "../inspection/positions";
import { PositionsButton } from "./PositionsButton";
import { recordRaised } from "../observations/record";
import { tell } from "../ui/tell";
import css from "./ReadingPad.module.css";

export function ReadingPad() {
  const focus = useDesk((s) => s.focus);
  const next = useDesk((s) => neighbourOf(s, 1));
  const active = focus ?? neighbour(1);
  // The figures of a stage come with its screen, a moment after the pad: where there will be some, their keys have their
  // room at once, so that nothing jumps.
  const due = useInspection((s) => s.model !== null && Object.values(s.model.entities).some(hasFigures));
  return (
    <section className={css.pad} aria-label="Reading pad" onPointerDown={(e) => e.preventDefault()}>
      <Readout key={focus ? placeKey(focus) : ""} place={focus} />
      {active ? <Keys place={active} next={next} idle={!focus} /> : due && <div className={css.room} aria-hidden />}
    </section>
  );
}

const hasFigures = ({ kind, values }: Entity) => kind === "circuit" && !values.removed;

function Readout({ place }: { place: Place | null }) {
  const translate = useTranslate();
  const spec = useFieldSpec(place?.kind ?? "", place?.field ?? "");
  const typed = useDesk((s) => s.draft);
  const origin = useDesk((s) => s.origin);
  const message = useReadingSource((s) => (s.measuring ? `${s.source.name} is measuring …` : s.told));
  const entity = useInspection((s) => (place ? s.model?.entities[place.id] : undefined));
  const expected = useInspection((s) =>
    place ? s.model?.judgement?.expected.find((e) => e.id === place.id && e.field === place.field)?.says : undefined,
  );
  const before = useBefore(place);
  const stood = usePositionsOf(place).join(", ");
  const refused = useInspection((s) => (place && s.model ? refusal(s.model, place.id, place.field) : undefined));
  if (!place || !spec) {
    return (
      <div className={css.readout}>
        <p role="status">{message ?? "Tap a figure, or press Tab, to begin."}</p>
      </div>
    );
  }
  const text = typed ?? String(entity?.values[place.field] ?? "");
  return (
    <div className={css.readout}>
      <div className={css.title}>
        <span>
          {whereOf(entity)} · {translate(spec.label)}
        </span>
      </div>
      <div className={css.shown}>
        <div className={css.figure} aria-live="polite" data-long={text.length > 8 || undefined}>
          {text || <span className={css.none}>–</span>} <span className={css.unit}>{spec.unit}</span>
        </div>
        <span className={css.about}>
          <PositionsButton place={place} label={translate(spec.label)} />
          <HistoryButton place={place} label={`History of ${translate(spec.label)}`} />
        </span>
      </div>
      {message !== null ? (
        <div className={css.told} role="status" title={message}>
          {message}
        </div>
      ) : origin ? (
        <div className={css.expected} role="status">
          from {origin.name}: next keeps it
        </div>
      ) : refused && typed === null ? (
        <div className={css.refused} role="alert">
          {refused}
        </div>
      ) : (
        <div className={css.expected}>{[expected, before, stood].filter(Boolean).join(" · ")}</div>
      )}
    </div>
  );
}

/** So many earlier readings are told beside the one that is due, the latest first. */
const YEARS = 2;

/** What the same figure of the same circuit or point read in earlier reports. */
function useBefore(place: Place | null): string {
  return useInspection((s) => {
    if (!s.model || (place?.kind !== "circuit" && place?.kind !== "point")) return "";
    return children(s.model, "earlier", place.id)
      .filter(({ values }) => values.figure === place.field && values.reading != null)
      .sort((a, b) => String(b.values.measured_on).localeCompare(String(a.values.measured_on)))
      .slice(0, YEARS)
      .map(({ values }) => `${String(values.measured_on ?? "before").slice(0, 4)}: ${String(values.reading)}`)
      .join(", ");
  });
}

/** The observation that a reason leads to, with the reason: it can be taken back by itself. */
async function raise({ key, entity_id }: Schemas["NotPossible"], decides: boolean): Promise<void> {
  if (!(await recordRaised(key, entity_id, decides)))
    tell("The limitation is recorded. Its observation is offered once that is judged.");
}

interface KeysProps {
  place: Place;
  next: Place | null;
  /** The figure is not taken up yet: the first key does that. */
  idle: boolean;
}

function Keys({ place, next, idle }: KeysProps) {
  const spec = useFieldSpec(place.kind, place.field);
  const typed = useDesk((s) => s.draft);
  const kept = useInspection((s) => s.model?.entities[place.id]?.values[place.field]);
  const whole = (text: string) => {
    if (idle) focusOn(place);
    setDraft(text);
  };
  const choose = (text: string) => {
    whole(text);
    move(1);
  };
  const on = (
    <>
      <button type="button" className={css.word} data-key="back" onClick={() => move(-1)}>
        back
      </button>
      <NextKey place={place} next={next} />
    </>
  );
  if (spec?.kind === "choice") return <CheckKeys choose={choose}>{on}</CheckKeys>;
  if (isLimited(typed ?? kept)) {
    return (
      <ReasonKeys place={place} choose={choose} clear={() => whole("")}>
        {on}
      </ReasonKeys>
    );
  }
  const press = (text: string) => {
    if (idle) focusOn(place);
    typeKey(text);
  };
  return (
    <FigureKeys press={press} whole={whole}>
      {on}
    </FigureKeys>
  );
}

/** Keep what is typed, and go on. */
function NextKey({ place, next }: Pick<KeysProps, "place" | "next">) {
  const translate = useTranslate();
  const typed = useDesk((s) => s.draft);
  const then = useDesk((s) => s.then);
  const spec = useFieldSpec(next?.kind ?? "", next?.field ?? "");
  const entity = useInspection((s) => (next && next.id !== place.id ? s.model?.entities[next.id] : undefined));
  const destination = next
    ? [whereOf(entity), spec && translate(spec.label)].filter(Boolean).join(" ")
    : "the last one here";
  return (
    <button type="button" className={css.next} data-key="next" onClick={goOn}>
      <b>{next ? "next" : typed === null && then ? "done" : "keep"}</b>
      <span>{next ? destination : (then?.says ?? destination)}</span>
    </button>
  );
}

function UndoKey() {
  return (
    <button
      type="button"
      className={css.word}
      data-key="undo"
      onClick={() => {
        const where = undo();
        if (where) focusOn(where);
      }}
    >
      undo
    </button>
  );
}

function RubKey() {
  return (
    <button
      type="button"
      className={css.word}
      data-key="rub"
      onClick={backspace}
      aria-label="rub out the last character"
    >
      <svg width="26" height="18" viewBox="0 0 26 18" aria-hidden="true">
        <path
          d="M9 1.5 H24.5 V16.5 H9 L1.5 9 Z M13 6 L19 12 M19 6 L13 12"
          fill="none"
          stroke="currentColor"
          strokeWidth="2"
        />
      </svg>
    </button>
  );
}

const CHECKS = [
  ["correct", "correct"],
  ["incorrect", "not correct"],
  ["LIM", "LIM"],
  ["N/A", "N/A"],
] as const;

interface CheckKeysProps {
  choose: (text: string) => void;
  children: ReactNode;
}

/** What a yes-or-no test can be. */
function CheckKeys({ choose, children }: CheckKeysProps) {
  return (
    <div className={`${css.keys} ${css.checks}`}>
      {CHECKS.map(([value, words]) => (
        <button key={value} type="button" className={css.choice} onClick={() => choose(value)}>
          {words}
        </button>
      ))}
      <button type="button" className={css.word} onClick={() => choose("")}>
        clear
      </button>
      <UndoKey />
      {children}
    </div>
  );
}

/** Why a figure is a limitation. */
function ReasonKeys({ place, choose, clear, children }: CheckKeysProps & { place: Place; clear: () => void }) {
  const spec = useFieldSpec(place.kind, place.field);
  const typed = useDesk((s) => s.draft);
  const below = useSameBelow(place);
  const decides = useMay("decide");
  // Served where the facts are there that its observation rests on.
  const raises = useInspection((s) =>
    spec?.limited?.also
      ? s.model?.judgement?.not_possible.find(
          (notPossible) =>
            notPossible.circuit_ids.includes(place.id) && spec.limited?.reasons.includes(notPossible.reason),
        )
      : undefined,
  );
  return (
    <div className={`${css.keys} ${css.checks}`}>
      {spec?.limited?.reasons.map((reason) => (
        <button
          key={reason}
          type="button"
          className={css.choice}
          onClick={() => {
            if (spec.limited?.also) setField(placeOf(place.kind, place.id, spec.limited.also), reason);
            choose(`LIM ${reason}`);
            if (raises?.reason === reason) void raise(raises, decides);
          }}
        >
          {raises?.reason === reason ? `${reason}, and its observation` : reason}
        </button>
      ))}
      {typed === null && below.length > 0 && (
        <button type="button" className={css.word} onClick={() => copyDown(place, spec?.limited?.also)}>
          same for {below.length} below
        </button>
      )}
      {typed === null ? (
        <button type="button" className={css.word} onClick={clear}>
          clear
        </button>
      ) : (
        <RubKey />
      )}
      {children}
    </div>
  );
}

interface FigureKeysProps {
  press: (text: string) => void;
  whole: (text: string) => void;
  children: ReactNode;
}

function FigureKeys({ press, whole, children }: FigureKeysProps) {
  const put = (name: string) => (
    <button key={name} type="button" className={css.key} data-key={name} onClick={() => press(name)}>
      {name}
    </button>
  );
  const word = (name: string, text: string) => (
    <button type="button" className={css.word} data-key={name} onClick={() => whole(text)}>
      {name}
    </button>
  );
  return (
    <div className={css.keys}>
      {["1", "2", "3", "4", "5", ".", ">"].map(put)}
      {word("LIM", "LIM ")}
      {word("OL", "OL")}
      <UndoKey />
      {["6", "7", "8", "9", "0"].map(put)}
      <RubKey />
      {put("<")}
      {word("N/A", "N/A")}
      {word("clear", "")}
      {children}
    </div>
  );
}
