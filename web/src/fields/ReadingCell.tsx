/** A figure: what the meter showed, typed by keyboard or by the pad. The tablet's own keyboard stays away. */
import { memo, useEffect, useRef } from "react";
import type { Schemas, Status } from "../api/client";
import { useObservable } from "../api/reference";
import { backspace, commit, draft as setDraft, focusOn, goOn, move, observe, same, useDesk } from "../inspection/desk";
import { refusal } from "../inspection/model";
import { useInspection } from "../inspection/open";
import type { Place } from "../inspection/types";
import { Mark, Tick } from "../drawings/Mark";
import { Hidden } from "../ui/Hidden";
import css from "./ReadingCell.module.css";

interface Props {
  place: Place;
  label: string;
  id?: string;
  /** A tick or a cross instead of a figure. */
  check?: boolean;
  status?: Status;
  /** What is expected, shown faintly while nothing stands. */
  ghost?: string;
  /** Drawn as a field of a form rather than a cell of a grid. */
  boxed?: boolean;
}

/** Letters that stand for words; they are ordinary letters again behind LIM, where a reason is written. */
const LETTERS: Record<string, string> = { l: "LIM ", n: "N/A", v: "N/V", x: "OL" };
const CHECKS: Record<string, string> = {
  y: "correct",
  "1": "correct",
  " ": "correct",
  n: "incorrect",
  "0": "incorrect",
  l: "LIM",
  a: "N/A",
};

export const ReadingCell = memo(function ReadingCell({ place, label, id, check, status, ghost, boxed }: Props) {
  const input = useRef<HTMLInputElement>(null);
  const focused = useDesk((s) => same(s.focus, place));
  const typed = useDesk((s) => (same(s.focus, place) ? s.draft : null));
  const kept = useInspection((s) => s.model?.entities[place.id]?.values[place.field]);
  const refused = useInspection((s) => (s.model ? refusal(s.model, place.id, place.field) : undefined));

  useEffect(() => {
    if (focused && document.activeElement !== input.current) input.current?.focus();
  }, [focused]);

  const observable = useObservable();
  const trainee = useInspection((s) => readByTrainee(s.model?.judgement?.to_countersign, place));

  const text = typed ?? String(kept ?? "");
  const reasoning = text.toUpperCase().startsWith("LIM");

  function keyDown(event: React.KeyboardEvent<HTMLInputElement>) {
    const { key } = event;
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const stop = () => event.preventDefault();
    if (key === "Enter") {
      stop();
      if (event.shiftKey) move(-1);
      else goOn();
      // At the last figure the next key replaces what was kept, as it does everywhere else.
      if (document.activeElement === input.current) input.current?.select();
    } else if (key === "Tab") {
      const order = useDesk.getState().order;
      const at = order.findIndex((p) => same(p, place)) + (event.shiftKey ? -1 : 1);
      if (at >= 0 && at < order.length) {
        stop();
        move(event.shiftKey ? -1 : 1);
      }
    } else if (key === "Escape") {
      setDraft(null);
      input.current?.select();
    } else if (key === "ArrowDown" || key === "ArrowUp") {
      stop();
      jump(input.current, key === "ArrowDown" ? 1 : -1);
    } else if ((key === "ArrowRight" || key === "ArrowLeft") && typed === null) {
      stop();
      jump(input.current, 0, key === "ArrowRight" ? 1 : -1);
    } else if (key === "o" || key === "O") {
      if (reasoning) return;
      stop();
      if (observable.includes(place.kind)) observe({ kind: place.kind, id: place.id, field: place.field });
    } else if (check) {
      if (key === "Backspace" || key === "Delete") {
        stop();
        setDraft("");
        commit();
      } else if (key.length === 1) {
        stop();
        const chosen = CHECKS[key.toLowerCase()];
        if (chosen) {
          setDraft(chosen);
          move(1);
        }
      }
    } else if (!reasoning && LETTERS[key.toLowerCase()]) {
      stop();
      setDraft(LETTERS[key.toLowerCase()] as string);
    } else if (key === "Backspace" && typed === null) {
      stop();
      backspace();
    }
  }

  return (
    <span
      className={`${css.cell} ${boxed ? css.boxed : ""} ${focused ? css.focused : ""} ${refused ? css.refused : ""}`}
    >
      {status && status !== "pass" && !refused && <Mark status={status} size={13} />}
      {refused && <b aria-hidden>!</b>}
      {trainee !== undefined && (
        <abbr className={css.trainee} title={`Read by ${trainee}, not countersigned`}>
          t
        </abbr>
      )}
      {check && (text === "correct" || text === "incorrect") && (
        <span className={css.sign}>{text === "correct" ? <Tick /> : <b>✗</b>}</span>
      )}
      {!text && ghost && <span className={css.ghost}>{ghost}</span>}
      <input
        ref={input}
        id={id}
        className={`${css.input} ${check && text ? css.hidden : ""}`}
        value={check ? (text === "correct" || text === "incorrect" ? "" : text) : text}
        inputMode="none"
        autoComplete="off"
        spellCheck={false}
        maxLength={20000}
        aria-label={label}
        aria-invalid={!!refused}
        aria-describedby={refused ? `${place.id}-${place.field}-refused` : undefined}
        data-cell={`${place.id}.${place.field}`}
        onFocus={(e) => {
          focusOn(place);
          e.target.select();
        }}
        onBlur={() => same(useDesk.getState().focus, place) && commit()}
        onChange={(e) => !check && setDraft(e.target.value)}
        onKeyDown={keyDown}
      />
      {refused && <Hidden id={`${place.id}-${place.field}-refused`}>{refused}</Hidden>}
    </span>
  );
});

type ToCountersign = Schemas["ToCountersignView"];

/** The trainee who read a figure that nobody has signed for yet. */
function readByTrainee(all: ToCountersign[] | undefined, { id, field }: Place): string | undefined {
  return all?.find(({ figures }) => figures.some((figure) => figure.id === id && figure.field === field))?.who;
}

/** Move by rows or columns of the table that the figure stands in. */
function jump(from: HTMLInputElement | null, rows: number, columns = 0): void {
  const cell = from?.closest("td");
  const row = cell?.closest("tr");
  if (!cell || !row || !row.parentElement) return;
  const cells = [...row.children];
  if (columns) {
    for (let at = cells.indexOf(cell) + columns; at >= 0 && at < cells.length; at += columns) {
      const next = cells[at]?.querySelector<HTMLInputElement>("input[data-cell]");
      if (next) return next.focus();
    }
    return;
  }
  const all = [...row.parentElement.children];
  for (let at = all.indexOf(row) + rows; at >= 0 && at < all.length; at += rows) {
    const next = all[at]?.children[cells.indexOf(cell)]?.querySelector<HTMLInputElement>("input[data-cell]");
    if (next) return next.focus();
  }
}
