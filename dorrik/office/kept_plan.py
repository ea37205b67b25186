"""The plan of visits as it is kept: read back with its ways and keys, and written down. No plan is kept that breaks a
hard rule (rule 16.2)."""

import re
from collections.abc import Mapping
from dataclasses import dataclass, replace
from datetime import date
from typing import Any

from sqlalchemy import Connection

from dorrik.core.work.plan_rules import broken
from dorrik.core.work.visit_plan import DayRoute, Left, Pin, VisitPlan, WantedVisit, may_be_on, timed, works_on
from dorrik.office.visit_situation import OpenVisit, Situation
from dorrik.planner.replan import MovedVisit, moments
from dorrik.store.database.engine import now
from dorrik.store.people.people import Person
from dorrik.store.planning import visits
from dorrik.store.planning.visits import KeptPlace

#: Moves that are told.
_MOST_TOLD = 200


@dataclass(frozen=True, slots=True)
class PlanChange:
    """What planning came to: the plan's version, and everything that moved beside what was asked for."""

    version: int
    moved: tuple[MovedVisit, ...]
    left: int


@dataclass(frozen=True, slots=True)
class KeptPlan:
    """The plan as it is kept. plan: days that can be kept, with the way and the keys, and whatever has no place;
    broken: visits whose day no longer holds, and why."""

    plan: VisitPlan
    broken: Mapping[str, str]


def as_kept(here: Situation) -> KeptPlan:
    """The plan as it is kept, each day timed as it is now."""
    wanted = {visit.id: visit for visit in here.problem.visits}
    inspectors = {inspector.id: inspector for inspector in here.problem.inspectors}
    days: dict[tuple[str, date], list[WantedVisit]] = {}
    for route in here.old.routes:
        for stop in route.stops:
            pin = Pin(route.inspector, route.day, stop.begins)
            days.setdefault((route.inspector, route.day), []).append(replace(wanted[stop.id], pin=pin))
    there = {visit.id for some in days.values() for visit in some}
    for visit in wanted.values():
        # Booked before anybody planned: it takes its time of that day all the same.
        if visit.id not in there and visit.pin is not None and here.visits[visit.id].booked:
            days.setdefault((visit.pin.inspector, visit.pin.day), []).append(visit)
            there.add(visit.id)
    routes: list[DayRoute] = []
    wrong: dict[str, str] = {}
    for (who, day), some in days.items():
        some.sort(key=lambda visit: visit.pin.start_min or 0.0 if visit.pin is not None else 0.0)
        inspector = inspectors.get(who)
        timed_day = timed(here.problem, inspector, day, some) if inspector is not None else None
        if timed_day is not None:
            routes.append(timed_day)
            continue
        for visit in some:
            pinned = replace(here.problem, visits=tuple(visit if v.id == visit.id else v for v in wanted.values()))
            to = visit.pin or Pin(who, day)
            wrong[visit.id] = (
                why_not(replace(here, problem=pinned), visit.id, to) or "The visits of this day no longer fit."
            )
    left = tuple(Left(visit.id, left_because(here, visit.id)) for visit in wanted.values() if visit.id not in there)
    return KeptPlan(VisitPlan(tuple(routes), left), wrong)


def left_because(here: Situation, visit_id: str) -> str:
    """Why a visit has no place."""
    open_visit = here.visits[visit_id]
    if open_visit.booked:
        return f"Booked for {short(date.fromisoformat(open_visit.job.values['booked_on']))}: say who goes, or plan it."
    return (open_visit.kept.why if open_visit.kept is not None else None) or "Not planned yet."


def why_not(here: Situation, visit_id: str, to: Pin) -> str | None:
    """Why a visit cannot be there whatever else is on that day, in words; None where it can."""
    problem = here.problem
    visit = next(visit for visit in problem.visits if visit.id == visit_id)
    inspector = next((inspector for inspector in problem.inspectors if inspector.id == to.inspector), None)
    if inspector is None:
        return "That inspector makes no visits."
    name = here.names.get(inspector.id, "The inspector")
    if to.day < problem.first:
        return "That day has begun or is gone."
    if to.day > problem.last:
        return f"Planned is until {short(problem.last)}."
    if not works_on(inspector, to.day):
        return f"{name} does not work on {short(to.day)}."
    if visit.last_day is not None and to.day > visit.last_day:
        return f"Its last day is {short(visit.last_day)}."
    if not may_be_on(problem, visit, inspector, to.day):
        return f"Nobody can let in on {short(to.day)} for so long."
    if timed(problem, inspector, to.day, [visit]) is None:
        if timed(problem, inspector, to.day, [replace(visit, pin=Pin(to.inspector, to.day))]) is not None:
            return "Not at that time: the way, the key or whoever lets in does not allow it. Try another hour."
        return f"The day of {name} is too short for it, with the way."
    return None


def keep(
    connection: Connection, me: Person, here: Situation, plan: VisitPlan, planned_s: float | None = None,
    why: Mapping[str, str] | None = None,
) -> PlanChange:  # fmt: skip
    """Write a plan down, whose lock the transaction holds. why: of what moved. Raises AssertionError for a plan that
    breaks a hard rule: none such leaves here."""
    if wrong := broken(here.problem, plan):
        raise AssertionError(f"A plan that breaks a rule: {wrong[0]}")
    was, are = moments(here.old), moments(plan)
    left = {unplaced.visit_id: unplaced.why for unplaced in plan.left}
    wanted = {visit.id: visit for visit in here.problem.visits}
    places, moved = [], []
    for visit_id, visit in wanted.items():
        before, after = was.get(visit_id), are.get(visit_id)
        open_visit = here.visits[visit_id]
        reason_left = named(left.get(visit_id, ""), here.names) or None
        kept = open_visit.kept
        same = before == after and (after is not None or (kept is not None and kept.why == reason_left))
        if not same or (kept is not None and kept.pinned) is not _by_hand(open_visit, visit):
            places.append(_place(open_visit, visit, after, reason_left))
        if before != after:
            reason = named((why or {}).get(visit_id, "") or _why(before, after), here.names)
            moved.append(MovedVisit(visit_id, before, after, reason))
    visits.place(connection, me.firm_id, me.id, places)
    lines = [_plain(moved_visit) for moved_visit in moved[:_MOST_TOLD]]
    more: dict[str, Any] = {"planned_at": now(), "planned_s": planned_s} if planned_s is not None else {}
    version = visits.change_head(connection, me.firm_id, moved=lines, **more)
    return PlanChange(version, tuple(moved), len(plan.left))


def _why(before: object, after: object) -> str:
    if before is None:
        return "new in the plan"
    return "moved by planning" if after is not None else "has no place any more"


def _place(open_visit: OpenVisit, visit: WantedVisit, after: Any, why: str | None) -> KeptPlace:
    if after is None:
        return nowhere(open_visit, visit.minutes, why)
    return KeptPlace(
        open_visit.id, open_visit.job.id, open_visit.inspection_id, after.inspector, after.day, after.begins,
        visit.minutes, _by_hand(open_visit, visit),
    )  # fmt: skip


def nowhere(open_visit: OpenVisit, minutes: float, why: str | None) -> KeptPlace:
    """A visit without a place in the plan, and why it has none."""
    return KeptPlace(
        visit_id=open_visit.id, job_id=open_visit.job.id, inspection_id=open_visit.inspection_id, inspector_id=None,
        day=None, begins_min=None, minutes=minutes, pinned=False, why=why,
    )  # fmt: skip


def _by_hand(open_visit: OpenVisit, visit: WantedVisit) -> bool:
    """Does somebody of the firm keep it there, rather than a booking or a letter that waits for its answer?"""
    known = open_visit.pinned
    return visit.pin is not None and not open_visit.booked and (known or not open_visit.asked)


def _plain(moved: MovedVisit) -> dict[str, Any]:
    def moment(at: Any) -> dict[str, Any] | None:
        return None if at is None else {"inspector": at.inspector, "day": at.day.isoformat(), "begins": at.begins}

    return {"visit_id": moved.visit_id, "was": moment(moved.was), "now": moment(moved.now), "why": moved.why}


_ID = re.compile("[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}")
_DAY = re.compile(r"\d{4}-\d{2}-\d{2}")


def named(text: str, names: Mapping[str, str]) -> str:
    """A sentence of the planner with names for ids, and days as people write them."""
    text = _ID.sub(lambda key_holder: names.get(key_holder[0], "another"), text)
    return _DAY.sub(lambda key_holder: short(date.fromisoformat(key_holder[0])), text)


def short(day: date) -> str:
    """A day in a sentence."""
    return f"{day:%a} {day.day} {day:%b}"


def keep_row(connection: Connection, me: Person, open_visit: OpenVisit) -> None:
    """What happens about a visit is written beside a row of it, whether or not it has a place."""
    if open_visit.kept is None:
        why = None if open_visit.booked else "Not planned yet."
        visits.place(connection, me.firm_id, me.id, [nowhere(open_visit, open_visit.length.minutes, why)])
