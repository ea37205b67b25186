/** What else decides over a circuit: how its cable runs, what it feeds, what protects it. Opened where it is wanted. */
import { useState } from "react";
import { children } from "../inspection/model";
import { add, setField, useInspection } from "../inspection/sync";
import type { Entity } from "../inspection/types";
import { nameOf } from "../inspection/words";
import { HistoryList } from "../shell/History";
import { FieldInput } from "../ui/FieldInput";
import form from "../ui/Form.module.css";

const METHODS: Record<string, string> = {
  "100": "100: above a ceiling, up to 100 mm of insulation",
  "101": "101: above a ceiling, more insulation",
  "102": "102: in a stud wall with insulation, touching the wall face",
  "103": "103: in a stud wall with insulation, not touching",
  C: "C: clipped direct",
  A: "A: in conduit in an insulated wall",
  B: "B: in conduit or trunking on a wall",
  D: "D: in the ground",
  "not known": "not known: judged by the mildest and the worst",
};

export function CircuitDetails({ circuit, moveBy }: { circuit: Entity; moveBy: (step: number) => void }) {
  const at = (field: string) => ({ kind: "circuit" as const, id: circuit.id, field });
  const v = circuit.values;
  const [history, setHistory] = useState(false);
  return (
    <div className={form.group} style={{ margin: "10px 4px 14px" }}>
      <Where circuit={circuit} moveBy={moveBy} />
      <div className={form.wide}>
        <FieldInput place={at("cable_method")} words={METHODS} />
        {v.cable_method === "not known" && <MethodLimitation circuit={circuit} />}
      </div>
      <div className={form.wide}>
        <FieldInput place={at("cable_type")} />
      </div>
      <FieldInput place={at("imperial")} hint="Strands and diameter, where the cable is of an imperial size." />
      <FieldInput place={at("rating_factor")} hint="Where cables lie together or in the warm." />
      <FieldInput place={at("cable_length_m")} />
      <FieldInput place={at("design_current_a")} />
      <FieldInput place={at("device_breaking_ka")} hint="As marked on the device; the table's usual value where it is empty." />
      <FieldInput place={at("untraced")} hint="Trace it by what goes dead; otherwise a limitation." />
      <FieldInput place={at("cable_hidden")} />
      <FieldInput place={at("outdoors")} />
      <FieldInput place={at("bathroom")} />
      {v.bathroom === true && <FieldInput place={at("supplementary_bonding")} hint="Pipes, bath and rail joined to the cpcs there." />}
      <FieldInput place={at("no_cpc")} hint="Wired without one, as lighting before 1966 often is." />
      <FieldInput place={at("outlet_with_socket")} hint="A cooker outlet with a socket counts as a socket." />
      <FieldInput place={at("one_fused_load")} />
      {v.one_fused_load === true && <FieldInput place={at("load_fuse_a")} />}
      <div className={form.wide}>
        <FieldInput place={at("load")} hint="What its RCD has to see." />
      </div>
      <FieldInput place={at("rcd_group")} hint="Circuits with the same letter share one RCD." />
      {v.rcd_rated_ma != null && (
        <>
          <FieldInput place={at("rcd_kind")} />
          <FieldInput place={at("rcd_standard")} />
          <FieldInput place={at("rcd_delay")} />
          <FieldInput place={at("fault_protection")} />
          <FieldInput place={at("leakage_ma")} label="Standing leakage behind this RCD" />
          {(v.load === "vehicle" || v.load === "inverter") && <FieldInput place={at("dc_detection")} />}
        </>
      )}
      <FieldInput place={at("joined_by")} hint="Its line, neutral or ends were found joined with those of another circuit." />
      {v.joined_by != null && <FieldInput place={at("joined_with")} />}
      <div className={form.wide}>
        <button type="button" className={form.quiet} aria-expanded={history} onClick={() => setHistory(!history)}>
          History of this circuit
        </button>
        {history && <HistoryList inline place={{ kind: "circuit", id: circuit.id }} close={() => setHistory(false)} />}
      </div>
    </div>
  );
}

/** What could not be seen is a limitation of the report: one tap records it. */
function MethodLimitation({ circuit }: { circuit: Entity }) {
  const model = useInspection((s) => s.model);
  if (!model) return null;
  const what = `How the cable of ${nameOf(circuit)} is installed`;
  const there = children(model, "limitation", model.id).some((one) => one.values.what === what);
  if (there) return <p className={form.lead}>Recorded as a limitation.</p>;
  return (
    <button type="button" className={form.button} style={{ marginTop: 8 }} onClick={() => add("limitation", model.id, { what, reason: "Its run cannot be seen" })}>
      Record it as a limitation
    </button>
  );
}

/** On which board, phase and way it stands. */
function Where({ circuit, moveBy }: { circuit: Entity; moveBy: (step: number) => void }) {
  const model = useInspection((s) => s.model);
  if (!model) return null;
  const boards = children(model, "board", model.id);
  const here = model.entities[circuit.parentId];
  const three = (here?.values.phases ?? model.entities[model.id]?.values.phases) === "3";
  return (
    <>
      <div role="group" aria-label="Move">
        <p style={{ fontSize: 14, fontWeight: 600, marginBottom: 4 }}>Way {String(circuit.values.way ?? "?")}</p>
        <button type="button" className={form.button} onClick={() => moveBy(-1)}>
          one way back
        </button>{" "}
        <button type="button" className={form.button} onClick={() => moveBy(1)}>
          one way on
        </button>
      </div>
      {boards.length > 1 && (
        <label>
          <span style={{ display: "block", fontSize: 14, fontWeight: 600, marginBottom: 4 }}>On board</span>
          <select value={circuit.parentId} onChange={(e) => setField({ kind: "circuit", id: circuit.id, field: "board" }, e.target.value)}>
            {boards.map((board) => (
              <option key={board.id} value={board.id}>
                {nameOf(board)}
              </option>
            ))}
          </select>
        </label>
      )}
      {three && <FieldInput place={{ kind: "circuit", id: circuit.id, field: "phase" }} />}
    </>
  );
}
