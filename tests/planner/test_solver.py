"""The planner against every answer there is on small portfolios, and hard rules on any portfolio."""

from dataclasses import replace
from datetime import date, timedelta
from itertools import product

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from dorrik.core.work.plan_rules import broken
from dorrik.core.work.visit_plan import (
    Inspector,
    Key,
    Pin,
    Place,
    PlanProblem,
    Travel,
    VisitPlan,
    WantedVisit,
    Window,
    cost,
)
from dorrik.planner.solver import solve
from dorrik.planner.units import open_days, shortest_day, units
from tests.examples import examples

MONDAY = date(2026, 11, 30)
TOWN = Place("town", 0, 0)
RUTH, IDRIS = Inspector(id="ruth", home=TOWN), Inspector(id="idris", home=Place("idris", 4, 3))
SHORT = 0.25


def visit(name, minutes=180, east=1.0, north=0.0, **more):
    return WantedVisit(id=name, minutes=minutes, place=Place(name, east, north), **more)


def problem(*visits, inspectors=(RUTH,), days=4, **more):
    return PlanProblem(visits=visits, inspectors=inspectors, first=MONDAY, last=MONDAY + timedelta(days=days), **more)


def reasons(plan):
    return {left.visit_id: left.why for left in plan.left}


def on(day, start=0, end=24 * 60):
    return Window(MONDAY + timedelta(days=day), start, end)


def every_plan(asked):
    """The least that a plan can cost, by trying every day for every visit."""
    wanted, days = units(asked), list(open_days(asked))
    best = None
    for choice in product(range(len(days) + 1), repeat=len(wanted)):
        routes = []
        for at, (inspector, day) in enumerate(days):
            some = [unit for unit, where in zip(wanted, choice, strict=True) if where == at]
            if some:
                routes.append(shortest_day(asked, inspector, day, some))
        if None in routes:
            continue
        left = sum(len(unit.visits) for unit, where in zip(wanted, choice, strict=True) if where == len(days))
        found = cost(asked, VisitPlan(tuple(routes)))
        told = (left, len(routes), found.km)
        if best is None or told < best:
            best = told
    return best


@st.composite
def small(draw):
    visits = tuple(
        visit(
            f"v{number}", draw(st.integers(90, 300)), draw(st.integers(-8, 8)), draw(st.integers(-8, 8)),
            windows=draw(
                st.none()
                | st.lists(
                    st.builds(on, st.integers(0, 1), st.sampled_from([480, 720]), st.just(1020)), max_size=2
                ).map(tuple)
            ),
            last_day=draw(st.none() | st.dates(MONDAY, MONDAY + timedelta(days=4))),
        )
        for number in range(draw(st.integers(1, 4)))
    )  # fmt: skip
    inspectors = draw(st.sampled_from([(RUTH,), (RUTH, IDRIS)]))
    return problem(*visits, inspectors=inspectors, days=1)


@settings(max_examples=examples(200))
@given(small())
def test_on_small_portfolios_it_finds_what_trying_everything_finds(asked):
    plan = solve(asked, SHORT)
    left, days, km = every_plan(asked)
    found = cost(asked, plan)
    assert broken(asked, plan) == ()
    assert (found.left, found.days) == (left, days)
    assert found.km <= km * 1.02 + 0.5


far = st.none() | st.floats(-20, 20)


@st.composite
def portfolios(draw):
    keys = (Key("k", Place("agent", 2, 2), 540, 960, many=draw(st.booleans())), Key("l", Place("shop", -3, 0)))
    count = draw(st.integers(1, 9))
    visits = tuple(
        WantedVisit(
            id=f"v{number}", minutes=draw(st.integers(30, 420)),
            place=draw(st.builds(Place, st.just(f"p{number}"), far, far)),
            windows=draw(st.none() | st.lists(
                st.builds(lambda day, start, length: on(day, start, start + length),
                          st.integers(-1, 9), st.integers(480, 900), st.integers(60, 540)), max_size=12).map(tuple)),
            last_day=draw(st.none() | st.dates(MONDAY - timedelta(days=2), MONDAY + timedelta(days=12))),
            key=draw(st.sampled_from(["", "", "k", "l"])),
            together=draw(st.sampled_from(["", "", "", "house"])),
            pin=draw(st.none() | st.none() | st.none() | st.builds(
                Pin, st.sampled_from(["ruth", "idris", "nobody"]), st.dates(MONDAY, MONDAY + timedelta(days=9)),
                st.none() | st.sampled_from([540.0, 600.0]))),
        )
        for number in range(count)
    )  # fmt: skip
    away = frozenset(draw(st.lists(st.dates(MONDAY, MONDAY + timedelta(days=9)), max_size=3)))
    asked_for = frozenset(draw(st.lists(st.dates(MONDAY, MONDAY + timedelta(days=9)), max_size=2)))
    sooner = tuple((MONDAY + timedelta(days=day), 60.0) for day in draw(st.lists(st.integers(0, 9), max_size=2)))
    ruth = replace(RUTH, days_off=away, extra_days=asked_for, earlier=sooner)
    inspectors = (ruth, replace(IDRIS, most_visits=3, most_minutes=540))
    return problem(
        *visits, inspectors=inspectors[: draw(st.integers(0, 2))], days=draw(st.integers(0, 9)), keys=keys,
        travel=Travel(speed_kmh=draw(st.integers(10, 60))), grid_min=draw(st.sampled_from([0.0, 5.0])),
    )  # fmt: skip


@settings(max_examples=examples(600))
@given(portfolios())
def test_no_plan_breaks_a_hard_rule_and_nothing_is_left_without_a_reason(asked):
    plan = solve(asked, 0.1)
    assert broken(asked, plan) == ()
    assert all(len(left.why) > 10 for left in plan.left)
    fixed = {visit.id for visit in asked.visits if visit.pin is not None}
    begins = [
        stop.begins for route in plan.routes for stop in route.stops if stop.task == "visit" and stop.id not in fixed
    ]
    assert not asked.grid_min or all(abs(minute / 5 - round(minute / 5)) < 1e-6 for minute in begins)


def test_neighbours_share_a_day():
    quay = [visit(f"quay {n}", 200, 6, n / 100) for n in range(2)]
    hill = [visit(f"hill {n}", 200, -6, n / 100) for n in range(2)]
    plan = solve(problem(*(one for pair in zip(quay, hill, strict=True) for one in pair)), SHORT)
    assert sorted(sorted(route.visits) for route in plan.routes) == [["hill 0", "hill 1"], ["quay 0", "quay 1"]]


def test_both_boards_of_a_house_are_one_day_and_what_was_moved_by_hand_stays():
    house = [visit("house", 150, together="pilot"), visit("shed", 120, together="pilot")]
    pinned = visit("kept", 180, pin=Pin("ruth", MONDAY + timedelta(days=2), 600))
    plan = solve(problem(*house, pinned), SHORT)
    assert {route.visits for route in plan.routes} == {("house", "shed"), ("kept",)}
    kept = next(route for route in plan.routes if route.visits == ("kept",))
    assert (kept.day, kept.stops[0].begins) == (MONDAY + timedelta(days=2), 600)


def test_one_key_is_with_one_of_two_inspectors():
    agent = (Key("k", Place("agent", 0, 1), 480, 1020),)
    visits = [visit(f"v{n}", 240, key="k", windows=(on(0),)) for n in range(3)]
    plan = solve(problem(*visits, inspectors=(RUTH, IDRIS), keys=agent), SHORT)
    # One visit fills a day with the way to the agent and back; the key is out with one of them.
    assert len(plan.routes) == 1 and len(plan.left) == 3 - len(plan.routes[0].visits)
    assert all("full" in why for why in reasons(plan).values())


@pytest.mark.parametrize(
    ("asked", "why"),
    [
        (problem(visit("v"), inspectors=()), "There is no inspector"),
        (problem(visit("v", last_day=MONDAY - timedelta(days=30))), "The last day for it was"),
        (problem(visit("v", windows=())), "Nobody can let anybody in"),
        (problem(visit("v", 700)), "more than any day has"),
        (problem(visit("v", windows=(on(0, 480, 540),))), "somebody lets in for 60 at most"),
        (problem(visit("v", windows=(on(5), on(6)))), "Nobody works on any day on which somebody can let in"),
        (problem(visit("v", key="k"), keys=(Key("k", TOWN, 1020, 1080),)), "Its key cannot be had early enough"),
        (problem(visit("v"), inspectors=(replace(RUTH, weekdays=frozenset()),)), "Nobody works"),
    ],
)  # fmt: skip
def test_what_cannot_be_planned_says_why(asked, why):
    plan = solve(asked, SHORT)
    assert plan.routes == () and why in reasons(plan)["v"]


def test_a_key_that_nobody_knows_is_told_and_stops_nothing():
    plan = solve(problem(visit("lost", key="none"), visit("found")), SHORT)
    assert [route.visits for route in plan.routes] == [("found",)]
    assert "key" in reasons(plan)["lost"]


def test_the_one_that_does_not_fit_is_the_one_that_has_no_other_day():
    mondays = [visit(name, 230, windows=(on(0),)) for name in ("a", "b", "ropery")]
    plan = solve(problem(*mondays, visit("free", 230)), SHORT)
    assert len(plan.left) == 1 and reasons(plan) == {
        plan.left[0].visit_id: "Every day on which somebody can be let in is full."
    }


def test_it_says_how_far_it_is_and_stops_when_it_is_told_to():
    said = []

    def progress(part):
        said.append(part)
        return len(said) > 3

    plan = solve(problem(*(visit(f"v{n}", east=n) for n in range(8)), days=20), 60, progress)
    assert len(said) == 4 and all(0 <= part <= 1 for part in said)
    assert broken(problem(*(visit(f"v{n}", east=n) for n in range(8)), days=20), plan) == ()
