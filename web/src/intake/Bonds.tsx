/** Main bonds: each service with what was found, its conductor, and its continuity at clamp and pipe. */
import { children } from "../inspection/model";
import { add, setField, useInspection } from "../inspection/sync";
import type { Entity } from "../inspection/types";
import { FieldInput } from "../ui/FieldInput";
import form from "../ui/Form.module.css";

/** What usually comes into a home as metal, the usual ones first. */
const SERVICES = ["water", "gas", "oil", "structural steel", "lightning protection", "other"];

export function Bonds({ inspection }: { inspection: string }) {
  const model = useInspection((s) => s.model);
  const bonds = model ? children(model, "bond", inspection) : [];
  const there = new Set(bonds.map((bond) => bond.values.service));
  return (
    <>
      <h2>Main bonds</h2>
      <p className={form.lead}>One end off, supply isolated, leads nulled; reconnect every bond afterwards.</p>
      <ul className={form.rows}>
        {bonds.map((bond) => (
          <Bond key={bond.id} bond={bond} />
        ))}
      </ul>
      <div className={form.offers} role="group" aria-label="Add a bond">
        {SERVICES.filter((service) => service === "other" || !there.has(service)).map((service) => (
          <button
            key={service}
            type="button"
            className={form.button}
            onClick={() => add("bond", inspection, { position: bonds.length + 1, service, state: "present" })}
          >
            + {service}
          </button>
        ))}
      </div>
    </>
  );
}

function Bond({ bond }: { bond: Entity }) {
  const at = (field: string) => ({ kind: "bond" as const, id: bond.id, field });
  const service = String(bond.values.service ?? "service");
  return (
    <li>
      <div className={form.title}>
        <b>{service.charAt(0).toUpperCase() + service.slice(1)}</b>
        <button type="button" className={form.quiet} aria-label={`Take the bond to ${service} out`} onClick={() => setField(at("removed"), true)}>
          Take out
        </button>
      </div>
      <div className={form.group} style={{ marginBottom: 4 }}>
        <div className={form.wide}>
          <FieldInput place={at("state")} label={`Bond to ${service}`} />
        </div>
        {bond.values.state !== "plastic service" && (
          <>
            <FieldInput place={at("place")} label="Where" />
            <FieldInput place={at("csa_mm2")} />
            <FieldInput place={at("length_m")} />
            <FieldInput place={at("at_clamp_ohm")} label={`At the clamp, ${service}`} />
            <FieldInput place={at("at_pipe_ohm")} label={`At the pipe, ${service}`} />
          </>
        )}
      </div>
    </li>
  );
}
