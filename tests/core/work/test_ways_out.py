"""Where a visit does not fit: each way out gives way in one place, and none that is there is missed."""

from dataclasses import replace
from datetime import date, timedelta
from itertools import permutations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dorrik.core.work.plan_rules import broken
from dorrik.core.work.visit_plan import (
    Inspector,
    Left,
    Pin,
    Place,
    PlanProblem,
    VisitPlan,
    WantedVisit,
    Window,
    may_be_on,
    timed,
)
from dorrik.core.work.ways_out import WayOutPrices, ways_out

MONDAY = date(2026, 11, 30)
THURSDAY = MONDAY + timedelta(days=3)
TOWN = Place("town", 0, 0)
IDRIS = Inspector(id="idris", home=TOWN)


def visit(name, minutes, *days, **more):
    windows = tuple(Window(day, 0, 24 * 60) for day in days) or None
    return WantedVisit(id=name, minutes=minutes, place=TOWN, windows=windows, **more)


def planned(problem, *routes):
    """A plan by what is on which day; the rest is left."""
    visits = {one.id: one for one in problem.visits}
    made = tuple(
        timed(problem, next(i for i in problem.inspectors if i.id == who), day, [visits[name] for name in names])
        for who, day, *names in routes
    )
    assert None not in made
    placed = {name for _, _, *names in routes for name in names}
    return VisitPlan(made, tuple(Left(name, "full") for name in visits if name not in placed))


@pytest.fixture
def ropery():
    """Its tenant is in on Mondays alone, and the only Monday has six hours of other work already."""
    problem = PlanProblem(
        visits=(visit("Ropery", 150, MONDAY), visit("Quay Steps", 200), visit("Slip Road", 210, MONDAY)),
        inspectors=(replace(IDRIS, most_visits=3, most_minutes=600),), first=MONDAY, last=MONDAY + timedelta(days=4),
    )  # fmt: skip
    return problem, planned(problem, ("idris", MONDAY, "Quay Steps", "Slip Road"))


def test_the_ways_out_are_priced_and_the_cheapest_comes_first(ropery):
    problem, plan = ropery
    # 560 minutes of visits in a day from 8 to 17: 20 minutes too many.
    dear = WayOutPrices(early_hour=30, moved_visit=40, extra_day=300)
    found = ways_out(problem, plan, "Ropery", dear, [Inspector(id="guest", home=TOWN)])
    assert [(way.kind, way.price) for way in found] == [
        ("earlier start", 15), ("move one visit", 40), ("another inspector", 300),
    ]  # fmt: skip
    earlier, move, guest = found
    assert (earlier.earlier_min, earlier.day, earlier.routes[0].leaves) == (30, MONDAY, 450)
    assert (move.moved, move.routes[1].day) == ("Quay Steps", MONDAY + timedelta(days=1))
    assert (guest.inspector, guest.day) == ("guest", MONDAY)
    cheap = ways_out(problem, plan, "Ropery", replace(dear, moved_visit=5))
    assert [way.kind for way in cheap] == ["move one visit", "earlier start"]


def test_what_was_put_there_by_hand_is_not_moved(ropery):
    problem, plan = ropery
    problem = replace(
        problem, visits=tuple(replace(one, pin=Pin("idris", MONDAY)) if one.id == "Quay Steps" else one
                              for one in problem.visits),
    )  # fmt: skip
    assert "move one visit" not in {way.kind for way in ways_out(problem, plan, "Ropery", WayOutPrices())}


def test_where_nothing_helps_nothing_is_offered():
    problem = PlanProblem(visits=(visit("far", 700),), inspectors=(IDRIS,), first=MONDAY, last=THURSDAY)
    assert ways_out(problem, planned(problem), "far", WayOutPrices(), [Inspector(id="guest", home=TOWN)]) == ()


@st.composite
def full_plans(draw):
    """Some visits, put one after the other wherever they fit first; at least one is left."""
    days = [MONDAY + timedelta(days=n) for n in range(3)]
    visits = tuple(
        visit(f"v{n}", draw(st.integers(100, 330)), *draw(st.lists(st.sampled_from(days), max_size=2, unique=True)))
        for n in range(draw(st.integers(3, 7)))
    )
    problem = PlanProblem(visits=visits, inspectors=(IDRIS,), first=MONDAY, last=days[-1])
    here = {day: [] for day in days}
    for one in visits:
        for day in days:
            if timed(problem, IDRIS, day, [*here[day], one]):
                here[day].append(one)
                break
    plan = planned(problem, *(("idris", day, *(one.id for one in there)) for day, there in here.items() if there))
    return problem, plan


def fits(problem, inspector, day, visits):
    return any(timed(problem, inspector, day, order) for order in permutations(visits))


@given(full_plans())
def test_every_way_out_leads_to_a_plan_that_can_be_kept_and_none_is_missed(given_plan):
    problem, plan = given_plan
    visits = {one.id: one for one in problem.visits}
    here = {route.day: list(route.visits) for route in plan.routes}
    for left in plan.left:
        found = {way.kind: way for way in ways_out(problem, plan, left.visit_id, WayOutPrices())}
        one = visits[left.visit_id]
        movable = any(
            other != left.visit_id
            and fits(problem, IDRIS, day, [visits[n] for n in names if n != other] + [one])
            and any(
                fits(problem, IDRIS, to, [*(visits[n] for n in here.get(to, ())), visits[other]])
                for to in problem.days()
                if to != day and may_be_on(problem, visits[other], IDRIS, to)
            )
            for day, names in here.items()
            for other in names
        )
        assert ("move one visit" in found) is movable
        early = replace(IDRIS, start_min=IDRIS.start_min - 90)
        sooner = any(
            fits(problem, early, day, [*(visits[n] for n in here.get(day, ())), one]) for day in problem.days()
        )
        assert ("earlier start" in found) is sooner
        for way in found.values():
            changed = {(route.inspector, route.day) for route in way.routes}
            routes = (*(r for r in plan.routes if (r.inspector, r.day) not in changed), *way.routes)
            after = VisitPlan(routes, tuple(other for other in plan.left if other.visit_id != left.visit_id))
            told = broken(problem, after)
            # Who begins earlier breaks the usual hours of that one day, and nothing else.
            assert {rule.rule for rule in told} <= ({"overtime"} if way.kind == "earlier start" else set())
            assert len(told) <= 1
