/** Safe isolation: each board guided step by step, every step with its time, until it is restored. */
import { useState } from "react";
import type { Me, Schemas } from "../api/client";
import { children } from "../inspection/model";
import { add, setField, useInspection } from "../inspection/sync";
import type { Entity, Place } from "../inspection/types";
import { nameOf } from "../inspection/words";
import { FieldInput } from "../ui/FieldInput";
import form from "../ui/Form.module.css";
import { StageHead } from "../ui/StageHead";
import css from "./Isolation.module.css";

const time = (iso: unknown) => new Date(String(iso)).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });
const day = (iso: unknown) => new Date(String(iso)).toLocaleDateString("en-GB", { day: "numeric", month: "short" });

export default function Isolation({ me }: { me: Me }) {
  const model = useInspection((s) => s.model);
  if (!model) return null;
  const boards = children(model, "board", model.id);
  const stay = model.entities[model.id]?.values.must_stay_on;
  const agreed = model.entities[model.id]?.values.power_off;
  return (
    <>
      <StageHead title="Isolation" line="proved dead before covers and conductors are touched" />
      <div className={form.form}>
        <p className={form.lead}>
          Agree the power-off with the occupier first: medical equipment, freezer, fish.
          {agreed ? ` Agreed: ${String(agreed)}.` : ""} {stay ? <b>Must stay on: {String(stay)}.</b> : null}
        </p>
        {boards.length === 0 && <p>No board yet: add one under Boards, then record its isolation here.</p>}
        {boards.map((board) => (
          <OfBoard key={board.id} board={board} me={me} />
        ))}
      </div>
    </>
  );
}

function OfBoard({ board, me }: { board: Entity; me: Me }) {
  const model = useInspection((s) => s.model);
  if (!model) return null;
  const made = children(model, "isolation", board.id);
  const open = made.find((one) => !one.values.restored_at);
  const begin = () => add("isolation", board.id, { by: me.name, proved_at: new Date().toISOString() });
  // Which pairings there are to prove comes with the judgement, way by way.
  const wanted = model.judgement?.boards.find((one) => one.board_id === board.id)?.pairings ?? [];
  return (
    <section className={css.board} aria-label={`Isolation of ${nameOf(board)}`}>
      <div className={form.title}>
        <h2>{nameOf(board)}</h2>
        {!open && (
          <button type="button" className={`${form.button} ${form.primary}`} onClick={begin}>
            {made.length ? "Isolate again: tester proved now" : "Begin: tester proved now"}
          </button>
        )}
      </div>
      {!open && made.length === 0 && board.values.isolated_at != null && (
        <p>
          Proved dead {time(board.values.isolated_at)}, {day(board.values.isolated_at)}
          {board.values.isolated_lock ? `, ${String(board.values.isolated_lock)}` : ""}.
        </p>
      )}
      {!open && made.length === 0 && board.values.isolated_at == null && <p className={form.lead}>Nothing recorded yet.</p>}
      {made.map((one) => (one === open ? <Steps key={one.id} isolation={one} wanted={wanted} /> : <Done key={one.id} isolation={one} />))}
    </section>
  );
}

/** What a record calls a pairing: `busbar L–N`, `way 3 L1–E`. */
const nameOfPairing = (at: string, between: string) => `${at} ${between}`;

function Done({ isolation }: { isolation: Entity }) {
  const v = isolation.values;
  return (
    <p className={css.done}>
      <b>
        {v.proved_again_at ? `Proved dead ${time(v.proved_again_at)}` : "Begun"}, restored {time(v.restored_at)}, {day(v.restored_at)}
      </b>{" "}
      {[v.by, v.lock, v.isolated_where].filter(Boolean).join(" · ")}
    </p>
  );
}

function Steps({ isolation, wanted }: { isolation: Entity; wanted: Schemas["PairingsOut"][] }) {
  const [restoring, setRestoring] = useState(false);
  const at = (field: string): Place => ({ kind: "isolation", id: isolation.id, field });
  const v = isolation.values;
  const found = (v.pairings ?? {}) as Record<string, string>;
  const all = wanted.flatMap((row) => row.between.map((between) => nameOfPairing(row.at, between)));
  const left = all.filter((name) => !found[name]).length;
  const live = all.filter((name) => found[name] === "live");
  const put = (names: string[], state: string | null) => {
    const others = Object.entries(found).filter(([name]) => !names.includes(name));
    const next = Object.fromEntries(state ? [...others, ...names.map((name) => [name, state])] : others);
    setField(at("pairings"), Object.keys(next).length ? next : null);
  };
  const now = (field: string) => setField(at(field), v[field] ? null : new Date().toISOString());
  return (
    <ol className={css.steps}>
      <Step n={1} title="Tester proved on a known source" when={v.proved_at} act="Proved now" onAct={() => now("proved_at")}>
        <FieldInput place={at("source")} hint="Proving unit, or a socket known to be live." />
        <FieldInput place={at("by")} />
      </Step>
      <Step n={2} title="Isolated, locked off, tagged; key on you" when={v.isolated_at} act="Isolated now" onAct={() => now("isolated_at")}>
        <FieldInput place={at("isolated_where")} hint="Main switch, switch-fuse, or the way that feeds it." />
        <FieldInput place={at("lock")} hint="Which lock, where." />
        <FieldInput place={at("key_with")} />
      </Step>
      <Step n={3} title={left ? `Every pairing dead: ${left} of ${all.length} left` : live.length ? "Not dead" : `All ${all.length} pairings dead`} done={left === 0 && !live.length} bad={live.length > 0}>
        {live.length > 0 && (
          <p role="alert" className={css.stop}>
            Voltage at {live.join(", ")}. Keep off. Find the second supply or the wrong switch, isolate it, and begin again.
          </p>
        )}
        {wanted.length === 0 && <p>Which pairings there are to prove is listed as soon as the server has answered.</p>}
        <div className={css.pairings}>
          {wanted.map((row) => {
            const names = row.between.map((between) => nameOfPairing(row.at, between));
            const whole = names.every((name) => found[name] === "dead");
            return (
              <div key={row.at} className={css.row} role="group" aria-label={row.at}>
                <b>{row.at}</b>
                {row.between.map((pairing) => {
                  const name = nameOfPairing(row.at, pairing);
                  const next = { dead: "live", live: null }[found[name] ?? ""] as string | null | undefined;
                  return (
                    <button key={pairing} type="button" data-state={found[name]} onClick={() => put([name], next === undefined ? "dead" : next)}>
                      <em>{row.at} </em>
                      {pairing} <span>{found[name] ?? "–"}</span>
                    </button>
                  );
                })}
                <button type="button" className={css.whole} disabled={whole} aria-label={`${row.at}: all dead`} onClick={() => put(names, "dead")}>
                  all dead
                </button>
              </div>
            );
          })}
        </div>
        <p className={form.lead}>A tap: dead. A second tap: live. A third: not tested.</p>
      </Step>
      <Step n={4} title="Tester proved again" when={v.proved_again_at} act="Proved again now" onAct={() => now("proved_again_at")} />
      <Step n={5} title="Restored: conductors back, lock off, power on" when={v.restored_at} act={restoring ? "" : "Restore …"} later={!v.proved_again_at} onAct={() => setRestoring(true)}>
        {restoring && (
          <div className={form.offers} style={{ marginBottom: 0 }}>
            <p>Every conductor and bond back and checked, covers on, nobody at work?</p>
            <button type="button" className={`${form.button} ${form.primary}`} onClick={() => now("restored_at")}>
              Yes, restored now
            </button>
            <button type="button" className={form.button} onClick={() => setRestoring(false)}>
              Not yet
            </button>
          </div>
        )}
      </Step>
      <li className={css.away}>
        <button type="button" className={form.quiet} onClick={() => setField(at("removed"), true)}>
          Take this record out
        </button>
      </li>
    </ol>
  );
}

interface StepProps {
  n: number;
  title: string;
  when?: unknown;
  done?: boolean;
  bad?: boolean;
  act?: string;
  /** Its turn has not come: the button stands back. */
  later?: boolean;
  onAct?: () => void;
  children?: React.ReactNode;
}

function Step({ n, title, when, done, bad, act, later, onAct, children: inside }: StepProps) {
  return (
    <li data-done={!!when || done || undefined} data-bad={bad || undefined}>
      <div className={css.head}>
        <span className={css.n}>{n}</span>
        <b>{title}</b>
        {when ? <span className={css.when}>{time(when)}</span> : null}
        {onAct && act && (
          <button type="button" className={when ? form.quiet : later ? form.button : `${form.button} ${form.primary}`} onClick={onAct}>
            {when ? "take back" : act}
          </button>
        )}
      </div>
      {inside && <div className={css.inside}>{inside}</div>}
    </li>
  );
}
