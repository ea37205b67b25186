/** Every observation, the most pressing first, and what the verdicts would raise that is not recorded yet. */
import { useReference } from "../api/reference";
import { observe } from "../inspection/desk";
import { children } from "../inspection/model";
import { useInspection } from "../inspection/sync";
import type { Entity, Kind } from "../inspection/types";
import form from "../ui/Form.module.css";
import { Photos } from "../photos/Photos";
import { CodeMark } from "../ui/Mark";
import { StageHead } from "../ui/StageHead";
import css from "./Observations.module.css";

export default function Observations() {
  const model = useInspection((s) => s.model);
  const order = useReference()?.code_order ?? [];
  if (!model) return null;
  // The most pressing first; what has no code yet comes last.
  const weight = (code: unknown) => (order.includes(String(code ?? "")) ? order.indexOf(String(code)) : order.length);
  const found = children(model, "observation", model.id).sort(
    (a, b) => weight(a.values.code) - weight(b.values.code),
  );
  const outcome = model.judgement?.outcome_says;
  const because = model.judgement?.outcome_because.length ?? 0;
  const offers = (model.judgement?.suggested ?? [])
    .filter((s) => !s.recorded)
    .sort((a, b) => weight(a.code) - weight(b.code));
  return (
    <>
      <StageHead title="Observations" line={found.length === 0 ? "none yet" : `${found.length} recorded`}>
        <button type="button" className={form.button} onClick={() => observe({ kind: "inspection", id: model.id })}>
          Add one <kbd>O</kbd>
        </button>
      </StageHead>
      <div className={form.form}>
        {outcome && (
          <p className={css.outcome}>
            By the open codes: <b>{outcome}</b>
            {because > 0 && `, because of ${because} ${because === 1 ? "observation" : "observations"}`}
          </p>
        )}
        {found.length === 0 && <p className={css.none}>Press O wherever you are when you see something: where and what are taken from the figure in focus.</p>}
        <ul className={form.rows}>
          {found.map((one) => (
            <Row key={one.id} one={one} />
          ))}
        </ul>
        {offers.length > 0 && (
          <>
            <h2>The figures speak of these, nothing is recorded yet</h2>
            <ul className={form.rows}>
              {offers.map((one) => (
                <li key={one.entity_id + one.key} className={css.row}>
                  <CodeMark code={one.code} large />
                  <div>
                    <b>{one.title}</b>
                    {one.because.map((said) => (
                      <p key={said}>{said}</p>
                    ))}
                    <p className={css.why}>
                      {one.moved ? `${one.moved} Usually: ${one.why}` : `House view ${one.code}: ${one.why}`}
                    </p>
                    {one.questions.map((question) => (
                      <p key={question.fact} className={css.ask}>
                        {question.ask}{" "}
                        <button
                          type="button"
                          onClick={() => observe({ kind: one.entity as Kind, id: one.entity_id, raise: one.key, code: question.code, reason: `${question.code}, since ${question.says}` })}
                        >
                          Yes: {question.code}
                        </button>
                      </p>
                    ))}
                  </div>
                  <button
                    type="button"
                    className={form.button}
                    aria-label={`Record: ${one.title}`}
                    onClick={() => observe({ kind: one.entity as Kind, id: one.entity_id, raise: one.key, code: one.code, reason: one.moved || undefined })}
                  >
                    Record
                  </button>
                </li>
              ))}
            </ul>
          </>
        )}
      </div>
    </>
  );
}

function Row({ one }: { one: Entity }) {
  const v = one.values;
  return (
    <li className={css.row}>
      <CodeMark code={String(v.code ?? "?")} large />
      <div>
        <b>{String(v.text ?? "No words yet")}</b>
        {v.place ? ` · ${v.place}` : ""}
        {v.code_reason ? <p>{String(v.code_reason)}</p> : null}
        {v.mended ? <p>Made good on the day. {v.as_left && v.retest ? `${String(v.as_left)} Retest: ${String(v.retest)}` : "It counts until as left and the retest are given."}</p> : null}
        {!v.code && <p>Its code is still to be chosen.</p>}
        <Photos inline kind="observation" id={one.id} shows="defect" label="Photo" />
      </div>
      <button
        type="button"
        className={form.button}
        onClick={() =>
          observe({ kind: (v.about_entity as "circuit") ?? "inspection", id: String(v.about_id ?? one.parentId), existing: one.id })
        }
      >
        Change
      </button>
    </li>
  );
}
