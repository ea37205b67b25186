/** Inspections in hand and issued ones, as lines: what names each, what is left, how it stands. */
import { type ReactNode, useState } from "react";
import { api, answer, type Schemas } from "../api/client";
import { Mark } from "../drawings/Mark";
import { Link } from "../ui/Link";
import { Lines } from "../ui/Page";
import { Pages } from "../ui/Pages";
import { day } from "../ui/when";
import css from "./InspectionLines.module.css";

type Inspection = Schemas["InspectionLine"];

interface ListProps {
  which: "in hand" | "issued";
  what: string;
  first: Inspection[];
  count: number;
  Line: (props: { line: Inspection }) => ReactNode;
}

/** A list of inspections: its first page, and more of it when asked for. */
export function InspectionLines({ which, what, first, count, Line }: ListProps) {
  const [more, setMore] = useState<Inspection[]>([]);
  const [busy, setBusy] = useState(false);
  const known = new Set(first.map((line) => line.id));
  const lines = [...first, ...more.filter((line) => !known.has(line.id))];
  const next = async () => {
    setBusy(true);
    const query = { which, start: lines.length };
    const page = await answer(api.GET("/api/inspections", { params: { query } })).catch(() => null);
    if (page) setMore([...more, ...page.lines]);
    setBusy(false);
  };
  return (
    <>
      <Lines label={what}>
        {lines.map((line) => (
          <Line key={line.id} line={line} />
        ))}
      </Lines>
      <Pages shown={lines.length} count={count} what={what} more={next} busy={busy} />
    </>
  );
}

function Row({ line, stage, children }: { line: Inspection; stage: string; children: ReactNode }) {
  return (
    <li className={css.row}>
      <Link to={`/inspection/${line.id}/${stage}`} className={css.leads}>
        <p className={css.reference}>{line.reference ?? "no ref."}</p>
        <div className={css.what}>
          <p className={css.address}>{line.property_address ?? "No address yet"}</p>
          <p className={css.client}>
            {[line.client_name ?? "No client yet", day(line.inspected_on)].filter(Boolean).join(" · ")}
          </p>
        </div>
        {children}
      </Link>
    </li>
  );
}

export function InHand({ line }: { line: Inspection }) {
  return (
    <Row line={line} stage={line.held_reason ? "brief" : "dead"}>
      {line.held_reason && (
        <p className={css.held}>
          <b>On hold{line.return_on ? `, return ${day(line.return_on)}` : ""}</b>
          <br />
          {line.held_reason}
        </p>
      )}
      <div className={css.state}>
        <p>
          <b className={css.left}>{line.left}</b> left
        </p>
        {!!line.failing && (
          <div className={css.failing}>
            <Mark status="fail" /> {line.failing} failing
          </div>
        )}
      </div>
    </Row>
  );
}

export function Issued({ line }: { line: Inspection }) {
  return (
    <Row line={line} stage="report">
      <div className={css.state}>
        <div className={css.outcome}>
          <Mark status={line.outcome === "satisfactory" ? "pass" : "fail"} /> {line.outcome}
        </div>
        <p className={css.issue}>
          issue {line.issued}
          {line.next_due && ` · due ${day(line.next_due)}`}
        </p>
      </div>
    </Row>
  );
}
