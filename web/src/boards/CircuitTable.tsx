/** The circuits of a board way by way, with the builder under them. Alt and an arrow key move a circuit to the next way. */
import { useState } from "react";
import { useReference } from "../api/reference";
import { children, refusal } from "../inspection/model";
import { add, setField, useInspection } from "../inspection/sync";
import type { Entity, Value } from "../inspection/types";
import { nameOf } from "../inspection/words";
import css from "./Boards.module.css";
import { CircuitDetails } from "./CircuitDetails";
import { PRESETS, type Preset } from "./presets";
import { carriedOn } from "./quick";
import { QuickAdd } from "./QuickAdd";
import { movedTo, nextWay } from "./ways";

export function Circuits({ board, chosen }: { board: Entity; chosen: string | null }) {
  const model = useInspection((s) => s.model);
  const circuits = model ? children(model, "circuit", board.id) : [];
  const [added, setAdded] = useState<string | null>(null);
  const put = (fields: Record<string, Value>): string => {
    const way = nextWay(circuits);
    const before = circuits.filter((c) => !c.values.spare).at(-1)?.values;
    return add("circuit", board.id, { position: way, way: String(way), ...fields, ...carriedOn(before, fields) });
  };
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
            <CircuitRow key={circuit.id} circuit={circuit} circuits={circuits} fresh={circuit.id === added} chosen={circuit.id === chosen} />
          ))}
        </tbody>
      </table>
      {circuits.length > 0 && (
        <p className={css.export}>
          <a href={`/api/inspections/${model?.id}/circuits.csv`} download>
            All circuits as CSV
          </a>
        </p>
      )}
      {circuits.length === 0 && <p className={css.none}>No circuits yet. Type them from the first way on; usual ones come with their cable and breaker.</p>}
      <QuickAdd way={nextWay(circuits)} put={put} />
      <div className={css.presets} role="group" aria-label="Add a circuit">
        {PRESETS.map((preset: Preset) => (
          <button key={preset.name} type="button" onClick={() => setAdded(put(preset.fields))}>
            + {preset.name}
          </button>
        ))}
      </div>
    </div>
  );
}

const CABLES = ["1/1", "1.5/1", "1.5/1.5", "2.5/1", "2.5/1.5", "4/1.5", "6/2.5", "10/4", "16/6"];

function CircuitRow({ circuit, circuits, fresh, chosen }: { circuit: Entity; circuits: Entity[]; fresh: boolean; chosen: boolean }) {
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
  const rcd = v.rcd_id ? model?.entities[String(v.rcd_id)] : undefined;
  const behind = rcd && !rcd.values.removed && rcd.parentId === circuit.parentId ? rcd : null;
  const [opened, setOpened] = useState(false);
  const moveBy = (step: number) => {
    const way = (Number.parseInt(String(v.way ?? ""), 10) || 0) + step;
    if (way < 1) return;
    for (const { place, value } of movedTo(circuits, circuit, way)) setField(place, value);
  };
  const keys = (event: React.KeyboardEvent) => {
    if (!event.altKey || (event.key !== "ArrowUp" && event.key !== "ArrowDown")) return;
    event.preventDefault();
    moveBy(event.key === "ArrowUp" ? -1 : 1);
  };
  return (
    <>
      <tr
        ref={(element) => {
          if (chosen) element?.scrollIntoView({ block: "nearest" });
        }}
        data-spare={v.spare ? true : undefined}
        data-unconfirmed={v.unconfirmed ? true : undefined}
        data-chosen={chosen || undefined}
        onKeyDown={keys}
      >
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
              {behind ? (
                <span className={css.behind} title={nameOf(behind)}>
                  {nameOf(behind)}
                </span>
              ) : (
                <Cell value={v.rcd_rated_ma} keep={(t) => keep("rcd_rated_ma", t)} label={`RCD of ${name}`} width="3rem" numeric />
              )}
            </td>
          </>
        )}
        <td className={css.hands}>
          {!!v.unconfirmed && (
            <button type="button" className={css.confirm} aria-label={`Confirm ${name}`} onClick={() => keep("unconfirmed", null)}>
              confirm
            </button>
          )}
          {!v.spare && (
            <button type="button" className={css.more} aria-expanded={opened} aria-label={`${opened ? "less" : "more"} about ${name}`} onClick={() => setOpened(!opened)}>
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
            <CircuitDetails circuit={circuit} moveBy={moveBy} />
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
