"""Ways out for a visit that does not fit into a plan, each with its price, the cheapest first (rule 16.2).

A way out gives way in one place only: somebody begins earlier one day, one visit that nobody fixed goes to another day,
or somebody else is asked for a day. The plan that it leads to keeps every hard rule.
"""

from collections.abc import Iterator, Sequence
from dataclasses import replace
from datetime import date
from itertools import permutations
from typing import Literal

from dorrik.core.basics.record import record
from dorrik.core.work.visit_plan import (
    DayRoute,
    Inspector,
    PlanProblem,
    VisitPlan,
    WantedVisit,
    may_be_on,
    timed,
    works_on,
)


@record
class WayOutPrices:
    """What giving way costs in one currency: an hour before the usual start, asking one occupier for another day, and a
    day of somebody else."""

    early_hour: float = 25.0
    moved_visit: float = 10.0
    extra_day: float = 280.0


#: Nobody is asked to begin more than so much earlier (minutes), and it is asked for in such steps.
EARLIEST_MIN, STEP_MIN = 90.0, 30.0

Kind = Literal["earlier start", "move one visit", "another inspector"]


@record
class WayOut:
    """A way to fit a visit in. says: in words; price: what it costs; inspector, day: where the visit goes; earlier_min:
    how much earlier that day begins; moved: the visit that goes elsewhere, '' for none; routes: the days that change,
    as they are then."""

    kind: Kind
    says: str
    price: float
    inspector: str
    day: date
    routes: tuple[DayRoute, ...]
    earlier_min: float = 0.0
    moved: str = ""


def ways_out(
    problem: PlanProblem, plan: VisitPlan, visit_id: str, prices: WayOutPrices, guests: Sequence[Inspector] = ()
) -> tuple[WayOut, ...]:
    """Ways out for a visit that the plan has left, the cheapest of each kind, the cheapest kind first.

    guests: others who could be asked for a day. Visits that go together with others are not moved by themselves. Raises
    KeyError where no such visit is wanted.
    """
    visits = {visit.id: visit for visit in problem.visits}
    visit = visits[visit_id]
    if visit.together:
        return ()
    ways = [*_earlier(problem, plan, visit), *_moved(problem, plan, visit), *_guests(problem, plan, visit, guests)]
    priced = sorted((_priced(way, prices) for way in ways), key=lambda way: (way.price, way.day, way.inspector))
    best: dict[Kind, WayOut] = {}
    for way in priced:
        best.setdefault(way.kind, way)
    return tuple(best.values())


def _priced(way: WayOut, prices: WayOutPrices) -> WayOut:
    price = {
        "earlier start": way.earlier_min / 60 * prices.early_hour,
        "move one visit": prices.moved_visit,
        "another inspector": prices.extra_day,
    }[way.kind]
    return replace(way, price=price)


def _days(problem: PlanProblem, plan: VisitPlan) -> Iterator[tuple[Inspector, date, tuple[WantedVisit, ...]]]:
    """Every day of every inspector with the visits that the plan has there."""
    visits = {visit.id: visit for visit in problem.visits}
    routes = {(route.inspector, route.day): route.visits for route in plan.routes}
    for day in problem.days():
        for inspector in problem.inspectors:
            if works_on(inspector, day):
                yield inspector, day, tuple(visits[name] for name in routes.get((inspector.id, day), ()))


def _best(
    problem: PlanProblem, plan: VisitPlan, inspector: Inspector, day: date, visits: Sequence[WantedVisit]
) -> DayRoute | None:
    """The shortest day with those visits, in whichever order; what goes together stays one after the other."""
    if len(visits) > inspector.most_visits or _key_elsewhere(problem, plan, inspector, day, visits):
        return None
    routes = (timed(problem, inspector, day, order) for order in permutations(visits) if _side_by_side(order))
    return min((route for route in routes if route), key=lambda route: route.back - route.leaves, default=None)


def _side_by_side(order: Sequence[WantedVisit]) -> bool:
    names = [visit.together for visit in order]
    return all(names[at] == names[at - 1] or name not in names[:at] for at, name in enumerate(names) if name and at)


def _key_elsewhere(
    problem: PlanProblem, plan: VisitPlan, inspector: Inspector, day: date, visits: Sequence[WantedVisit]
) -> bool:
    """Is a single key that is needed with somebody else that day?"""
    keys = {visit.key for visit in visits} & problem.single_keys
    return any(
        stop.task == "fetch key" and stop.id in keys
        for route in plan.routes
        if route.day == day and route.inspector != inspector.id
        for stop in route.stops
    )


def _earlier(problem: PlanProblem, plan: VisitPlan, visit: WantedVisit) -> Iterator[WayOut]:
    for inspector, day, here in _days(problem, plan):
        if not may_be_on(problem, visit, inspector, day):
            continue
        earlier = STEP_MIN
        already = dict(inspector.earlier)
        while already.get(day, 0.0) + earlier <= EARLIEST_MIN:
            sooner = replace(inspector, earlier=tuple({**already, day: already.get(day, 0.0) + earlier}.items()))
            route = _best(problem, plan, sooner, day, (*here, visit))
            if route is not None:
                says = f"{inspector.id} begins {earlier:.0f} min earlier on {day}"
                yield WayOut("earlier start", says, 0.0, inspector.id, day, (route,), earlier)
                break
            earlier += STEP_MIN


def _moved(problem: PlanProblem, plan: VisitPlan, visit: WantedVisit) -> Iterator[WayOut]:
    days = list(_days(problem, plan))
    for inspector, day, here in days:
        if not may_be_on(problem, visit, inspector, day):
            continue
        for other in here:
            if other.pin is not None or other.together:
                continue
            route = _best(problem, plan, inspector, day, (*(one for one in here if one is not other), visit))
            if route is None:
                continue
            others = (r for r in plan.routes if (r.inspector, r.day) != (inspector.id, day))
            without = VisitPlan((*others, route))
            for whose, when, there in days:
                if (whose.id, when) == (inspector.id, day) or not may_be_on(problem, other, whose, when):
                    continue
                moved = _best(problem, without, whose, when, (*there, other))
                if moved is not None:
                    says = f"{other.id} goes to {when} with {whose.id}"
                    yield WayOut("move one visit", says, 0.0, inspector.id, day, (route, moved), moved=other.id)
                    break


def _guests(problem: PlanProblem, plan: VisitPlan, visit: WantedVisit, guests: Sequence[Inspector]) -> Iterator[WayOut]:
    for guest in guests:
        for day in problem.days():
            route = _best(problem, plan, guest, day, (visit,))
            if route is not None:
                yield WayOut("another inspector", f"{guest.id} comes on {day}", 0.0, guest.id, day, (route,))
                break
