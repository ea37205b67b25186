/** The report: the inspector's decision, the draft to look at, issuing, and every issue with its fingerprint. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useState } from "react";
import { Link } from "react-router";
import { api, answer, Refused } from "../api/client";
import { setField, useInspection, useMay } from "../inspection/sync";
import { FieldInput } from "../ui/FieldInput";
import form from "../ui/Form.module.css";
import { Mark } from "../ui/Mark";
import { StageHead } from "../ui/StageHead";
import css from "./Report.module.css";

export default function Report() {
  const id = useInspection((s) => s.model?.id) ?? "";
  const seq = useInspection((s) => s.model?.seq) ?? 0;
  const judgement = useInspection((s) => s.model?.judgement);
  const declared = useInspection((s) => s.model?.entities[id]?.values.declared_outcome);
  const at = (field: string) => ({ kind: "inspection" as const, id, field });
  const differs = !!declared && declared !== judgement?.outcome;
  const waiting = useInspection((s) => s.model?.pending.filter((p) => !p.refused).length ?? 0);
  const preview = useQuery({
    queryKey: ["preview", id, seq],
    queryFn: () => answer(api.GET("/api/inspections/{inspection_id}/preview", { params: { path: { inspection_id: id } } })),
    enabled: seq > 0 && waiting === 0,
    placeholderData: (before) => before,
  });
  return (
    <>
      <StageHead title="Report" line="you decide and sign; the verdicts are an opinion" />
      <div className={form.form}>
        <div className={css.decide}>
          <p>
            By the open codes
            <b>{judgement?.outcome_says ?? "–"}</b>
          </p>
          <div>
            <FieldInput place={at("declared_outcome")} label="I declare the installation" />
          </div>
        </div>
        {differs && <FieldInput place={at("outcome_reason")} rows={2} label="My reason for another outcome than the codes lead to" />}
        <div className={form.group} style={{ marginTop: 14 }}>
          <FieldInput place={at("next_years")} />
          <div className={css.reasoned}>
            <FieldInput place={at("next_reason")} />
          </div>
          <div className={form.wide}>
            <FieldInput place={at("condition")} rows={2} />
          </div>
        </div>
        <Interval />
        <Duties />
        <Issue seq={preview.data?.seq ?? 0} points={preview.data?.points ?? []} waiting={waiting > 0} />
        <h2>Draft</h2>
        {preview.isError && <p role="alert">The draft cannot be drawn just now. Nothing is lost.</p>}
        {preview.isPending && <p>Setting the draft …</p>}
        <Pages pages={preview.data?.pages ?? []} />
      </div>
    </>
  );
}

/** What the inspection itself leads to, to be taken or left. */
function Interval() {
  const id = useInspection((s) => s.model?.id) ?? "";
  const proposal = useInspection((s) => s.model?.judgement?.interval);
  const years = useInspection((s) => s.model?.entities[id]?.values.next_years);
  const decides = useMay("decide");
  if (!proposal) return null;
  const at = (field: string) => ({ kind: "inspection" as const, id, field });
  const said = `${proposal.years} ${proposal.years === 1 ? "year" : "years"}`;
  return (
    <div className={css.proposal}>
      <p>
        <b>{said}</b> {proposal.reason}
      </p>
      {decides && years !== proposal.years && (
        <button
          type="button"
          className={form.button}
          onClick={() => {
            setField(at("next_years"), proposal.years);
            setField(at("next_reason"), proposal.reason.slice(0, 500));
          }}
        >
          Take {said}
        </button>
      )}
    </div>
  );
}

function Duties() {
  const duties = useInspection((s) => s.model?.judgement?.duties) ?? [];
  if (!duties.length) return null;
  const until = (due: string) => new Date(`${due}T12:00:00Z`).toLocaleDateString("en-GB", { day: "numeric", month: "short", year: "numeric" });
  return (
    <details className={form.details}>
      <summary>
        {duties.length} {duties.length === 1 ? "duty" : "duties"} of the landlord, as the law is understood
      </summary>
      <ul className={css.duties}>
        {duties.map((one) => (
          <li key={one.duty + one.counted_from}>
            {one.duty}
            {one.due ? <b> by {until(one.due)}</b> : one.counted_from ? ` (${one.days ? `${one.days} days from ` : ""}${one.counted_from})` : ""}
          </li>
        ))}
      </ul>
      <p className={form.lead}>Check the law that applies where the property stands.</p>
    </details>
  );
}

function Pages({ pages }: { pages: string[] }) {
  const urls = useMemo(() => pages.map((svg) => URL.createObjectURL(new Blob([svg], { type: "image/svg+xml" }))), [pages]);
  useEffect(() => () => urls.forEach((url) => URL.revokeObjectURL(url)), [urls]);
  return (
    <div className={css.pages}>
      {urls.map((url, i) => (
        <img key={url} src={url} alt={`Page ${i + 1} of the draft`} />
      ))}
    </div>
  );
}

interface Point {
  level: "must" | "look";
  stage: string;
  text: string;
}

function Issue({ seq, points, waiting }: { seq: number; points: Point[]; waiting: boolean }) {
  const queries = useQueryClient();
  const id = useInspection((s) => s.model?.id) ?? "";
  const [reason, setReason] = useState("");
  const [asked, setAsked] = useState(false);
  const signs = useMay("issue");
  const issues = useQuery({
    queryKey: ["issues", id],
    queryFn: () => answer(api.GET("/api/inspections/{inspection_id}/reports", { params: { path: { inspection_id: id } } })),
  });
  const issue = useMutation({
    mutationFn: () =>
      answer(
        api.POST("/api/inspections/{inspection_id}/reports", {
          params: { path: { inspection_id: id } },
          body: { seen_seq: seq, reason: reason || null },
        }),
      ),
    onSuccess: () => {
      setAsked(false);
      setReason("");
      void queries.invalidateQueries({ queryKey: ["issues", id] });
    },
  });
  const must = points.filter((p) => p.level === "must");
  const look = points.filter((p) => p.level === "look");
  const known = issues.data ?? [];
  const next = known.length + 1;
  const unchanged = known.length > 0 && known.at(-1)?.seq === seq;
  return (
    <>
      <h2>Before issuing</h2>
      <ul className={css.points}>
        {must.map((p) => (
          <li key={p.text}>
            <Mark status="fail" size={14} /> <Link to={`/inspection/${id}/${p.stage}`}>{p.text}</Link>
          </li>
        ))}
        {look.map((p) => (
          <li key={p.text}>
            <Mark status="attention" size={14} /> <Link to={`/inspection/${id}/${p.stage}`}>{p.text}</Link>
          </li>
        ))}
        {points.length === 0 && <li>Nothing stands in the way.</li>}
      </ul>
      {known.length > 0 && !unchanged && (
        <label className={css.reason}>
          What issue {next} corrects
          <input value={reason} maxLength={500} onChange={(e) => setReason(e.target.value)} />
        </label>
      )}
      <div className={css.actions}>
        {!signs ? (
          <p>An inspector or a supervisor signs and issues, while the inspection is not on hold.</p>
        ) : unchanged ? (
          <p>Issue {known.length} says what stands here. A correction is issued after something has changed.</p>
        ) : asked ? (
          <>
            <p>
              <b>Issue {next} cannot be changed afterwards.</b> You sign it as the competent person.
            </p>
            <button type="button" className={`${form.button} ${form.primary}`} onClick={() => issue.mutate()} disabled={issue.isPending}>
              Sign and issue
            </button>
            <button type="button" className={form.button} onClick={() => setAsked(false)}>
              Not yet
            </button>
          </>
        ) : (
          <button
            type="button"
            className={`${form.button} ${form.primary}`}
            disabled={must.length > 0 || waiting || !seq || (known.length > 0 && !reason.trim())}
            onClick={() => setAsked(true)}
          >
            {known.length ? `Issue correction ${next}` : "Issue the report"}
          </button>
        )}
        {issue.isError && (
          <p role="alert">
            <b>{issue.error instanceof Refused ? issue.error.message : "The server cannot be reached; nothing was issued."}</b>
          </p>
        )}
      </div>
      {known.length > 0 && (
        <>
          <h2>Issued</h2>
          <ul className={form.rows}>
            {known.map((one) => (
              <li key={one.id} className={css.issued}>
                <div>
                  <b>Issue {one.number}</b>, {one.outcome}, {new Date(one.issued_at).toLocaleString("en-GB", { dateStyle: "medium", timeStyle: "short" })}, signed by {one.issued_by}
                  {one.replaces && (
                    <p>
                      Replaces issue {one.replaces}: {one.reason}
                    </p>
                  )}
                  <code>SHA-256 {one.sha256}</code>
                </div>
                <a className={form.button} href={`/api/reports/${one.id}.pdf`} download>
                  Download
                </a>
              </li>
            ))}
          </ul>
        </>
      )}
    </>
  );
}
