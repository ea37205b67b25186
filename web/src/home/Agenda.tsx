/** What now: the day's visits as a strip, the coming ones below; beside them what waits, is due, or was not sent. */
import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import type { Schemas } from "../api/client";
import { DayStrip, minutesOf } from "../drawings/DayStrip";
import { Mark } from "../drawings/Mark";
import { fetchAgenda } from "../inspection/atHome";
import { dayOf, leftOf } from "../after/left";
import { Link } from "../ui/Link";
import { Line, Lines } from "../ui/Page";
import { Tag } from "../ui/Tag";
import { day, hours } from "../ui/when";
import css from "./Agenda.module.css";

type AgendaOut = Schemas["AgendaOut"];
type Visit = Schemas["VisitOut"];

export const useAgenda = () => useQuery({ queryKey: ["agenda"], queryFn: fetchAgenda, staleTime: 5000 });

/** part: the visits, or what waits; both come in one answer. */
export function Agenda({ part }: { part: "visits" | "waiting" }) {
  const agenda = useAgenda();
  // What stands below does not move as it comes: a tap on its way would miss.
  if (!agenda.data) return part === "visits" && agenda.isPending ? <NoVisitsYet /> : null;
  return part === "visits" ? <Visits agenda={agenda.data} /> : <Waiting agenda={agenda.data} />;
}

/** As high as a day without visits. */
const NoVisitsYet = () => (
  <div className={css.visits} aria-hidden>
    <p className={css.day}>&nbsp;</p>
    <Lines>{null}</Lines>
  </div>
);

const text = (entry: Visit["job"], field: string) => String(entry.values[field] ?? "");

function Visits({ agenda }: { agenda: AgendaOut }) {
  const today = agenda.visits.filter((visit) => visit.when === "today");
  const others = agenda.visits.filter((visit) => visit.when !== "today");
  const strip = today.map((visit) => ({
    key: visit.job.id,
    at: text(visit.job, "booked_at"),
    minutes: visit.minutes,
    km: visit.travel_km ?? 0,
    name: text(visit.property, "address").split(",")[0] ?? "",
  }));
  return (
    <div className={css.visits}>
      <p className={css.day}>
        <b>{day(agenda.today, { weekday: "long", day: "numeric", month: "long" })}</b>
        <span className={css.quiet}>
          {today.length === 0
            ? " · no visit today"
            : ` · ${today.length} ${today.length === 1 ? "visit" : "visits"}, ${hours(today.reduce((sum, visit) => sum + visit.minutes, 0))}`}
        </span>
      </p>
      {today.length > 0 && <DayStrip parts={strip} label={`Visits of today: ${strip.map(inWords).join("; ")}`} />}
      <Lines label="Booked visits">
        {[...today, ...others].map((visit) => (
          <VisitLine key={visit.job.id} visit={visit} />
        ))}
      </Lines>
    </div>
  );
}

const inWords = (part: { at: string; minutes: number; name: string }) =>
  `${part.name}${minutesOf(part.at) === null ? "" : ` at ${part.at}`}, ${hours(part.minutes)}`;

function VisitLine({ visit }: { visit: Visit }) {
  const { job, property } = visit;
  const at = text(job, "booked_at");
  const when = visit.when === "today" ? at || "today" : `${day(text(job, "booked_on"), SHORT)} ${at}`;
  return (
    <Line to={`/job/${job.id}`}>
      <b className={css.when}>{when}</b>
      <div className={css.where}>
        {text(property, "address") || "No address yet"}
        <p className={css.more}>
          {[
            text(job, "number") || "job",
            hours(visit.minutes),
            visit.travel_km !== null && `${visit.travel_km} km`,
            text(property, "key_place"),
          ]
            .filter(Boolean)
            .join(" · ")}
        </p>
      </div>
      {visit.when === "before" && <Tag>overdue</Tag>}
    </Line>
  );
}

const SHORT = { weekday: "short", day: "numeric", month: "short" } as const;

/** So many open reports stand on the home screen; the others are a tap away. */
const SHOWN = 4;

function Waiting({ agenda }: { agenda: AgendaOut }) {
  const { ready, to_review, sent_back, returns, promises, due, due_count, unsent, instruments } = agenda;
  const { to_clear, to_clear_count, letters_in_trouble } = agenda;
  const quiet =
    !ready.length &&
    !to_review.length &&
    !sent_back.length &&
    !returns.length &&
    !promises.length &&
    !due.length &&
    !unsent.length &&
    !to_clear.length &&
    !letters_in_trouble &&
    !instruments.length;
  return (
    <aside aria-label="Waiting" className={css.waiting}>
      {quiet && (
        <p className={css.quiet}>Nothing waits: no signature, no return visit, nothing due within two months.</p>
      )}
      <Group title="To be reviewed">
        {to_review.map((waiting) => (
          <Waits
            key={waiting.id}
            to={`/inspection/${waiting.id}/report`}
            name={waiting.property_address}
            more={[waiting.reference, `submitted ${day(waiting.on)}`].filter(Boolean).join(" · ")}
          />
        ))}
      </Group>
      <Group title="Letters">
        {(letters_in_trouble ? [letters_in_trouble] : []).map((count) => (
          <Waits
            key="letters"
            to="/letters?only=trouble"
            name={count === 1 ? "1 letter not arrived" : `${count} letters not arrived`}
            more="look why, send again"
          />
        ))}
      </Group>
      <Group title={to_clear_count > SHOWN ? `To put right, ${SHOWN} of ${to_clear_count}` : "To put right"}>
        {to_clear.slice(0, SHOWN).map((openReport) => (
          <Waits
            key={openReport.inspection_id}
            to={`/to-put-right/${openReport.inspection_id}`}
            name={openReport.home}
            more={[leftOf(openReport), dayOf(openReport) && `by ${day(dayOf(openReport))}`].filter(Boolean).join(" · ")}
          />
        ))}
      </Group>
      <Group title="Sent back">
        {sent_back.map((waiting) => (
          <Waits
            key={waiting.id}
            to={`/inspection/${waiting.id}/report`}
            name={waiting.property_address}
            more={[waiting.reference, waiting.reason].filter(Boolean).join(" · ")}
          />
        ))}
      </Group>
      <Group title="To be signed">
        {ready.map((waiting) => (
          <Waits
            key={waiting.id}
            to={`/inspection/${waiting.id}/report`}
            name={waiting.property_address}
            more={waiting.reference}
          />
        ))}
      </Group>
      <Group title="Network operator overdue">
        {promises.map((waiting) => (
          <Waits
            key={waiting.id + waiting.on}
            to={`/inspection/${waiting.id}/intake`}
            name={waiting.property_address}
            more={[`promised by ${day(waiting.on)}`, waiting.reason].filter(Boolean).join(" · ")}
            mark
          />
        ))}
      </Group>
      <Group title="Return visits">
        {returns.map((waiting) => (
          <Waits
            key={waiting.id}
            to={`/inspection/${waiting.id}/brief`}
            name={waiting.property_address}
            more={`${waiting.on ? day(waiting.on) : "no day yet"}${waiting.reason ? ` · ${waiting.reason}` : ""}`}
          />
        ))}
      </Group>
      <Group title={due_count > due.length ? `Due soon, ${due_count} in all` : "Due soon"}>
        {due.map((waiting) => (
          <Waits
            key={waiting.id}
            to={`/inspection/${waiting.id}/report`}
            name={waiting.property_address}
            more={`${day(waiting.on)}${waiting.on && waiting.on < agenda.today ? ", overdue" : ""}`}
          />
        ))}
      </Group>
      <Group title="Confirmation not sent">
        {unsent.map((visit) => (
          <Waits
            key={visit.job_id}
            to={`/job/${visit.job_id}`}
            name={visit.property_address}
            more={[visit.number, visit.on ? `visit ${day(visit.on)}` : "no day yet"].filter(Boolean).join(" · ")}
          />
        ))}
      </Group>
      <Group title="Instruments">
        {instruments.map((instrumentTrouble) => (
          <Waits
            key={instrumentTrouble.name + instrumentTrouble.serial}
            to="/instruments"
            name={`${instrumentTrouble.name} ${instrumentTrouble.serial ?? ""}`}
            more={instrumentTrouble.reason}
            mark
          />
        ))}
      </Group>
    </aside>
  );
}

function Group({ title, children }: { title: string; children: ReactNode[] }) {
  if (children.length === 0) return null;
  return (
    <section aria-label={title} className={css.group}>
      <h2 className={css.groupTitle}>
        {title} <span className={css.count}>{children.length}</span>
      </h2>
      <ul>{children}</ul>
    </section>
  );
}

interface WaitsProps {
  to: string;
  name: string | null;
  more: string | null;
  mark?: boolean;
}

function Waits({ to, name, more, mark }: WaitsProps) {
  return (
    <li className={css.waits}>
      <Link to={to} className={css.leads}>
        <div className={css.name}>
          {mark && <Mark status="attention" />} {name ?? "No address yet"}
        </div>
        {more && <p className={`${css.more} ${css.two}`}>{more}</p>}
      </Link>
    </li>
  );
}
