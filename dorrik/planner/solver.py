"""Finding a plan: the solver proposes days, each is timed anew to the minute, and what does not hold is placed again or
left with its reason. No plan leaves here that breaks a hard rule.
"""

import time
import warnings
from collections.abc import Callable, Iterable
from datetime import date

import pyvrp
from pyvrp.exceptions import PenaltyBoundWarning

from dorrik.core.work.plan_rules import broken
from dorrik.core.work.visit_plan import DayRoute, Inspector, Left, PlanProblem, VisitPlan
from dorrik.planner.model import build
from dorrik.planner.units import Unit, open_days, shortest_day, units, why_left

#: Told from time to time: how much of the time is over (of 1). Returns whether to stop.
Progress = Callable[[float], bool]

#: So much of the time without anything better ends the search.
_PATIENCE = 0.4

_Days = dict[tuple[str, date], list[Unit]]


def solve(problem: PlanProblem, seconds: float = 5.0, progress: Progress | None = None, seed: int = 0) -> VisitPlan:
    """A plan of all visits that fit. seconds: so long is looked for a better one; stopped earlier, the best so far is
    taken. Fewest visits left first, then fewest days, then the shortest way."""
    wanted = units(problem)
    days = list(open_days(problem))
    fits = [unit for unit in wanted if any(shortest_day(problem, who, day, [unit]) for who, day in days)]
    placed: _Days = _proposed(problem, fits, seconds, progress, seed) if fits else {}
    return _plan(problem, wanted, placed)


class _Stop:
    """Stops the solver when its time is over, when it has found nothing better for a good part of it, or when somebody
    says so."""

    def __init__(self, seconds: float, progress: Progress | None) -> None:
        self._began = self._better = time.perf_counter()
        self._seconds, self._progress = seconds, progress
        self._best: int | None = None

    def __call__(self, best_cost: int) -> bool:
        now = time.perf_counter()
        if self._best is None or best_cost < self._best:
            self._best, self._better = best_cost, now
        gone = now - self._began
        stop = self._progress is not None and self._progress(min(1.0, gone / self._seconds))
        return stop or gone >= self._seconds or now - self._better >= self._seconds * _PATIENCE


def _proposed(problem: PlanProblem, fits: list[Unit], seconds: float, progress: Progress | None, seed: int) -> _Days:
    """What the solver proposes: the units of each day."""
    model = build(problem, fits)
    with warnings.catch_warnings():
        # That it struggles where hardly anything fits is no news: what does not hold is placed again.
        warnings.simplefilter("ignore", PenaltyBoundWarning)
        result = pyvrp.solve(model.data, stop=_Stop(seconds, progress), seed=seed, collect_stats=False, display=False)
    placed: _Days = {}
    for route in result.best.routes():
        inspector, day = model.days[route.vehicle_type()]
        placed[inspector.id, day] = [model.units[visit.idx] for visit in route if visit.is_client()]
    return placed


def _plan(problem: PlanProblem, wanted: Iterable[Unit], placed: _Days) -> VisitPlan:
    """Days as they are when they are timed; what does not hold is placed again, the hardest to place first."""
    by_id = {inspector.id: inspector for inspector in problem.inspectors}
    routes: dict[tuple[str, date], DayRoute] = {}
    here: _Days = {}
    for (who, day), some in sorted(placed.items(), key=lambda item: (item[0][1], item[0][0])):
        for unit in some:
            _put(problem, by_id[who], day, unit, here, routes)
    settled = {unit.id for some in here.values() for unit in some}
    again = sorted((u for u in wanted if u.id not in settled), key=lambda u: (_room(problem, u), -u.minutes))
    left = [unit for unit in again if not _put_anywhere(problem, unit, here, routes)]
    told = tuple(Left(visit.id, why_left(problem, unit)) for unit in left for visit in unit.visits)
    return _sound(problem, VisitPlan(tuple(routes.values()), told))


def _put(
    problem: PlanProblem, inspector: Inspector, day: date, unit: Unit, here: _Days,
    routes: dict[tuple[str, date], DayRoute],
) -> bool:  # fmt: skip
    """Put a unit on a day beside what is there; False where it does not fit."""
    at = inspector.id, day
    if _key_elsewhere(unit, at, here):
        return False
    route = shortest_day(problem, inspector, day, [*here.get(at, ()), unit])
    if route is None:
        return False
    here.setdefault(at, []).append(unit)
    routes[at] = route
    return True


def _key_elsewhere(unit: Unit, at: tuple[str, date], here: _Days) -> bool:
    """Is a key that it needs with somebody else that day?"""
    keys = {visit.key for visit in unit.visits if visit.key}
    return bool(keys) and any(
        visit.key in keys
        for (who, day), some in here.items()
        if day == at[1] and who != at[0]
        for other in some
        for visit in other.visits
    )


def _room(problem: PlanProblem, unit: Unit) -> int:
    """On how many days a unit can be."""
    return sum(shortest_day(problem, who, day, [unit]) is not None for who, day in open_days(problem))


def _put_anywhere(problem: PlanProblem, unit: Unit, here: _Days, routes: dict[tuple[str, date], DayRoute]) -> bool:
    """Put a unit where it makes the least work: beside others before a day of its own."""
    best: tuple[bool, float, date, Inspector] | None = None
    for inspector, day in open_days(problem):
        at = inspector.id, day
        if _key_elsewhere(unit, at, here):
            continue
        route = shortest_day(problem, inspector, day, [*here.get(at, ()), unit])
        if route is None:
            continue
        before = routes[at].back - routes[at].leaves if at in routes else 0.0
        found = (at not in routes, route.back - route.leaves - before, day, inspector)
        if best is None or found[:3] < best[:3]:
            best = found
    return best is not None and _put(problem, best[3], best[2], unit, here, routes)


def _sound(problem: PlanProblem, plan: VisitPlan) -> VisitPlan:
    """The plan without whatever breaks a hard rule: those days are left, and told."""
    while wrong := broken(problem, plan):
        names = {visit for one in wrong for visit in one.visits}
        kept = tuple(route for route in plan.routes if not names & set(route.visits))
        if kept == plan.routes:
            raise AssertionError(f"A plan that cannot be mended: {wrong[0]}")
        gone = (visit for route in plan.routes if route not in kept for visit in route.visits)
        plan = VisitPlan(kept, (*plan.left, *(Left(visit, wrong[0].says) for visit in gone)))
    return plan
