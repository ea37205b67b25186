/** The residual current devices of a board: what is marked on each, and which ways stand behind it. */
import { children } from "../inspection/model";
import { add, setField, useInspection } from "../inspection/sync";
import type { Entity } from "../inspection/types";
import { nameOf } from "../inspection/words";
import { FieldInput } from "../ui/FieldInput";
import form from "../ui/Form.module.css";
import css from "./Rcds.module.css";

export function Rcds({ board }: { board: Entity }) {
  const model = useInspection((s) => s.model);
  if (!model) return null;
  const devices = children(model, "rcd", board.id);
  const circuits = children(model, "circuit", board.id).filter((one) => !one.values.spare);
  const addDevice = (whole: boolean) =>
    add("rcd", board.id, { position: devices.length + 1, name: `RCD ${devices.length + 1}`, place: whole ? "whole board" : "its circuits", rated_ma: 30, delay: "none" });
  return (
    <section className={css.rcds} aria-label="Residual current devices">
      <h2>Residual current devices</h2>
      <p className={form.lead}>Each is tested once, for all circuits behind it. A circuit with an RCD of its own can keep its mA in its row.</p>
      <ul className={form.rows}>
        {devices.map((device) => (
          <Device key={device.id} device={device} circuits={circuits} />
        ))}
      </ul>
      <div className={form.offers}>
        <button type="button" className={form.button} onClick={() => addDevice(false)}>
          + RCD for some ways
        </button>
        <button type="button" className={form.button} onClick={() => addDevice(true)}>
          + RCD for the whole board
        </button>
      </div>
    </section>
  );
}

function Device({ device, circuits }: { device: Entity; circuits: Entity[] }) {
  const at = (field: string) => ({ kind: "rcd" as const, id: device.id, field });
  const whole = device.values.place === "whole board";
  const put = (circuit: Entity) =>
    setField({ kind: "circuit", id: circuit.id, field: "rcd_id" }, circuit.values.rcd_id === device.id ? null : device.id);
  return (
    <li>
      <div className={form.title}>
        <b>{nameOf(device)}</b>
        <button type="button" className={form.quiet} aria-label={`Take ${nameOf(device)} out`} onClick={() => setField(at("removed"), true)}>
          Take out
        </button>
      </div>
      <div className={form.group}>
        <FieldInput place={at("name")} label="Name" />
        <FieldInput place={at("rated_ma")} />
        <FieldInput place={at("rating_a")} />
        <FieldInput place={at("kind")} />
        <FieldInput place={at("standard")} />
        <FieldInput place={at("delay")} words={{ none: "none", S: "time-delayed (S)" }} />
        {device.values.delay === "S" && device.values.standard === "BS 4293" && <FieldInput place={at("delay_ms")} />}
        <div className={form.wide}>
          <FieldInput place={at("place")} />
        </div>
      </div>
      {whole ? (
        <p className={form.lead}>Everything on this board is behind it.</p>
      ) : (
        <div className={css.ways} role="group" aria-label={`Ways behind ${nameOf(device)}`}>
          {circuits.map((circuit) => (
            <button key={circuit.id} type="button" aria-pressed={circuit.values.rcd_id === device.id} data-other={circuit.values.rcd_id && circuit.values.rcd_id !== device.id ? true : undefined} onClick={() => put(circuit)}>
              <b>{String(circuit.values.way ?? "?")}</b> {String(circuit.values.designation ?? "Unnamed")}
            </button>
          ))}
        </div>
      )}
    </li>
  );
}
