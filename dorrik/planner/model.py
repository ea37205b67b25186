"""The portfolio as the solver takes it: each inspector's day is a vehicle, each unit a client to visit or to leave.

Time runs on from the first day, in tenths of a minute. Which units a day can have at all is told by the way to them:
days that can have the same ones share a matrix (`_Ways`), in which the others are out of reach. A unit with few windows
is offered once for each of them instead, of which the solver takes one.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from itertools import pairwise
from math import ceil
from typing import Any

import numpy as np
import pyvrp
from numpy.typing import NDArray

from dorrik.core.work.visit_plan import Inspector, Key, Place, PlanProblem, Window, latest_day
from dorrik.planner.units import Unit, open_days, shortest_day

#: Tenths of a minute, and of a kilometre.
SCALE = 10
_DAY = 24 * 60 * SCALE
#: What leaving a visit costs, and what a day costs: no way is worth either. Larger than they need be they hide the way
#: from the solver, which looks at costs in proportion.
_LEFT, _A_DAY = 10**6, 5_000
#: Out of reach.
_FAR = 10**7
#: A unit with so many windows at most is offered once for each.
_FEW = 8
#: Matrices of so many numbers in all are made at most: beyond that windows are offered one by one.
_MOST_NUMBERS = 40_000_000


@dataclass(frozen=True, slots=True)
class Model:
    """The solver's data, with the inspector and day of each of its vehicles and the unit of each of its clients."""

    data: pyvrp.ProblemData
    days: tuple[tuple[Inspector, date], ...]
    units: tuple[Unit, ...]


def build(problem: PlanProblem, wanted: Sequence[Unit]) -> Model:
    """The model of those units, each of which has a day on which it fits alone."""
    days = tuple(open_days(problem))
    ways = _ways(problem, wanted)
    whole = [_whole_days(problem, unit, days) for unit in wanted]
    kinds: dict[frozenset[int], int] = {}
    for inspector, day in days:
        kinds.setdefault(_kind(inspector, day, whole), len(kinds))
    if len(kinds) * len(ways.minutes) ** 2 > _MOST_NUMBERS:
        whole = [None for _ in wanted]
        kinds = {}
        for inspector, day in days:
            kinds.setdefault(_kind(inspector, day, whole), len(kinds))
    model = pyvrp.Model()
    homes = {inspector.id: model.add_depot(model.add_location(0, 0)) for inspector in problem.inspectors}
    places = [model.add_location(0, 0) for _ in wanted]
    profiles = {kind: model.add_profile() for kind in kinds}
    for number, (inspector, day) in enumerate(days):
        begins = (day - problem.first).days * _DAY
        model.add_vehicle_type(
            num_available=1,
            capacity=[inspector.most_visits],
            start_depot=homes[inspector.id],
            end_depot=homes[inspector.id],
            # What can be done soon is done soon.
            fixed_cost=_A_DAY + number,
            tw_early=begins + round(inspector.start_on(day) * SCALE),
            tw_late=begins + round(inspector.end_min * SCALE),
            shift_duration=round(inspector.most_minutes * SCALE),
            profile=profiles[_kind(inspector, day, whole)],
        )
    clients = [unit for unit, place, own in zip(wanted, places, whole, strict=True)
               for _ in range(_add(model, problem, unit, place, own))]  # fmt: skip
    matrices = [ways.of(kind, whole) for kind in kinds]
    data = pyvrp.ProblemData(
        locations=model.locations,
        clients=model.clients,
        depots=model.depots,
        vehicle_types=model.vehicle_types,
        distance_matrices=[distance for distance, _ in matrices],  # type: ignore[misc]
        duration_matrices=[duration for _, duration in matrices],  # type: ignore[misc]
        groups=model.groups,
    )
    return Model(data, days, tuple(clients))


def _kind(inspector: Inspector, day: date, whole: Sequence[frozenset[tuple[str, date]] | None]) -> frozenset[int]:
    """Which days are alike: those that can have the same units. The way does not depend on whose day it is."""
    return frozenset(at for at, own in enumerate(whole) if own is not None and (inspector.id, day) in own)


def _whole_days(
    problem: PlanProblem, unit: Unit, days: Sequence[tuple[Inspector, date]]
) -> frozenset[tuple[str, date]] | None:
    """The days on which a unit can be, for one that is told by its days; None for one that is offered by windows."""
    if len(unit.visits) == 1 and not _pinned(unit):
        windows = unit.visits[0].windows
        if windows is None or len(windows) <= _FEW:
            return None
    return frozenset(
        (inspector.id, day) for inspector, day in days if shortest_day(problem, inspector, day, [unit]) is not None
    )


def _pinned(unit: Unit) -> bool:
    return any(visit.pin is not None for visit in unit.visits)


def _add(
    model: pyvrp.Model, problem: PlanProblem, unit: Unit, place: Any, own: frozenset[tuple[str, date]] | None
) -> int:
    """Offer a unit; how many clients stand for it."""
    inside = sum(problem.travel.minutes(one.place, other.place) for one, other in pairwise(unit.visits))
    windows = _windows(problem, unit, own)
    # Of several the solver takes one.
    group = model.add_client_group(required=False) if len(windows) > 1 else None
    for early, late in windows:
        model.add_client(
            place,
            delivery=[len(unit.visits)],
            service_duration=ceil((unit.minutes + inside) * SCALE),
            tw_early=early,
            tw_late=late,
            prize=_LEFT * len(unit.visits),
            required=False,
            group=group,
        )
    return len(windows)


def _windows(problem: PlanProblem, unit: Unit, own: frozenset[tuple[str, date]] | None) -> list[tuple[int, int]]:
    """When a unit can begin: first and last tenth of a minute of each time that is offered."""
    first = unit.visits[0]
    latest = min(
        [problem.last, *(day for v in unit.visits if (day := latest_day(v, 0 if v.pin else problem.slack_days)))]
    )
    whole = [(0, (latest - problem.first).days * _DAY + _DAY)]
    pin = first.pin
    if pin is not None and pin.start_min is not None:
        begins = (pin.day - problem.first).days * _DAY + ceil(pin.start_min * SCALE)
        return [(begins, begins)]
    if own is not None or first.windows is None:
        return whole
    return [_tenths(problem, unit, window) for window in first.windows if _usable(problem, unit, window, latest)]


def _usable(problem: PlanProblem, unit: Unit, window: Window, latest: date) -> bool:
    return problem.first <= window.day <= latest and window.until_min - window.from_min >= unit.minutes


def _tenths(problem: PlanProblem, unit: Unit, window: Window) -> tuple[int, int]:
    begins = (window.day - problem.first).days * _DAY
    early = begins + ceil(window.from_min * SCALE)
    return early, max(early, begins + int((window.until_min - unit.minutes) * SCALE))


@dataclass(frozen=True, slots=True)
class _Ways:
    """The way from each home or unit to each: homes first. In tenths, keys on the way included."""

    homes: int
    minutes: NDArray[np.int64]
    km: NDArray[np.int64]

    def of(
        self, here: frozenset[int], whole: Sequence[frozenset[tuple[str, date]] | None]
    ) -> tuple[NDArray[np.int64], NDArray[np.int64]]:
        """Distances and durations of a day that has those units of the ones that are told by their days."""
        away = [self.homes + at for at, own in enumerate(whole) if own is not None and at not in here]
        km, minutes = self.km.copy(), self.minutes.copy()
        for matrix in (km, minutes):
            matrix[away, :] = _FAR
            matrix[:, away] = _FAR
            np.fill_diagonal(matrix, 0)
        return km, minutes


def _ways(problem: PlanProblem, wanted: Sequence[Unit]) -> _Ways:
    keys = {key.id: key for key in problem.keys}
    ends: list[tuple[Place, Place, Key | None, Key | None]] = [
        (inspector.home, inspector.home, None, None) for inspector in problem.inspectors
    ]
    for unit in wanted:
        first, last = unit.visits[0], unit.visits[-1]
        ends.append((first.place, last.place, keys.get(first.key), keys.get(last.key)))
    minutes = np.zeros((len(ends), len(ends)), dtype=np.int64)
    km = np.zeros_like(minutes)
    for at, (_, out, _, holds) in enumerate(ends):
        for to, (into, _, needs, _) in enumerate(ends):
            if at == to:
                continue
            way, handling = [out, into], 0.0
            if (holds.id if holds else "") != (needs.id if needs else ""):
                between = [key for key in (holds, needs) if key is not None]
                way[1:1] = [key.place for key in between]
                handling = sum(key.handling_min for key in between)
            legs = list(pairwise(way))
            minutes[at, to] = ceil((sum(problem.travel.minutes(*leg) for leg in legs) + handling) * SCALE)
            km[at, to] = ceil(sum(problem.travel.km(*leg) for leg in legs) * SCALE)
    return _Ways(len(problem.inspectors), minutes, km)
