/** What is looked at on a board: a tap each, and from "not good" straight to its observation. */
import { useReference } from "../api/reference";
import { observe } from "../inspection/desk";
import { children } from "../inspection/model";
import { add, setField, useInspection } from "../inspection/sync";
import type { Entity } from "../inspection/types";
import css from "./Boards.module.css";

const STATES = ["good", "not good", "LIM", "N/A"] as const;

export function BoardChecks({ board }: { board: Entity }) {
  const model = useInspection((s) => s.model);
  const items = useReference()?.board_checks ?? [];
  if (!model) return null;
  const made = children(model, "check", board.id);
  const notes = model.judgement?.notes ?? [];
  const stateOf = (item: string) => made.find((check) => check.values.item === item);
  const set = (item: string, state: string) => {
    const check = stateOf(item);
    if (!check) add("check", board.id, { item, state });
    else setField({ kind: "check", id: check.id, field: "state" }, check.values.state === state ? null : state);
  };
  const left = items.filter((item) => !stateOf(item.key)?.values.state);
  return (
    <section className={css.checks} aria-label="Looked at">
      <h2>
        Looked at <span>{left.length ? `${left.length} left` : "all of it"}</span>
        {left.length > 1 && (
          <button type="button" className={css.more} onClick={() => left.forEach((item) => set(item.key, "good"))}>
            the rest is good
          </button>
        )}
      </h2>
      <ul>
        {items.map((item) => {
          const check = stateOf(item.key);
          const state = check?.values.state;
          const said = notes.some((note) => note.id === check?.id && note.on_record);
          return (
            <li key={item.key}>
              <span>{item.label}</span>
              <div role="group" aria-label={item.label}>
                {STATES.map((one) => (
                  <button key={one} type="button" aria-pressed={state === one} onClick={() => set(item.key, one)}>
                    {one}
                  </button>
                ))}
              </div>
              {state === "not good" &&
                (said ? (
                  <em>observation recorded</em>
                ) : (
                  <button type="button" className={css.raise} onClick={() => observe({ kind: "check", id: check?.id ?? board.id, raise: item.observation || null })}>
                    Observation
                  </button>
                ))}
            </li>
          );
        })}
      </ul>
    </section>
  );
}
