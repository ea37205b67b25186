"""Planning visits: how long 500 take, and what the solver saves against packing day after day with neighbours
(`planning.spread` of the core, which knows no way between visits). Aim: 500 visits within 10 s on two cores, and
planned again within 2 s after one is cancelled.

Portfolios are random: homes in clusters, a quarter of them with somebody in on one day of the week alone, two
inspectors, two visits a day at most.
"""

import random
import statistics
import time
from dataclasses import replace
from datetime import date, timedelta
from itertools import pairwise

from dorrik.core.work import planning
from dorrik.core.work.plan_rules import broken
from dorrik.core.work.visit_plan import (
    Inspector,
    Place,
    PlanProblem,
    WantedVisit,
    Window,
    cost,
    latest_day,
)
from dorrik.planner.replan import replan
from dorrik.planner.solver import solve

MONDAY = date(2026, 11, 30)
INSPECTORS = (
    Inspector(id="ruth", home=Place("ruth", 0, 0)),
    Inspector(id="idris", home=Place("idris", 6, -4)),
)


def portfolio(count: int, days: int, seed: int) -> PlanProblem:
    """So many visits with a deadline so many days ahead."""
    chance = random.Random(seed)
    clusters = [(chance.uniform(-15, 15), chance.uniform(-15, 15)) for _ in range(max(3, count // 12))]
    visits = []
    for number in range(count):
        east, north = chance.choice(clusters)
        windows = None
        if chance.random() < 0.25:
            weekday = chance.randrange(5)
            windows = tuple(Window(MONDAY + timedelta(days=d), 480, 1020) for d in range(weekday, days + 1, 7))
        visits.append(
            WantedVisit(
                id=f"v{number}",
                minutes=chance.choice([120, 150, 165, 180, 195, 210]),
                place=Place(f"h{number}", east + chance.gauss(0, 0.6), north + chance.gauss(0, 0.6)),
                windows=windows,
                last_day=MONDAY + timedelta(days=days),
            )
        )
    last = MONDAY + timedelta(days=days)
    return PlanProblem(visits=tuple(visits), inspectors=INSPECTORS, first=MONDAY, last=last)


def _packed(problem: PlanProblem) -> tuple[int, int, float]:
    """Days, visits left and kilometres of packing day after day."""
    places = {visit.id: visit.place for visit in problem.visits}
    homes = {inspector.id: inspector.home for inspector in problem.inspectors}
    wanted = [
        planning.PlannedVisit(
            visit.id, visit.minutes, visit.place.east_km or 0.0, visit.place.north_km or 0.0,
            None if visit.windows is None else frozenset(window.day for window in visit.windows),
        )
        for visit in problem.visits
    ]  # fmt: skip
    deadline = problem.visits[0].last_day or problem.last
    spread = planning.spread(wanted, [inspector.id for inspector in problem.inspectors], problem.first, deadline)
    km = 0.0
    for day in spread.days:
        way = [homes[day.inspector], *(places[visit.name] for visit in day.visits), homes[day.inspector]]
        km += sum(problem.travel.km(one, other) for one, other in pairwise(way))
    return len(spread.days), len(spread.left_over), km


def run() -> None:
    """Print the ratios over portfolios of a landlord's size, and the time of a large one."""
    days, kms, left = [], [], []
    for seed in range(12):
        problem = portfolio(18 + 4 * seed, 28 + 3 * seed, seed)
        packed, plan = _packed(problem), solve(problem, 2.0)
        minutes = cost(problem, plan)
        assert broken(problem, plan) == ()
        days.append(minutes.days / packed[0])
        kms.append(minutes.km / packed[2])
        left.append((minutes.left, packed[1]))
    print(
        f"planner             12 portfolios of 18 to 62 visits, solver against packing: "
        f"days {statistics.mean(days):.2f}, "
        f"km {statistics.mean(kms):.2f} ({min(kms):.2f} to {max(kms):.2f}), left {sum(one for one, _ in left)} "
        f"against {sum(other for _, other in left)}"
    )
    problem = portfolio(500, 270, 1)
    assert latest_day(problem.visits[0], problem.slack_days) is not None
    began = time.perf_counter()
    plan = solve(problem, 6.0)
    took = time.perf_counter() - began
    minutes = cost(problem, plan)
    print(
        f"planner             500 visits: {took:.1f} s, {minutes.days} days, {minutes.km:.0f} km, {minutes.left} left"
    )
    gone = replace(problem, visits=problem.visits[1:])
    began = time.perf_counter()
    again = replan(gone, plan)
    took = time.perf_counter() - began
    assert broken(gone, again.plan) == ()
    print(f"planner             one cancelled: {took:.1f} s, {len(again.moved)} of the others moved")
    ill = plan.routes[20]
    away = tuple(
        replace(who, days_off=frozenset({ill.day})) if who.id == ill.inspector else who for who in problem.inspectors
    )
    began = time.perf_counter()
    again = replan(replace(problem, inspectors=away), plan)
    took = time.perf_counter() - began
    print(f"planner             a day off: {took:.1f} s, {len(again.moved)} moved, {len(again.plan.left)} left")
