/** Inspections of a property or a job as lines of a list: reference, which installation, when, and how each stands. */
import { Link } from "react-router";
import type { Schemas } from "../api/client";
import css from "../ui/Page.module.css";
import { shownDay } from "./entry";

type Past = Schemas["PastOut"];

export function PastLines({ inspections, stage }: { inspections: Past[]; stage: string }) {
  return (
    <>
        {inspections.map((one) => (
          <li key={one.id}>
            <Link to={`/inspection/${one.id}/${stage}`} className={css.line}>
              <b>{one.reference ?? "no reference"}</b>
              <span className={css.grow}>{[one.installation, shownDay(one.inspected_on)].filter(Boolean).join(" · ")}</span>
              <span className={css.quiet}>{standing(one)}</span>
            </Link>
          </li>
        ))}
    </>
  );
}

/** How an inspection stands: its outcome, on hold, or in hand. */
function standing(one: Past): string {
  if (one.on_hold) return one.return_on ? `on hold, return ${shownDay(one.return_on)}` : "on hold";
  return one.outcome ?? "in hand";
}
