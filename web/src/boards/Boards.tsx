/** Boards: what stands in front of the circuits, and the circuits way by way. */
import { useState } from "react";
import { useReference } from "../api/reference";
import { children, refusal } from "../inspection/model";
import { add, setField, useInspection } from "../inspection/sync";
import type { Entity, Value } from "../inspection/types";
import { nameOf } from "../inspection/words";
import { FieldInput } from "../ui/FieldInput";
import form from "../ui/Form.module.css";
import { StageHead, Switch } from "../ui/StageHead";
import { BoardDrawing } from "./BoardDrawing";
import { CircuitDetails } from "./CircuitDetails";
import css from "./Boards.module.css";
import { PRESETS, type Preset } from "./presets";

export default function Boards() {
  const model = useInspection((s) => s.model);
  const [chosen, choose] = useState<string | null>(null);
  if (!model) return null;
  const boards = children(model, "board", model.id);
  const board = boards.find((b) => b.id === chosen) ?? boards[0];
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
        </div>
      </>
    );
  }
  const at = (field: string) => ({ kind: "board" as const, id: board.id, field });
  return (
    <>
      <StageHead title={nameOf(board)} line={String(board.values.location ?? "")}>
        {boards.length > 1 && <Switch label="Board" options={boards.map((b) => [b.id, nameOf(b)])} chosen={board.id} choose={choose} />}
        <button type="button" className={form.quiet} onClick={addBoard}>
          Another board
        </button>
      </StageHead>
      <BoardDrawing board={board} />
      <div className={css.head}>
        <FieldInput place={at("name")} label="Name" />
        <FieldInput place={at("location")} />
        <FieldInput place={at("ways")} />
        <FieldInput place={at("main_switch_a")} />
        <FieldInput place={at("conditional_ka")} label="Conditional rating" />
      </div>
      <div className={css.surge}>
        <FieldInput place={at("spd_state")} />
        {board.values.spd_state != null && board.values.spd_state !== "none" && (
          <>
            <FieldInput place={at("spd_uc_v")} />
            <FieldInput place={at("spd_u_dc_v")} hint="Not required; module out of the board." />
          </>
        )}
      </div>
      <Circuits board={board} />
    </>
  );
}

/** The next free way: one more than the highest number in use. */
function nextWay(circuits: Entity[]): number {
  return Math.max(0, ...circuits.map((c) => Number.parseInt(String(c.values.way ?? ""), 10) || 0)) + 1;
}

function Circuits({ board }: { board: Entity }) {
  const model = useInspection((s) => s.model);
  const circuits = model ? children(model, "circuit", board.id) : [];
  const last = circuits.filter((c) => !c.values.spare).at(-1);
  const [added, setAdded] = useState<string | null>(null);
  function put(preset: Preset) {
    const way = nextWay(circuits);
    // RCD protection is usually the same all over a board: carried on from the circuit before, to be looked at.
    const carried: Record<string, Value> = preset.fields.spare
      ? {}
      : Object.fromEntries(
          ["rcd_rated_ma", "rcd_standard", "rcd_delay"].flatMap((f) => (last?.values[f] != null ? [[f, last.values[f] as Value]] : [])),
        );
    setAdded(add("circuit", board.id, { position: way, way: String(way), ...preset.fields, ...carried }));
  }
  return (
    <div className={css.wrap}>
      <table className={css.table}>
        <thead>
          <tr>
            <th>Way</th>
            <th>Circuit</th>
            <th>Form</th>
            <th>Points</th>
            <th>
              Cable
              <br />
              mm²
            </th>
            <th>Device</th>
            <th>Rating A</th>
            <th>RCD mA</th>
            <th>
              <span className={css.spoken}>Take out</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {circuits.map((circuit) => (
            <CircuitRow key={circuit.id} circuit={circuit} fresh={circuit.id === added} />
          ))}
        </tbody>
      </table>
      {circuits.length === 0 && <p className={css.none}>No circuits yet. Add them from the first way on; usual ones come with their cable and breaker.</p>}
      <div className={css.presets} role="group" aria-label="Add a circuit">
        {PRESETS.map((preset) => (
          <button key={preset.name} type="button" onClick={() => put(preset)}>
            + {preset.name}
          </button>
        ))}
      </div>
    </div>
  );
}

const CABLES = ["1/1", "1.5/1", "1.5/1.5", "2.5/1", "2.5/1.5", "4/1.5", "6/2.5", "10/4", "16/6"];

function CircuitRow({ circuit, fresh }: { circuit: Entity; fresh: boolean }) {
  const reference = useReference();
  const model = useInspection((s) => s.model);
  const v = circuit.values;
  const keep = (field: string, value: Value) => setField({ kind: "circuit", id: circuit.id, field }, value);
  const refused = ["way", "designation", "points", "device_rating_a", "rcd_rated_ma"]
    .map((field) => (model ? refusal(model, circuit.id, field) : undefined))
    .filter(Boolean);
  const devices = [...new Set((reference?.devices ?? []).map((d) => `${d.standard} ${d.type}`))];
  const cable = v.line_csa_mm2 != null && v.cpc_csa_mm2 != null ? `${v.line_csa_mm2}/${v.cpc_csa_mm2}` : "";
  const device = v.device_standard && v.device_type ? `${v.device_standard} ${v.device_type}` : "";
  const name = nameOf(circuit);
  const [opened, setOpened] = useState(false);
  return (
    <>
      <tr data-spare={v.spare ? true : undefined}>
        <td>
          <Cell value={v.way} keep={(t) => keep("way", t)} label={`Way of ${name}`} width="2.4rem" />
        </td>
        <td>
          <Cell value={v.designation} keep={(t) => keep("designation", t)} label={`Name of circuit ${v.way ?? ""}`} focus={fresh} />
        </td>
        {v.spare ? (
          <td colSpan={6} className={css.spare}>
            spare way
          </td>
        ) : (
          <>
            <td data-label="Form">
              <select aria-label={`Form of ${name}`} value={String(v.form ?? "")} onChange={(e) => keep("form", e.target.value || null)}>
                <option value="" />
                <option>ring</option>
                <option>radial</option>
              </select>
            </td>
            <td data-label="Points">
              <Cell value={v.points} keep={(t) => keep("points", t)} label={`Points of ${name}`} width="2.6rem" numeric />
            </td>
            <td data-label="Cable mm²">
              <select
                aria-label={`Cable of ${name}`}
                value={cable}
                onChange={(e) => {
                  const [line, cpc] = e.target.value.split("/").map(Number);
                  keep("line_csa_mm2", line || null);
                  keep("cpc_csa_mm2", cpc || null);
                }}
              >
                <option value="" />
                {(CABLES.includes(cable) || !cable ? CABLES : [...CABLES, cable]).map((c) => (
                  <option key={c}>{c}</option>
                ))}
              </select>
            </td>
            <td data-label="Device">
              <select
                aria-label={`Device of ${name}`}
                value={device}
                onChange={(e) => {
                  const at = e.target.value.lastIndexOf(" ");
                  keep("device_standard", e.target.value.slice(0, at) || null);
                  keep("device_type", e.target.value.slice(at + 1) || null);
                }}
              >
                <option value="" />
                {devices.map((d) => (
                  <option key={d}>{d}</option>
                ))}
              </select>
            </td>
            <td data-label="Rating A">
              <Cell value={v.device_rating_a} keep={(t) => keep("device_rating_a", t)} label={`Rating of ${name}`} width="3rem" numeric />
            </td>
            <td data-label="RCD mA">
              <Cell value={v.rcd_rated_ma} keep={(t) => keep("rcd_rated_ma", t)} label={`RCD of ${name}`} width="3rem" numeric />
            </td>
          </>
        )}
        <td className={css.hands}>
          {!v.spare && (
            <button type="button" className={css.more} aria-expanded={opened} aria-label={`More about ${name}`} onClick={() => setOpened(!opened)}>
              {opened ? "less" : "more"}
            </button>
          )}
          <button type="button" className={css.out} aria-label={`Take ${name} out`} onClick={() => keep("removed", true)}>
            ×
          </button>
        </td>
      </tr>
      {opened && (
        <tr className={css.details}>
          <td colSpan={9}>
            <CircuitDetails circuit={circuit} />
          </td>
        </tr>
      )}
      {refused.length > 0 && (
        <tr>
          <td colSpan={9} role="alert" className={css.refused}>
            {refused.join(" ")}
          </td>
        </tr>
      )}
    </>
  );
}

interface CellProps {
  value: Value | undefined;
  keep: (text: string | null) => void;
  label: string;
  width?: string;
  numeric?: boolean;
  focus?: boolean;
}

function Cell({ value, keep, label, width, numeric, focus }: CellProps) {
  const [draft, setDraft] = useState<string | null>(null);
  const leave = () => {
    if (draft !== null) keep(draft.trim() || null);
    setDraft(null);
  };
  return (
    <input
      ref={(element) => {
        if (focus && element && !element.dataset.met) {
          element.dataset.met = "yes";
          element.focus();
          element.select();
        }
      }}
      aria-label={label}
      inputMode={numeric ? "decimal" : "text"}
      autoComplete="off"
      style={{ width: width ?? "100%", textAlign: numeric ? "right" : "left", fontFamily: numeric ? "var(--d-fonts-mono)" : undefined }}
      value={draft ?? String(value ?? "")}
      onChange={(e) => setDraft(e.target.value)}
      onBlur={leave}
      onKeyDown={(e) => e.key === "Enter" && leave()}
    />
  );
}
