"""Finding a plan: the solver proposes days, each is timed anew to the minute, and what does not hold is placed again or
left with its reason. No plan leaves here that breaks a hard rule.
"""

import time
import warnings
from collections.abc import Callable, Iterable, Mapping, Sequence

import pyvrp
from pyvrp.exceptions import PenaltyBoundWarning

from dorrik.core.work.visit_plan import Left, PlanProblem, VisitPlan
from dorrik.planner.model import build
from dorrik.planner.placing import Placing, Slot
from dorrik.planner.units import Unit, open_days, shortest_day, units, why_left

#: Told from time to time: how much of the time is over (of 1). Returns whether to stop.
Progress = Callable[[float], bool]

#: So much of the time without anything better ends the search.
_PATIENCE = 0.4


def solve(problem: PlanProblem, seconds: float = 5.0, progress: Progress | None = None, seed: int = 0) -> VisitPlan:
    """A plan of all visits that fit. seconds: so long is looked for a better one; stopped earlier, the best so far is
    taken. Fewest visits left first, then fewest days, then the shortest way."""
    wanted = units(problem)
    days = list(open_days(problem))
    fits = [unit for unit in wanted if any(shortest_day(problem, who, day, [unit]) for who, day in days)]
    placed = _proposed(problem, fits, seconds, progress, seed) if fits else {}
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


def _proposed(
    problem: PlanProblem, fits: list[Unit], seconds: float, progress: Progress | None, seed: int
) -> dict[Slot, list[Unit]]:
    """What the solver proposes: the units of each day."""
    model = build(problem, fits)
    with warnings.catch_warnings():
        # That it struggles where hardly anything fits is no news: what does not hold is placed again.
        warnings.simplefilter("ignore", PenaltyBoundWarning)
        result = pyvrp.solve(model.data, stop=_Stop(seconds, progress), seed=seed, collect_stats=False, display=False)
    placed: dict[Slot, list[Unit]] = {}
    for route in result.best.routes():
        inspector, day = model.days[route.vehicle_type()]
        placed[inspector.id, day] = [model.units[visit.idx] for visit in route if visit.is_client()]
    return placed


def _plan(problem: PlanProblem, wanted: Iterable[Unit], placed: Mapping[Slot, Sequence[Unit]]) -> VisitPlan:
    """Days as they are when they are timed; what does not hold is placed again, the hardest to place first."""
    placing = Placing(problem)
    for slot, some in sorted(placed.items(), key=lambda item: (item[0][1], item[0][0])):
        for unit in some:
            placing.put(slot, unit)
    settled = {unit.id for some in placing.here.values() for unit in some}
    again = sorted(
        (unit for unit in wanted if unit.id not in settled), key=lambda unit: (_room(problem, unit), -unit.minutes)
    )
    left = [unit for unit in again if not placing.put_anywhere(unit)]
    return placing.plan(Left(visit.id, why_left(problem, unit)) for unit in left for visit in unit.visits)


def _room(problem: PlanProblem, unit: Unit) -> int:
    """On how many days a unit can be."""
    return sum(shortest_day(problem, who, day, [unit]) is not None for who, day in open_days(problem))
