"""A job as its day and its scope: when and beside what it is, what is missing to go there, and what to pack."""

from dataclasses import dataclass
from datetime import date

from sqlalchemy import Connection

from dorrik.core.work.before_going import GoingFacts, MissingThing, missing
from dorrik.core.work.packing import PackFacts, PackItem, pack
from dorrik.core.work.visit_lengths import ExpectedLength
from dorrik.office import recorded_visits, visit_situation
from dorrik.office.jobs import JobFile
from dorrik.office.kept_plan import as_kept
from dorrik.store.firm import house_rates
from dorrik.store.planning import visit_steps
from dorrik.store.register import register


@dataclass(frozen=True, slots=True)
class DayStop:
    """A stop of the day of a job. this: it is the job itself; begins, ends: minutes since midnight."""

    name: str
    task: str
    begins: float
    ends: float
    this: bool


@dataclass(frozen=True, slots=True)
class JobDay:
    """visit_id: of the job's visit, '' where none is to be made any more; on: its day, booked or as planned; booked:
    was it agreed?; inspector: who goes; stops: of that day; length: how long it takes, by this firm's own visits."""

    visit_id: str
    on: date | None
    booked: bool
    inspector: str
    stops: tuple[DayStop, ...]
    leaves: float | None
    back: float | None
    length: ExpectedLength
    missing: tuple[MissingThing, ...]
    pack: tuple[PackItem, ...]


def of_job(
    connection: Connection, firm_id: str, file: JobFile, today: date, instruments_due: tuple[str, ...]
) -> JobDay:
    """A job's day. instruments_due: names of those whose calibration ends before it."""
    here = visit_situation.situation(connection, firm_id, today)
    visit = here.visits.get(visit_situation.visit_id(firm_id, file.job.id, None))
    job, home = file.job.values, file.home.values
    rates, _, _ = house_rates.of(connection, firm_id)
    by_kind, of_firm = recorded_visits.factors(connection, firm_id, rates)
    length = recorded_visits.expected(file.job, rates, by_kind, of_firm)
    on = date.fromisoformat(job["booked_on"]) if job.get("booked_on") else None
    who = str(job.get("booked_with") or "")
    if visit is not None and visit.kept is not None and visit.kept.day is not None and on is None:
        on, who = visit.kept.day, visit.kept.inspector_id or ""
    route = None
    if visit is not None:
        route = next((route for route in as_kept(here).plan.routes if visit.id in route.visits), None)
    stops = tuple(
        DayStop(here.names[stop.id], stop.task, stop.begins, stop.ends, visit is not None and stop.id == visit.id)
        for stop in (route.stops if route is not None else ())
    )
    steps = visit_steps.of_visit(connection, firm_id, visit.id) if visit is not None else []
    occupier_told = any(step.kind == "told" and step.on_day == on for step in steps) if on is not None else False
    holder = register.get(connection, firm_id, "key_holder", str(home.get("key_holder_id") or ""))
    keys = [str(holder.values.get("name") or "") if holder else "", str(home.get("key_place") or "")]
    key_words = ", ".join(part for part in keys if part)
    due = job.get("last_day") or home.get("due_on")
    things = missing(
        GoingFacts(
            booked_on=on, inspector=here.names.get(who, ""), last_day=date.fromisoformat(due) if due else None,
            occupier=str(home.get("occupier_name") or ""),
            reachable=bool(home.get("occupier_phone") or home.get("occupier_email")), told=occupier_told,
            keys=bool(key_words), access=bool(home.get("access")), extent=bool(job.get("extent")),
            agreed_with=bool(job.get("agreed_with")), left_out=bool(job.get("leave_out")),
            left_out_reason=bool(job.get("leave_out_reason")), power_off=bool(job.get("power_off")),
            circuits=int(job.get("rings") or 0) + int(job.get("radials") or 0),
            confirmed=bool(job.get("confirmation_sent")), placed=home.get("latitude") is not None,
            instruments_due=instruments_due,
        )
    )  # fmt: skip
    items = pack(
        PackFacts(
            boards=int(job.get("boards") or 0), rings=int(job.get("rings") or 0), radials=int(job.get("radials") or 0),
            points_opened=int(job.get("points_opened") or 0), points_tested=int(job.get("points_tested") or 0),
            earthings=tuple(
                (str(installation.values.get("name") or ""), str(installation.values.get("earthing") or ""))
                for installation in file.installations
            ),
            rewired=home.get("rewired_year"), built=home.get("built_year"),
            must_stay_on=str(home.get("must_stay_on") or ""), access=str(home.get("access") or ""), keys=key_words,
            power_off_min=length.minutes * 0.7,
            earlier=bool(register.inspections_of(connection, firm_id, file.home.id)),
        )
    )  # fmt: skip
    return JobDay(
        visit.id if visit is not None else "", on, visit is not None and visit.booked, here.names.get(who, ""), stops,
        route.leaves if route else None, route.back if route else None, length, things, items,
    )  # fmt: skip
