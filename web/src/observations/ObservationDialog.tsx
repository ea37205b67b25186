/** Recording an observation from anywhere: where comes from the focus, what from the catalogue or one's own words. */
import { useEffect, useMemo, useRef, useState } from "react";
import type { CatalogueEntry } from "../api/client";
import { useReference } from "../api/reference";
import { type About, closeObservation, focusOn } from "../inspection/desk";
import { add, setField, useInspection, useMay } from "../inspection/sync";
import type { Place, Value } from "../inspection/types";
import { whereOf } from "../inspection/words";
import form from "../ui/Form.module.css";
import { CodeMark } from "../ui/Mark";
import css from "./ObservationDialog.module.css";

const CODES = ["C1", "C2", "C3", "FI", "note"];

export default function ObservationDialog({ about }: { about: About }) {
  const dialog = useRef<HTMLDialogElement>(null);
  const reference = useReference();
  const model = useInspection((s) => s.model);
  const subject = model?.entities[about.id];
  const mended = about.existing ? model?.entities[about.existing]?.values : undefined;
  const raised = reference?.catalogue.find((e) => e.key === (mended?.catalogue_key ?? about.raise));
  const [place, setPlace] = useState(String(mended?.place ?? whereOf(subject?.kind === "check" ? model?.entities[subject.parentId] : subject)));
  const [text, setText] = useState(String(mended?.text ?? raised?.title ?? ""));
  const [entry, setEntry] = useState<CatalogueEntry | undefined>(raised);
  // What the verdicts would raise here comes with its code in its context.
  const offer = model?.judgement?.suggested.find((s) => s.key === raised?.key && (s.entity_id === about.id || s.touches.includes(about.id)));
  const decides = useMay("decide");
  const [code, setCode] = useState(String(mended?.code ?? about.code ?? offer?.code ?? raised?.code ?? ""));
  const [reason, setReason] = useState(String(mended?.code_reason ?? about.reason ?? offer?.moved ?? ""));
  const [onTheDay, setOnTheDay] = useState(mended?.mended === true);
  const [asLeft, setAsLeft] = useState(String(mended?.as_left ?? ""));
  const [retest, setRetest] = useState(String(mended?.retest ?? ""));
  const [at, setAt] = useState(0);
  const [trouble, setTrouble] = useState("");

  useEffect(() => {
    dialog.current?.showModal();
    dialog.current?.querySelector<HTMLElement>("[role=combobox]")?.focus();
  }, []);

  const offered = useMemo(() => {
    const all = reference?.catalogue ?? [];
    const suggested = new Set((model?.judgement?.notes ?? []).filter((n) => n.id === about.id).map((n) => n.observation));
    const words = text.toLowerCase().split(/\s+/).filter(Boolean);
    return all
      .filter((e) => words.every((w) => `${e.title} ${e.group} ${e.plain}`.toLowerCase().includes(w)))
      .sort((a, b) => Number(suggested.has(b.key)) - Number(suggested.has(a.key)));
  }, [reference, model, about.id, text]);
  const choosing = !entry || entry.title !== text;

  function choose(found: CatalogueEntry) {
    setEntry(found);
    setText(found.title);
    setCode(found.code);
    setTrouble("");
  }

  function close() {
    closeObservation();
    const { kind, id, field } = about;
    // Back where the inspector was.
    if (field) {
      focusOn(null);
      queueMicrotask(() => focusOn({ kind, id, field } as Place));
    }
  }

  function save() {
    if (!text.trim()) {
      setTrouble("Say what was found, or choose it from the list.");
      return;
    }
    const fields: Record<string, Value> = {
      place: place.trim() || null,
      text: text.trim(),
      catalogue_key: entry?.key ?? null,
      as_left: onTheDay ? asLeft.trim() || null : null,
    };
    if (decides) {
      fields.code = code || null;
      fields.code_reason = reason.trim() || null;
      fields.mended = onTheDay || null;
      fields.retest = onTheDay ? retest.trim() || null : null;
    }
    if (about.existing) {
      for (const [field, value] of Object.entries(fields)) {
        setField({ kind: "observation", id: about.existing, field }, value);
      }
    } else {
      const given = Object.fromEntries(Object.entries(fields).filter(([, value]) => value !== null));
      add("observation", model?.id ?? "", { about_entity: about.kind, about_id: about.id, ...given });
    }
    close();
  }

  function keyDown(event: React.KeyboardEvent) {
    if (event.key === "ArrowDown" || event.key === "ArrowUp") {
      event.preventDefault();
      setAt(Math.max(0, Math.min(offered.length - 1, at + (event.key === "ArrowDown" ? 1 : -1))));
    } else if (event.key === "Enter") {
      event.preventDefault();
      const found = offered[at];
      if (choosing && found && !event.ctrlKey) choose(found);
      else save();
    }
  }

  return (
    <dialog
      ref={dialog}
      className={css.dialog}
      aria-label="Observation"
      onCancel={(e) => {
        e.preventDefault();
        close();
      }}
      onKeyDown={(e) => e.key === "Enter" && e.ctrlKey && save()}
    >
      <div className={css.top}>
        <h2>Observation</h2>
        <label>
          Where <input value={place} maxLength={200} onChange={(e) => setPlace(e.target.value)} />
        </label>
      </div>
      <label className={css.what}>
        What was found
        <input
          role="combobox"
          aria-expanded={choosing}
          aria-controls="catalogue"
          aria-activedescendant={choosing && offered[at] ? `entry-${offered[at].key}` : undefined}
          aria-describedby={trouble ? "observation-trouble" : undefined}
          placeholder="Type a word, or choose below"
          value={text}
          maxLength={2000}
          onChange={(e) => {
            setText(e.target.value);
            setAt(0);
          }}
          onKeyDown={keyDown}
        />
      </label>
      {trouble && (
        <p id="observation-trouble" role="alert" className={css.trouble}>
          {trouble}
        </p>
      )}
      {choosing ? (
        <ul id="catalogue" role="listbox" aria-label="Catalogue" className={css.list}>
          {offered.map((found, i) => (
            <li key={found.key} id={`entry-${found.key}`} role="option" aria-selected={i === at} onClick={() => choose(found)}>
              <CodeMark code={found.code} />
              <span>{found.title}</span>
              <small>{found.group}</small>
            </li>
          ))}
          {offered.length === 0 && <li className={css.own}>Not in the catalogue: kept in your own words. Choose its code below.</li>}
        </ul>
      ) : (
        <div className={css.views}>
          <p>
            Usual view <b>{entry.code}</b>: {entry.why}
          </p>
          {entry.strict !== entry.code && (
            <p>
              Stricter <b>{entry.strict}</b>: {entry.strict_why}
            </p>
          )}
          {entry.mild !== entry.code && (
            <p>
              Milder <b>{entry.mild}</b>: {entry.mild_why}
            </p>
          )}
          {entry.facts.length > 0 ? (
            <ul className={css.facts} aria-label="What moves it">
              {entry.facts.map((fact) => (
                <li key={fact.fact}>
                  {fact.ask}{" "}
                  <button
                    type="button"
                    aria-pressed={code === fact.code && reason.includes(fact.says)}
                    onClick={() => {
                      setCode(fact.code);
                      setReason(`${fact.code}, since ${fact.says}.`);
                    }}
                  >
                    Yes: {fact.code}
                  </button>
                </li>
              ))}
            </ul>
          ) : (
            entry.moves && <p>What moves it: {entry.moves}</p>
          )}
          <p>You decide.</p>
        </div>
      )}
      {!decides && <p className={css.care}>You write down what was found; an inspector or a supervisor gives it its code.</p>}
      <div className={css.codes} role="group" aria-label="Code" hidden={!decides}>
        {CODES.map((one) => (
          <button key={one} type="button" aria-pressed={one === code} onClick={() => setCode(one === code ? "" : one)} title={reference?.code_meanings[one]}>
            <CodeMark code={one} large />
            <small>{reference?.code_meanings[one]}</small>
          </button>
        ))}
      </div>
      {entry && code && code !== entry.code && (
        <label className={css.what}>
          Why {code} rather than {entry.code}
          <input value={reason} maxLength={500} onChange={(e) => setReason(e.target.value)} />
        </label>
      )}
      {code === "C1" && <p className={css.care}>C1: tell the person in charge now, make it safe if they agree, and confirm it in writing with the time.</p>}
      <label className={css.day}>
        <input type="checkbox" checked={onTheDay} onChange={(e) => setOnTheDay(e.target.checked)} /> Made good on the day
      </label>
      {onTheDay && (
        <>
          <label className={css.what}>
            As left
            <input value={asLeft} maxLength={500} onChange={(e) => setAsLeft(e.target.value)} />
          </label>
          <label className={css.what}>
            Retest: what was measured, and what it showed
            <input value={retest} maxLength={200} onChange={(e) => setRetest(e.target.value)} />
          </label>
          {!(asLeft.trim() && retest.trim()) && <p>Without both it still counts to the outcome.</p>}
        </>
      )}
      <div className={css.foot}>
        {about.existing && (
          <button
            type="button"
            className={form.quiet}
            onClick={() => {
              setField({ kind: "observation", id: about.existing!, field: "removed" }, true);
              close();
            }}
          >
            Take out
          </button>
        )}
        <span style={{ flex: 1 }} />
        <button type="button" className={form.button} onClick={close}>
          Back <kbd>Esc</kbd>
        </button>
        <button type="button" className={`${form.button} ${form.primary}`} onClick={save}>
          Record it
        </button>
      </div>
    </dialog>
  );
}
