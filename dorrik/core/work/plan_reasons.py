"""Why a visit is where the plan has it: every fact that binds it, in words, what binds most first (rule 16.2)."""

from collections.abc import Iterator, Mapping
from datetime import date, timedelta

from dorrik.core.work.visit_lengths import ExpectedLength
from dorrik.core.work.visit_plan import (
    DayRoute,
    PlanProblem,
    VisitPlan,
    WantedVisit,
    latest_day,
    may_be_on,
)

#: A deadline so near is worth a word (days).
_NEAR = timedelta(days=14)


def reasons(
    problem: PlanProblem,
    plan: VisitPlan,
    visit_id: str,
    names: Mapping[str, str],
    length: ExpectedLength | None = None,
    *,
    booked: bool = False,
) -> tuple[str, ...]:
    """Why a visit is on its day; () where the plan has no place for it.

    names: of visits, keys and inspectors by their ids; length: how long it is expected to take, and what that rests on;
    booked: the occupier was told.
    """
    route = next((route for route in plan.routes if visit_id in route.visits), None)
    if route is None:
        return ()
    visits = {visit.id: visit for visit in problem.visits}
    visit = visits[visit_id]
    return (
        *_bound(problem, visit, route, booked=booked),
        *_key(visits, visit, route, names),
        *_neighbours(problem, visits, visit, route, names),
        *(_length(length) if length is not None else ()),
    )


def _bound(problem: PlanProblem, visit: WantedVisit, route: DayRoute, *, booked: bool) -> Iterator[str]:
    """What leaves it few days or one."""
    if booked:
        yield "Booked: the occupier was told. Planning does not move it."
    elif visit.pin is not None:
        yield "Kept here by hand: planning does not move it."
    elif visit.windows is not None:
        free = {
            window.day
            for window in visit.windows
            if any(may_be_on(problem, visit, inspector, window.day) for inspector in problem.inspectors)
        }
        if len(free) == 1:
            yield "The only day on which somebody can let in."
        else:
            yield f"Somebody can let in on {len(free)} days before its last day."
    latest = latest_day(visit, problem.slack_days)
    if latest is not None and latest - route.day <= _NEAR:
        slack = "its last day" if visit.last_day is None else f"its last day, {_day(visit.last_day)}"
        days = _working_days(route.day, visit.last_day or latest)
        yield f"{days} working {'day' if days == 1 else 'days'} before {slack}."
    if visit.together:
        yield "Made together with the other visit at this property, on one day."


def _key(
    visits: Mapping[str, WantedVisit], visit: WantedVisit, route: DayRoute, names: Mapping[str, str]
) -> Iterator[str]:
    if not visit.key:
        return
    shared = [other for other in route.visits if other != visit.id and visits[other].key == visit.key]
    back = next((stop for stop in route.stops if stop.task == "return key" and stop.id == visit.key), None)
    until = f", back by {_time(back.ends)}" if back is not None else ""
    where = names.get(visit.key, "the key place")
    if shared:
        others = " and ".join(names.get(other, "another") for other in shared)
        yield f"Its keys and those of {others} come from {where} in one way{until}."
    else:
        yield f"Its keys are fetched from {where}{until}."


def _neighbours(
    problem: PlanProblem, visits: Mapping[str, WantedVisit], visit: WantedVisit, route: DayRoute,
    names: Mapping[str, str],
) -> Iterator[str]:  # fmt: skip
    others = [other for other in route.visits if other != visit.id]
    if not others:
        yield f"The only visit of {names.get(route.inspector, 'the inspector')} that day."
        return
    nearest = min(others, key=lambda other: problem.travel.km(visits[other].place, visit.place))
    place = visits[nearest].place
    if None in (visit.place.east_km, place.east_km):
        yield f"On one day with {names.get(nearest, 'another visit')}; the way between them is not known."
    else:
        km = problem.travel.km(place, visit.place)
        yield f"{km:.1f} km from {names.get(nearest, 'another visit')}, on the same day."


def _length(length: ExpectedLength) -> Iterator[str]:
    if length.visits:
        spread = f"{_span(length.low)} to {_span(length.high)}"
        yield f"{_span(length.minutes)} on site: half of {length.visits} visits of this firm took {spread}."
    else:
        yield f"{_span(length.minutes)} on site, by the estimate alone: no visit has been recorded yet."


def _working_days(first: date, last: date) -> int:
    return sum((first + timedelta(days=n)).weekday() < 5 for n in range(1, (last - first).days + 1))


def _day(day: date) -> str:
    return f"{day.day} {day:%b %Y}"


def _time(minute: float) -> str:
    whole = round(minute)
    return f"{whole // 60:02d}:{whole % 60:02d}"


def _span(minutes: float) -> str:
    whole = round(minutes)
    return f"{whole // 60} h {whole % 60:02d}" if whole >= 60 else f"{whole} min"
