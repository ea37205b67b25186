/** The brief: who asked and why, where, how far, and what was agreed to be left out. */
import type { Me } from "../api/client";
import { useReference } from "../api/reference";
import { children } from "../inspection/model";
import { add, setField, useInspection, useMay } from "../inspection/sync";
import { EarlierPapers } from "../papers/EarlierPapers";
import { FieldInput } from "../ui/FieldInput";
import form from "../ui/Form.module.css";
import { type Chosen, HouseRules } from "../ui/HouseRules";
import { StageHead } from "../ui/StageHead";
import { Instruments } from "./Instruments";
import { Hold, OnSite } from "./OnSite";

export default function Brief({ me }: { me: Me }) {
  const id = useInspection((s) => s.model?.id) ?? "";
  const at = (field: string) => ({ kind: "inspection" as const, id, field });
  return (
    <>
      <StageHead title="Brief" line="each field is kept as you leave it" />
      <div className={form.form}>
        <h2>The job</h2>
        <div className={form.group}>
          <FieldInput place={at("reference")} />
          <FieldInput place={at("inspected_on")} />
          <div className={form.wide}>
            <FieldInput place={at("property_address")} label="Property" hint="Street first: it names the inspection on every screen." />
          </div>
          <FieldInput place={at("client_name")} />
          <FieldInput place={at("client_address")} />
          <FieldInput place={at("occupier_name")} />
          <FieldInput place={at("installation_name")} hint="House, or an outbuilding with its own earthing." />
          <div className={form.wide}>
            <FieldInput place={at("tenure")} />
          </div>
          <div className={form.wide}>
            <FieldInput place={at("purpose")} />
          </div>
          <div className={form.wide}>
            <FieldInput place={at("nation")} />
          </div>
        </div>
        <OnSite inspection={id} me={me} />
        <Hold inspection={id} me={me} />
        <h2>Take over from earlier papers</h2>
        <EarlierPapers />
        <h2>What was agreed</h2>
        <div className={form.group}>
          <div className={form.wide}>
            <FieldInput place={at("extent")} rows={3} hint="What is in, how many points are opened, which boards and buildings." />
          </div>
          <FieldInput place={at("power_off")} hint="From when to when, as agreed with the occupier." />
          <FieldInput place={at("must_stay_on")} hint="Medical equipment, freezer, fish." />
          <div className={form.wide}>
            <FieldInput place={at("access")} />
          </div>
        </div>
        <h2>How much will be opened</h2>
        <div className={form.group}>
          <FieldInput place={at("records")} hint="Earlier reports and certificates, and how far they can be relied on." />
          <FieldInput place={at("condition_on_sight")} />
        </div>
        <Limitations inspection={id} />
        <Instruments inspection={id} />
        <h2>Rules for this inspection</h2>
        <Rules inspection={id} />
      </div>
    </>
  );
}

function Limitations({ inspection }: { inspection: string }) {
  const model = useInspection((s) => s.model);
  const found = model ? children(model, "limitation", inspection) : [];
  return (
    <>
      <h2>Agreed limitations</h2>
      <ul className={form.rows}>
        {found.map((limitation) => {
          const at = (field: string) => ({ kind: "limitation" as const, id: limitation.id, field });
          return (
            <li key={limitation.id}>
              <div className={form.group} style={{ marginBottom: 4 }}>
                <FieldInput place={at("what")} label="Left out" />
                <FieldInput place={at("reason")} />
                <FieldInput place={at("agreed_with")} />
                <FieldInput place={at("agreed_on")} />
              </div>
              <button type="button" className={form.quiet} onClick={() => setField(at("removed"), true)}>
                Take this limitation out
              </button>
            </li>
          );
        })}
      </ul>
      <button type="button" className={form.button} style={{ marginBottom: 26 }} onClick={() => add("limitation", inspection, {})}>
        Add a limitation
      </button>
    </>
  );
}

function Rules({ inspection }: { inspection: string }) {
  const books = useReference()?.rule_books ?? [];
  const chosen = (useInspection((s) => s.model?.entities[inspection]?.values.house_rules) ?? {}) as Chosen;
  const differing = Object.keys(chosen).length;
  const settles = useMay("settle rules of an inspection");
  const at = (field: string) => ({ kind: "inspection" as const, id: inspection, field });
  return (
    <>
      <div className={form.group}>
        <FieldInput place={at("rule_book")} hint="Where nothing is chosen, the first." words={Object.fromEntries(books.map((book) => [book.key, `${book.nation}: ${book.name}`]))} />
        {chosen.lead_method === "subtracted" && (
          <FieldInput place={at("leads_ohm")} hint="Taken off every continuity reading of this inspection." />
        )}
      </div>
      <details className={form.details}>
        <summary>
          House rules: {differing === 0 ? "all as usual" : `${differing} ${differing === 1 ? "differs" : "differ"} from the usual`}
        </summary>
        {!settles && <p className={form.lead}>They come from the firm; a supervisor changes them.</p>}
        <HouseRules chosen={chosen} disabled={!settles} choose={(next) => setField(at("house_rules"), Object.keys(next).length ? next : null)} />
      </details>
    </>
  );
}
