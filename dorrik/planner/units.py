"""What is planned as one: a visit, or visits that go together; and the days on which each can be."""

from collections.abc import Iterator, Sequence
from datetime import date
from itertools import permutations

from dorrik.core.basics.record import record
from dorrik.core.work.visit_plan import DayRoute, Inspector, PlanProblem, WantedVisit, latest_day, timed, works_on

#: In how many orders the visits of a day are tried: more than these are taken as they come.
_MOST_TO_ORDER = 5


@record
class Unit:
    """Visits that are made one after the other, in that order."""

    visits: tuple[WantedVisit, ...]

    @property
    def minutes(self) -> float:
        """All of it, without the way between."""
        return sum(visit.minutes for visit in self.visits)

    @property
    def id(self) -> str:
        """Of its first visit."""
        return self.visits[0].id


def units(problem: PlanProblem) -> tuple[Unit, ...]:
    """Every visit in one unit, in the order in which they are wanted."""
    by_group: dict[str, list[WantedVisit]] = {}
    for visit in problem.visits:
        by_group.setdefault(f"together {visit.together}" if visit.together else f"alone {visit.id}", []).append(visit)
    return tuple(Unit(tuple(visits)) for visits in by_group.values())


def open_days(problem: PlanProblem) -> Iterator[tuple[Inspector, date]]:
    """Every day of every inspector who works on it, by day."""
    for day in problem.days():
        for inspector in problem.inspectors:
            if works_on(inspector, day):
                yield inspector, day


def shortest_day(problem: PlanProblem, inspector: Inspector, day: date, wanted: Sequence[Unit]) -> DayRoute | None:
    """The shortest day with those units, in whichever order; None where they do not fit."""
    if sum(len(unit.visits) for unit in wanted) > inspector.most_visits:
        return None
    orders = permutations(wanted) if len(wanted) <= _MOST_TO_ORDER else iter([tuple(wanted)])
    routes = (timed(problem, inspector, day, [v for unit in order for v in unit.visits]) for order in orders)
    return min((route for route in routes if route), key=lambda route: route.back - route.leaves, default=None)


def why_left(problem: PlanProblem, unit: Unit) -> str:
    """Why a unit has no place, in words: the first thing that alone rules it out, else that its days are full."""
    visit = unit.visits[0]
    days = list(open_days(problem))
    if not problem.inspectors:
        return "There is no inspector."
    latest = min((day for v in unit.visits if (day := latest_day(v, problem.slack_days))), default=None)
    if latest is not None and latest < problem.first:
        return f"The last day for it was {latest.isoformat()}, a working day before its deadline."
    if any(v.windows is not None and not v.windows for v in unit.visits):
        return "Nobody can let anybody in on any day."
    if any(v.key and v.key not in {key.id for key in problem.keys} for v in unit.visits):
        return "Nobody has said where its key is."
    before = [(inspector, day) for inspector, day in days if latest is None or day <= latest]
    if not before:
        return "Nobody works on any day before its deadline."
    if not any(shortest_day(problem, inspector, day, [unit]) for inspector, day in before):
        alone = Unit(tuple(_without_windows(v) for v in unit.visits))
        if any(shortest_day(problem, inspector, day, [alone]) for inspector, day in before):
            return _why_closed(problem, unit)
        return f"It takes {unit.minutes:.0f} minutes with the way, more than any day has."
    if visit.windows is not None:
        return "Every day on which somebody can be let in is full."
    return "Every day before its deadline is full." if latest is not None else "Every day is full."


def _why_closed(problem: PlanProblem, unit: Unit) -> str:
    """Why a unit fits no working day that it would fit if it were open at any time."""
    working = {day for _, day in open_days(problem)}
    if any(v.windows is not None and not working & {window.day for window in v.windows} for v in unit.visits):
        return "Nobody works on any day on which somebody can let in."
    longest = max(
        (window.until_min - window.from_min for visit in unit.visits for window in visit.windows or ()), default=0
    )
    if 0 < longest < unit.minutes:
        return f"It takes {unit.minutes:.0f} minutes; somebody lets in for {longest:.0f} at most."
    if longest:
        return (
            "With the way there, it fits none of the times at which somebody lets in, or at which its key can be had."
        )
    return "Its key cannot be had early enough, or brought back in time, on any working day."


def _without_windows(visit: WantedVisit) -> WantedVisit:
    return WantedVisit(id=visit.id, minutes=visit.minutes, place=visit.place)
