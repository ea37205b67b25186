"""Changing the plan by hand: a visit moved, kept where it is, or fitted in by a way out.

Whoever changes the plan holds its lock, reads what is to be planned as it is then, and writes what no hard rule
forbids. What has to give way moves as little as it can, and says why.
"""

from collections.abc import Mapping
from dataclasses import replace
from datetime import date
from typing import Any

from sqlalchemy import Connection

from dorrik.core.work import ways_out
from dorrik.core.work.visit_plan import Left, Pin, VisitPlan
from dorrik.core.work.ways_out import WayOut, WayOutPrices
from dorrik.office import visit_situation
from dorrik.office.kept_plan import PlanChange, as_kept, keep, left_because, why_not
from dorrik.office.visit_situation import GRID_MIN, OpenVisit, Situation
from dorrik.planner.replan import Replanned, moments, replan
from dorrik.store.people.people import Person
from dorrik.store.planning import visits
from dorrik.store.planning.visits import KeptPlace


class PlanConflict(Exception):
    """Somebody else planned meanwhile; who, in words."""


class CannotBeThere(ValueError):
    """A visit cannot be where it was put; the message says why."""


def move(connection: Connection, me: Person, today: date, visit_id: str, version: int, to: Pin) -> PlanChange:
    """Put a visit somewhere by hand, where it stays; what has to give way moves as little as it can.

    version: of the visit as whoever moves it saw it. Raises KeyError for no such visit, PlanConflict where somebody
    else moved it meanwhile, CannotBeThere where a hard rule forbids it: nothing has changed then.
    """
    here = visit_situation.situation(connection, me.firm_id, today, lock=True)
    open_visit = here.visits[visit_id]
    _same_version(open_visit, version)
    if open_visit.booked:
        raise CannotBeThere("The occupier was told when you come. Cancel the booking first, then move the visit.")
    return put(connection, me, here, visit_id, to, "moved by hand")


def put(connection: Connection, me: Person, here: Situation, visit_id: str, to: Pin, why: str) -> PlanChange:
    """Put a visit somewhere, in a plan whose lock the transaction holds. why: it is there. Raises CannotBeThere."""
    if to.start_min is not None:
        to = replace(to, start_min=GRID_MIN * round(to.start_min / GRID_MIN))
    if visit_id not in {visit.id for visit in here.problem.visits}:
        raise CannotBeThere("A visit of today is not moved any more.")
    group = _group(here, visit_id)
    wanted = tuple(
        replace(visit, pin=Pin(to.inspector, to.day, to.start_min if visit.id == visit_id else None))
        if visit.id in group else visit
        for visit in here.problem.visits
    )  # fmt: skip
    problem = replace(here.problem, visits=wanted)
    if (reason := why_not(replace(here, problem=problem), visit_id, to)) is not None:
        raise CannotBeThere(reason)
    # What has no place yet is not given one by the way.
    placed = moments(here.old).keys() | group | {visit.id for visit in here.visits.values() if visit.booked}
    part = replace(problem, visits=tuple(visit for visit in wanted if visit.id in placed))
    replanned = replan(part, here.old, 0)
    if any(left.visit_id == visit_id for left in replanned.plan.left):
        raise CannotBeThere(f"There is no room for it: {_in_the_way(here, to)}")
    rest = tuple(Left(visit.id, left_because(here, visit.id)) for visit in wanted if visit.id not in placed)
    plan = VisitPlan(replanned.plan.routes, (*replanned.plan.left, *rest))
    return keep(connection, me, replace(here, problem=problem), plan, why=_reasons(replanned) | {visit_id: why})


def _reasons(replanned: Replanned) -> dict[str, str]:
    return {moved.visit_id: moved.why for moved in replanned.moved}


def _group(here: Situation, visit_id: str) -> frozenset[str]:
    """A visit with those that are made together with it."""
    together = {visit.id: visit.together for visit in here.problem.visits}
    name = together.get(visit_id, "")
    return frozenset(one for one, other in together.items() if one == visit_id or (name and other == name))


def _same_version(open_visit: OpenVisit, version: int) -> None:
    known = open_visit.kept.version if open_visit.kept is not None else 0
    if known != version:
        raise PlanConflict("Somebody else changed this visit meanwhile. Look at where it is now, then move it.")


def _in_the_way(here: Situation, to: Pin) -> str:
    route = next((route for route in here.old.routes if (route.inspector, route.day) == (to.inspector, to.day)), None)
    if route is None:
        return "the day is too short."
    return f"{' and '.join(here.names[visit] for visit in route.visits)} cannot give way."


def hold(connection: Connection, me: Person, today: date, visit_id: str, version: int, *, pinned: bool) -> PlanChange:
    """Keep a visit where the plan has it, or let planning move it again. Raises KeyError, PlanConflict, CannotBeThere
    where it has no place."""
    here = visit_situation.situation(connection, me.firm_id, today, lock=True)
    open_visit = here.visits[visit_id]
    _same_version(open_visit, version)
    kept = open_visit.kept
    if kept is None or kept.day is None:
        raise CannotBeThere("It has no place to be kept at. Plan it, or move it to a day.")
    minutes = kept.minutes or open_visit.length.minutes
    place = KeptPlace(
        open_visit.id, open_visit.job.id, open_visit.inspection_id, kept.inspector_id, kept.day, kept.begins_min,
        minutes, pinned,
    )  # fmt: skip
    visits.place(connection, me.firm_id, me.id, [place])
    return PlanChange(visits.change_head(connection, me.firm_id), (), len(here.old.left))


def ways(here: Situation, visit_id: str, plan: VisitPlan, prices: WayOutPrices) -> tuple[WayOut, ...]:
    """The cheapest ways to fit a visit in that has no place. Raises KeyError for one that is not wanted."""
    return ways_out.ways_out(here.problem, plan, visit_id, prices, here.guests)


def take_way(
    connection: Connection, me: Person, today: date, visit_id: str, way: WayOut, prices: WayOutPrices
) -> PlanChange:
    """Take a way out that was offered; the day and the inspector that give way are written down with the plan.

    Raises KeyError for no such visit, PlanConflict where that way is not open any more.
    """
    here = visit_situation.situation(connection, me.firm_id, today, lock=True)
    plan = as_kept(here).plan
    same = [one for one in ways(here, visit_id, plan, prices) if _key(one) == _key(way)]
    if not same:
        raise PlanConflict("That way out is not open any more: the plan has changed. Look again.")
    taken = same[0]
    settings = _with(here.head.settings, taken)
    visits.change_head(connection, me.firm_id, settings=settings)
    after = visit_situation.situation(connection, me.firm_id, today, lock=True)
    changed = {(route.inspector, route.day) for route in taken.routes}
    kept = tuple(route for route in plan.routes if (route.inspector, route.day) not in changed)
    left = tuple(unplaced for unplaced in plan.left if unplaced.visit_id != visit_id)
    fitted = VisitPlan((*kept, *taken.routes), left)
    return keep(connection, me, after, fitted, why={visit_id: "fits by a way out", taken.moved: "moved to make room"})


def _key(way: WayOut) -> tuple[object, ...]:
    return way.kind, way.inspector, way.day, way.earlier_min, way.moved


def _with(settings: Mapping[str, Any], way: WayOut) -> dict[str, Any]:
    """The plan's settings with what gives way."""
    merged = dict(settings)
    day = way.day.isoformat()
    if way.kind == "earlier start":
        own = dict(merged.get("earlier", {}).get(way.inspector, {}))
        own[day] = own.get(day, 0.0) + way.earlier_min
        merged["earlier"] = {**merged.get("earlier", {}), way.inspector: own}
    elif way.kind == "another inspector":
        asked = sorted({*merged.get("asked", {}).get(way.inspector, ()), day})
        merged["asked"] = {**merged.get("asked", {}), way.inspector: asked}
    return merged
