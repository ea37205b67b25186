/** On site: who came when and left when, and putting the job on hold until a return visit. */
import type { Me } from "../api/client";
import { children } from "../inspection/model";
import { add, setField, useInspection } from "../inspection/sync";
import type { Entity } from "../inspection/types";
import { FieldInput } from "../ui/FieldInput";
import form from "../ui/Form.module.css";
import css from "./OnSite.module.css";

const shown = (iso: unknown) =>
  iso ? new Date(String(iso)).toLocaleString("en-GB", { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" }) : "";

const now = () => new Date().toISOString();

export function OnSite({ inspection, me }: { inspection: string; me: Me }) {
  const model = useInspection((s) => s.model);
  if (!model) return null;
  const visits = children(model, "attendance", inspection);
  const here = visits.find((one) => one.values.who === me.name && !one.values.left_at);
  const others = visits.some((one) => one.values.who !== me.name && !one.values.left_at);
  const arrive = () =>
    add("attendance", inspection, { who: me.name, purpose: others ? "second inspector" : visits.length ? "return visit" : "inspection", arrived_at: now() });
  return (
    <>
      <h2>On site</h2>
      <ul className={form.rows}>
        {visits.map((one) => (
          <Visit key={one.id} visit={one} />
        ))}
      </ul>
      <div className={form.offers}>
        {here ? (
          <button type="button" className={`${form.button} ${form.primary}`} onClick={() => setField({ kind: "attendance", id: here.id, field: "left_at" }, now())}>
            I leave now
          </button>
        ) : (
          <button type="button" className={`${form.button} ${form.primary}`} onClick={arrive}>
            I arrive now
          </button>
        )}
        <button type="button" className={form.button} onClick={() => add("attendance", inspection, { arrived_at: now() })}>
          Somebody else arrives
        </button>
      </div>
    </>
  );
}

function Visit({ visit }: { visit: Entity }) {
  const at = (field: string) => ({ kind: "attendance" as const, id: visit.id, field });
  const v = visit.values;
  return (
    <li>
      <div className={css.times}>
        <b>{String(v.who ?? "Who?")}</b>
        <span className={css.time}>{shown(v.arrived_at) || "–"}</span>
        <span>to</span>
        <span className={css.time}>{shown(v.left_at) || "still here"}</span>
        {!v.left_at && (
          <button type="button" className={form.quiet} onClick={() => setField(at("left_at"), now())}>
            leaves now
          </button>
        )}
        <button type="button" className={form.quiet} onClick={() => setField(at("removed"), true)}>
          Take out
        </button>
      </div>
      <details className={css.more}>
        <summary>{String(v.purpose ?? "What for?")}</summary>
        <div className={form.group} style={{ marginBottom: 4 }}>
          <FieldInput place={at("who")} />
          <FieldInput place={at("note")} />
          <div className={form.wide}>
            <FieldInput place={at("purpose")} />
          </div>
        </div>
      </details>
    </li>
  );
}

/** On hold: why, and when somebody comes back. Dead tests and notes stay open. */
export function Hold({ inspection, me }: { inspection: string; me: Me }) {
  const values = useInspection((s) => s.model?.entities[inspection]?.values);
  const at = (field: string) => ({ kind: "inspection" as const, id: inspection, field });
  if (!values?.held_at) {
    return (
      <button type="button" className={form.button} style={{ marginBottom: 26 }} onClick={() => setField(at("held_at"), now())}>
        Put on hold …
      </button>
    );
  }
  return (
    <section className={css.hold} aria-label="On hold">
      <b>On hold since {shown(values.held_at)}</b>
      <div className={form.group} style={{ margin: "8px 0" }}>
        <div className={form.wide}>
          <FieldInput place={at("held_reason")} label="Because" rows={2} />
        </div>
        <FieldInput place={at("return_on")} hint="A return visit is charged by the house rates." />
      </div>
      <GoOn inspection={inspection} me={me} />
    </section>
  );
}

export function GoOn({ inspection, me }: { inspection: string; me: Me }) {
  const back = () => {
    const at = (field: string) => ({ kind: "inspection" as const, id: inspection, field });
    add("attendance", inspection, { who: me.name, purpose: "return visit", arrived_at: now() });
    setField(at("held_at"), null);
    setField(at("return_on"), null);
  };
  return (
    <button type="button" className={`${form.button} ${form.primary}`} onClick={back}>
      Back on site: go on
    </button>
  );
}
