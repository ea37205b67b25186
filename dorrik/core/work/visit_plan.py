"""Visits of a portfolio on the days of inspectors: what is wanted, what a plan is, how a day is timed and what it costs
(rule 16.2).

Times are minutes since midnight on the local clock, places kilometres east and north of anywhere. Finding a good plan
is a solver's work; whatever finds one, `plan_rules.broken` says whether it can be kept.
"""

from collections.abc import Iterator, Mapping, Sequence
from datetime import date, timedelta
from itertools import pairwise
from math import ceil, hypot
from typing import Literal

from dorrik.core.basics.record import record

#: A second thorough visit is honest, a third is not.
MOST_VISITS = 2
#: What does not fit by rounding alone fits (minutes).
TOLERANCE = 1e-6


@record
class Place:
    """Where something is; east_km, north_km: None where nobody knows. name: under which a table of travel knows it."""

    name: str
    east_km: float | None = None
    north_km: float | None = None


@record
class Window:
    """A time in which somebody can be let in: the whole visit lies within it."""

    day: date
    from_min: float
    until_min: float


@record
class Pin:
    """Where a visit was put by hand, and stays: whose day, which day, the minute at which it begins, None for any."""

    inspector: str
    day: date
    start_min: float | None = None


@record(kw_only=True)
class WantedVisit:
    """A visit that is to be made.

    minutes: how long it takes; windows: when somebody can be let in, None for any time; last_day: the deadline, None
    for none; key: of the key that it needs, '' for none; together: visits of one name are made by one inspector on one
    day, one after the other (both boards of one house), '' for alone; pin: put there by hand.
    """

    id: str
    minutes: float
    place: Place
    windows: tuple[Window, ...] | None = None
    last_day: date | None = None
    key: str = ""
    together: str = ""
    pin: Pin | None = None


@record(kw_only=True)
class Inspector:
    """Somebody who makes visits.

    home: where the day begins and ends; start_min, end_min: not on the way before and not after; weekdays: those worked
    (0 is Monday); days_off: those of them that are not; extra_days: others that are; earlier: days that begin earlier,
    and by how many minutes; most_visits, most_minutes: in a day, travel counted.
    """

    id: str
    home: Place
    start_min: float = 8 * 60
    end_min: float = 17 * 60
    weekdays: frozenset[int] = frozenset(range(5))
    days_off: frozenset[date] = frozenset()
    extra_days: frozenset[date] = frozenset()
    earlier: tuple[tuple[date, float], ...] = ()
    most_visits: int = MOST_VISITS
    most_minutes: float = 480.0

    def start_on(self, day: date) -> float:
        """When that day begins, at the earliest."""
        return self.start_min - dict(self.earlier).get(day, 0.0)


@record
class Key:
    """Keys that are fetched before a visit and brought back after it on the same day, while somebody is there.

    many: it is a place that keeps a key for each of several homes, so that two inspectors can both fetch there on one
    day; a single key is with one of them.
    """

    id: str
    place: Place
    from_min: float = 0.0
    until_min: float = 24 * 60
    handling_min: float = 5.0
    many: bool = False


@record
class Travel:
    """How long the way takes: by a table (minutes by two names of places, in either order), else by the straight line
    times `detour` at `speed_kmh`. Where somebody's place is not known it takes `unknown_min`."""

    speed_kmh: float = 30.0
    detour: float = 1.3
    unknown_min: float = 30.0
    table: Mapping[tuple[str, str], float] | None = None

    def km(self, one: Place, other: Place) -> float:
        """Kilometres on the road; 0 where a place is not known."""
        if one.east_km is None or one.north_km is None or other.east_km is None or other.north_km is None:
            return 0.0
        return self.detour * hypot(one.east_km - other.east_km, one.north_km - other.north_km)

    def minutes(self, one: Place, other: Place) -> float:
        """Minutes on the road."""
        if one == other:
            return 0.0
        for names in ((one.name, other.name), (other.name, one.name)):
            if self.table is not None and names in self.table:
                return self.table[names]
        if None in (one.east_km, one.north_km, other.east_km, other.north_km):
            return self.unknown_min
        return self.km(one, other) / self.speed_kmh * 60


@record(kw_only=True)
class PlanProblem:
    """What is to be planned. first: the first day on which anybody can go; last: the last that is looked at;
    slack_days: working days kept free before a deadline; grid_min: visits begin at whole multiples of so many minutes,
    as occupiers are told, 0 for any."""

    visits: tuple[WantedVisit, ...]
    inspectors: tuple[Inspector, ...]
    first: date
    last: date
    keys: tuple[Key, ...] = ()
    travel: Travel = Travel()
    slack_days: int = 1
    grid_min: float = 0.0

    @property
    def single_keys(self) -> frozenset[str]:
        """Ids of the keys that one inspector a day can have."""
        return frozenset(key.id for key in self.keys if not key.many)

    def days(self) -> Iterator[date]:
        """Every day that is looked at."""
        for number in range((self.last - self.first).days + 1):
            yield self.first + timedelta(days=number)


Task = Literal["visit", "fetch key", "return key"]


@record
class Stop:
    """One stop of a day. id: of the visit or the key; begins, ends: minutes since midnight."""

    task: Task
    id: str
    begins: float
    ends: float


@record
class DayRoute:
    """An inspector's day: leaves home, stops in order, is home again."""

    inspector: str
    day: date
    leaves: float
    stops: tuple[Stop, ...]
    back: float

    @property
    def visits(self) -> tuple[str, ...]:
        """Ids of the visits, in order."""
        return tuple(stop.id for stop in self.stops if stop.task == "visit")


@record
class Left:
    """A visit that has no place in the plan, and why."""

    visit_id: str
    why: str


@record
class VisitPlan:
    """Days, and what does not fit."""

    routes: tuple[DayRoute, ...]
    left: tuple[Left, ...] = ()


def works_on(inspector: Inspector, day: date) -> bool:
    """Does an inspector work that day?"""
    usual = day.weekday() in inspector.weekdays or day in inspector.extra_days
    return usual and day not in inspector.days_off


def latest_day(visit: WantedVisit, slack_days: int) -> date | None:
    """The last day on which a visit may be planned: so many working days (Monday to Friday) before its deadline."""
    if visit.last_day is None:
        return None
    day, left = visit.last_day, slack_days
    while left > 0:
        day -= timedelta(days=1)
        left -= day.weekday() < 5
    return day


def may_be_on(problem: PlanProblem, visit: WantedVisit, inspector: Inspector, day: date) -> bool:
    """Can a visit be on that day of that inspector at all, whatever else is on it?"""
    if not problem.first <= day <= problem.last or not works_on(inspector, day):
        return False
    if visit.pin is not None and (visit.pin.inspector, visit.pin.day) != (inspector.id, day):
        return False
    latest = latest_day(visit, problem.slack_days)
    # What was put there by hand may use the slack, never the days after the deadline.
    if latest is not None and day > (latest if visit.pin is None else visit.last_day or latest):
        return False
    return visit.windows is None or any(
        window.day == day and window.until_min - window.from_min >= visit.minutes - TOLERANCE
        for window in visit.windows
    )


def timed(problem: PlanProblem, inspector: Inspector, day: date, visits: Sequence[WantedVisit]) -> DayRoute | None:
    """A day with those visits in that order, each as early as it can be; None where they do not fit.

    Keys are fetched on the way to the first visit that needs them and brought back after the last.
    """
    if len(visits) > inspector.most_visits or not all(may_be_on(problem, v, inspector, day) for v in visits):
        return None
    keys = {key.id: key for key in problem.keys}
    if any(visit.key and visit.key not in keys for visit in visits):
        return None
    stops: list[Stop] = []
    places: list[Place] = []
    here, now = inspector.home, inspector.start_on(day)
    held: set[str] = set()
    for at, visit in enumerate(visits):
        if visit.key and visit.key not in held:
            key = keys[visit.key]
            begins = max(now + problem.travel.minutes(here, key.place), key.from_min)
            here, now = key.place, begins + key.handling_min
            stops.append(Stop("fetch key", key.id, begins, now))
            places.append(here)
            held.add(key.id)
            if now > key.until_min + TOLERANCE:
                return None
        arrives = now + problem.travel.minutes(here, visit.place)
        start = _begins(visit, day, arrives, problem.grid_min)
        if start is None:
            return None
        here, now = visit.place, start + visit.minutes
        stops.append(Stop("visit", visit.id, start, now))
        places.append(here)
        still = {later.key for later in visits[at + 1 :]}
        for key_id in sorted(held - still):
            key = keys[key_id]
            begins = max(now + problem.travel.minutes(here, key.place), key.from_min)
            here, now = key.place, begins + key.handling_min
            stops.append(Stop("return key", key.id, begins, now))
            places.append(here)
            held.discard(key_id)
            if now > key.until_min + TOLERANCE:
                return None
    if not stops:
        return None
    # Nobody leaves home to wait at a door.
    leaves = stops[0].begins - problem.travel.minutes(inspector.home, places[0])
    back = now + problem.travel.minutes(here, inspector.home)
    if back > inspector.end_min + TOLERANCE or back - leaves > inspector.most_minutes + TOLERANCE:
        return None
    return DayRoute(inspector.id, day, leaves, tuple(stops), back)


def _begins(visit: WantedVisit, day: date, arrives: float, grid_min: float) -> float | None:
    """When a visit begins for somebody who arrives then; None where that is too late."""

    def on_grid(minute: float) -> float:
        return ceil(minute / grid_min - TOLERANCE) * grid_min if grid_min else minute

    pinned = visit.pin.start_min if visit.pin is not None else None
    if pinned is not None:
        if arrives > pinned + TOLERANCE:
            return None
        arrives = pinned
    else:
        arrives = on_grid(arrives)
    if visit.windows is None:
        return arrives
    for window in sorted(visit.windows, key=lambda window: window.from_min):
        start = max(arrives, window.from_min if pinned is not None else on_grid(window.from_min))
        if window.day == day and start + visit.minutes <= window.until_min + TOLERANCE:
            return start if pinned is None or start == pinned else None
    return None


@record
class PlanCost:
    """What a plan costs: visits that are left, days of somebody's work, kilometres, minutes on the way or waiting."""

    left: int
    days: int
    km: float
    idle_min: float


def cost(problem: PlanProblem, plan: VisitPlan) -> PlanCost:
    """What a plan costs; compared in the order of its parts, less is better."""
    visits = {visit.id: visit for visit in problem.visits}
    keys = {key.id: key for key in problem.keys}
    homes = {inspector.id: inspector.home for inspector in problem.inspectors}
    km = idle = 0.0
    for route in plan.routes:
        places = [visits[s.id].place if s.task == "visit" else keys[s.id].place for s in route.stops]
        way = [homes[route.inspector], *places, homes[route.inspector]]
        km += sum(problem.travel.km(one, other) for one, other in pairwise(way))
        idle += route.back - route.leaves - sum(visits[visit].minutes for visit in route.visits)
    return PlanCost(len(plan.left), len(plan.routes), km, idle)
