/** Boards: how they hang together, what stands in front of the circuits, and what was looked at. */
import { useState } from "react";
import { children, type Model, refusal } from "../inspection/model";
import { add, setField, useInspection } from "../inspection/sync";
import type { Entity } from "../inspection/types";
import { nameOf } from "../inspection/words";
import { EarlierPapers } from "../papers/EarlierPapers";
import { FieldInput } from "../ui/FieldInput";
import form from "../ui/Form.module.css";
import { Photos } from "../photos/Photos";
import { StageHead } from "../ui/StageHead";
import { BoardChecks } from "./BoardChecks";
import { BoardDrawing } from "./BoardDrawing";
import { Circuits } from "./CircuitTable";
import css from "./Boards.module.css";
import { Rcds } from "./Rcds";
import { tree } from "./ways";

export default function Boards() {
  const model = useInspection((s) => s.model);
  const [chosen, choose] = useState<string | null>(null);
  const [circuit, chooseCircuit] = useState<string | null>(null);
  if (!model) return null;
  const boards = children(model, "board", model.id);
  const board = boards.find((b) => b.id === chosen) ?? tree(model)[0]?.board;
  const addBoard = () => {
    const n = boards.length + 1;
    choose(add("board", model.id, { name: `Board ${n}`, position: n }));
  };
  if (!board) {
    return (
      <>
        <StageHead title="Boards" />
        <div className={form.form}>
          <p style={{ marginBottom: 14 }}>Begin with the board that the tails go to; its circuits follow way by way.</p>
          <button type="button" className={`${form.button} ${form.primary}`} onClick={addBoard}>
            Add the first board
          </button>
          <h2 style={{ marginTop: 26 }}>Or take it from earlier papers</h2>
          <EarlierPapers />
        </div>
      </>
    );
  }
  const at = (field: string) => ({ kind: "board" as const, id: board.id, field });
  return (
    <>
      <StageHead title={nameOf(board)} line={String(board.values.location ?? "")}>
        <button type="button" className={form.quiet} onClick={addBoard}>
          Another board
        </button>
      </StageHead>
      {boards.length > 1 && <BoardTree chosen={board.id} choose={choose} />}
      <Unconfirmed board={board} />
      <BoardDrawing board={board} movable chosen={circuit ?? undefined} choose={(one) => chooseCircuit(one.id)} />
      <Photos key={`photos-${board.id}`} kind="board" id={board.id} shows="circuit chart" label="Photo of the chart" />
      <div className={css.head}>
        <FieldInput place={at("name")} label="Name" />
        <FieldInput place={at("location")} />
        <FieldInput place={at("ways")} />
        <FieldInput place={at("main_switch_a")} />
        <FieldInput place={at("conditional_ka")} label="Conditional rating" />
        <div className={form.wide}>
          <FieldInput place={at("main_switch_kind")} />
        </div>
      </div>
      <Circuits key={board.id} board={board} chosen={circuit} />
      <Rcds key={`rcds-${board.id}`} board={board} />
      <details key={`feed-${board.id}`} className={`${form.details} ${css.inset}`}>
        <summary>{feedOf(board, model)}</summary>
        <Feed board={board} />
      </details>
      <div className={css.surge}>
        <FieldInput place={at("spd_state")} />
        {board.values.spd_state != null && board.values.spd_state !== "none" && (
          <>
            <FieldInput place={at("spd_uc_v")} />
            <FieldInput place={at("spd_u_dc_v")} hint="Not required; module out of the board." />
          </>
        )}
      </div>
      <BoardChecks board={board} />
    </>
  );
}

/** The boards under the ways that feed them. */
function BoardTree({ chosen, choose }: { chosen: string; choose: (id: string) => void }) {
  const model = useInspection((s) => s.model);
  if (!model) return null;
  return (
    <ul className={css.tree} aria-label="Boards">
      {tree(model).map(({ board, depth, feeding }) => {
        const circuits = children(model, "circuit", board.id);
        return (
          <li key={board.id} style={{ paddingLeft: depth * 22 }}>
            <button type="button" aria-pressed={board.id === chosen} onClick={() => choose(board.id)}>
              {depth > 0 && <span aria-hidden="true">└ </span>}
              <b>{nameOf(board)}</b> <span>{[feeding && `from way ${nameOf(feeding)}`, `${circuits.length} circuits`].filter(Boolean).join(" · ")}</span>
            </button>
          </li>
        );
      })}
    </ul>
  );
}

const feedOf = (board: Entity, model: Model): string => {
  const feeding = model.entities[String(board.values.fed_by ?? "")];
  const parts = [
    feeding ? `Fed from way ${nameOf(feeding)}` : "Fed from the origin",
    board.values.phases ? `${board.values.phases === "3" ? "three phases" : "one phase"}` : "",
    board.values.earthing === "own electrode" ? "with an electrode of its own" : "",
  ];
  return parts.filter(Boolean).join(", ");
};

function Feed({ board }: { board: Entity }) {
  const model = useInspection((s) => s.model);
  const refused = useInspection((s) => (s.model ? refusal(s.model, board.id, "fed_by") : undefined));
  if (!model) return null;
  const at = (field: string) => ({ kind: "board" as const, id: board.id, field });
  const others = children(model, "board", model.id).filter((one) => one.id !== board.id);
  return (
    <div className={form.group}>
      {others.length > 0 && (
        <label className={css.pick}>
          <b>Fed from which way</b>
          <select value={String(board.values.fed_by ?? "")} onChange={(e) => setField(at("fed_by"), e.target.value || null)} aria-invalid={!!refused}>
            <option value="">the origin</option>
            {others.map((other) => (
              <optgroup key={other.id} label={nameOf(other)}>
                {children(model, "circuit", other.id).map((one) => (
                  <option key={one.id} value={one.id}>
                    {nameOf(one)}
                  </option>
                ))}
              </optgroup>
            ))}
          </select>
          {refused && <small role="alert">{refused}</small>}
        </label>
      )}
      <FieldInput place={at("phases")} words={{ "1": "one", "3": "three" }} />
      <FieldInput place={at("earthing")} />
      {board.values.earthing === "own electrode" && (
        <>
          <FieldInput place={at("electrode_ohm")} hint="Measured with everything parallel taken off." />
          <FieldInput place={at("electrode_alone")} hint="Bonds and pipes would help it." />
        </>
      )}
      <FieldInput place={at("outbuilding")} />
      {board.values.outbuilding === true && (
        <div className={form.wide}>
          <FieldInput place={at("extraneous")} hint="Water, gas or steel of its own there." />
        </div>
      )}
      <FieldInput place={at("only_way_out")} />
      <FieldInput place={at("no_cpc_notice")} hint="That lighting has no earth, and what must not be fitted." />
    </div>
  );
}

/** What was carried over from earlier papers and not seen yet. */
function Unconfirmed({ board }: { board: Entity }) {
  const model = useInspection((s) => s.model);
  const circuits = model ? children(model, "circuit", board.id).filter((one) => one.values.unconfirmed) : [];
  const devices = model ? children(model, "rcd", board.id).filter((one) => one.values.unconfirmed) : [];
  if (!circuits.length && !devices.length && !board.values.unconfirmed) return null;
  const confirm = () => {
    setField({ kind: "board", id: board.id, field: "unconfirmed" }, null);
    for (const one of circuits) setField({ kind: "circuit", id: one.id, field: "unconfirmed" }, null);
    for (const one of devices) setField({ kind: "rcd", id: one.id, field: "unconfirmed" }, null);
  };
  const from = model?.entities[model.id]?.values.carried_from;
  return (
    <div className={form.care} role="note">
      <p>
        <b>{circuits.length ? `${circuits.length} ${circuits.length === 1 ? "circuit" : "circuits"} not confirmed yet.` : "This board is not confirmed yet."}</b>{" "}
        {from ? `Carried over from ${String(from)}.` : "Carried over."} Dashed ways were not seen on site yet; confirm each, or the board.
      </p>
      <button type="button" className={`${form.button} ${form.primary}`} onClick={confirm}>
        All of it stands as drawn
      </button>
    </div>
  );
}
