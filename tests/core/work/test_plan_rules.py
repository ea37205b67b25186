"""Hard rules of a plan: a day that is timed keeps them all, and a plan made worse in one place breaks one."""

from dataclasses import replace
from datetime import date, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dorrik.core.work.plan_rules import broken
from dorrik.core.work.visit_plan import (
    DayRoute,
    Inspector,
    Key,
    Left,
    Pin,
    Place,
    PlanProblem,
    Stop,
    Travel,
    VisitPlan,
    WantedVisit,
    Window,
    timed,
)

MONDAY = date(2026, 11, 30)
HOME = Place("home", 0, 0)


def rules(problem, plan):
    return {one.rule for one in broken(problem, plan)}


@pytest.fixture
def sound():
    """Two visits of one day with a key, of which one has a window and a deadline; and the plan of it."""
    visits = (
        WantedVisit(
            id="a", minutes=150, place=Place("a", 2, 0), key="k", last_day=date(2026, 12, 2),
            windows=(Window(MONDAY, 480, 720),),
        ),
        WantedVisit(id="b", minutes=120, place=Place("b", 3, 1)),
    )  # fmt: skip
    ruth, idris = Inspector(id="ruth", home=HOME), Inspector(id="idris", home=HOME)
    problem = PlanProblem(
        visits=visits, inspectors=(ruth, idris), first=MONDAY, last=MONDAY + timedelta(days=13),
        keys=(Key("k", Place("agent", 1, 1), 480, 1020),),
    )  # fmt: skip
    route = timed(problem, ruth, MONDAY, visits)
    assert [stop.task for stop in route.stops] == ["fetch key", "visit", "return key", "visit"]
    return problem, route


def test_a_sound_plan_breaks_nothing(sound):
    problem, route = sound
    assert broken(problem, VisitPlan((route,))) == ()
    assert broken(problem, VisitPlan((), (Left("a", "full"), Left("b", "full")))) == ()


def moved(route, number, by):
    stops = list(route.stops)
    stops[number] = replace(stops[number], begins=stops[number].begins + by, ends=stops[number].ends + by)
    return replace(route, stops=tuple(stops))


@pytest.mark.parametrize(
    ("rule", "worse"),
    [
        ("once", lambda p, r: (p, [r, replace(r, day=MONDAY + timedelta(days=1))], [])),
        ("once", lambda p, r: (p, [], [Left("a", "full")])),
        ("known", lambda p, r: (p, [r], [Left("c", "full")])),
        ("inspector", lambda p, r: (p, [replace(r, inspector="nobody")], [])),
        ("day off", lambda p, r: (p, [replace(r, day=MONDAY + timedelta(days=5))], [])),
        ("day", lambda p, r: (p, [replace(r, day=MONDAY - timedelta(days=7))], [])),
        ("one route a day", lambda p, r: (p, [r, replace(r, stops=())], [])),
        ("overtime", lambda p, r: (p, [replace(r, leaves=479)], [])),
        ("overtime", lambda p, r: (p, [replace(r, back=1021)], [])),
        ("travel", lambda p, r: (p, [moved(r, 1, -1)], [])),
        ("travel", lambda p, r: (p, [replace(r, back=r.back - 1)], [])),
        ("length", lambda p, r: (p, [replace(r, stops=(*r.stops[:3], replace(r.stops[3], ends=600)))], [])),
        ("access", lambda p, r: (p, [moved(r, 1, 100)], [])),
        ("access", lambda p, r: (p, [replace(r, day=MONDAY + timedelta(days=1))], [])),
        ("deadline", lambda p, r: (p, [replace(r, day=date(2026, 12, 2))], [])),
        ("key", lambda p, r: (p, [replace(r, stops=r.stops[1:])], [])),
        ("key", lambda p, r: (p, [replace(r, stops=(*r.stops[:2], r.stops[3]))], [])),
        ("key", lambda p, r: (replace(p, keys=(replace(p.keys[0], until_min=485),)), [r], [])),
        (
            "visits a day",
            lambda p, r: (replace(p, inspectors=(replace(p.inspectors[0], most_visits=1), p.inspectors[1])), [r], []),
        ),
        (
            "kept by hand",
            lambda p, r: (
                replace(p, visits=(p.visits[0], replace(p.visits[1], pin=Pin("idris", MONDAY)))), [r], [],
            ),
        ),
        (
            "kept by hand",
            lambda p, r: (
                replace(p, visits=(p.visits[0], replace(p.visits[1], pin=Pin("ruth", MONDAY, 960)))), [r], [],
            ),
        ),
        (
            "together",
            lambda p, r: (
                replace(p, visits=tuple(replace(v, together="house") for v in p.visits)),
                [replace(r, stops=r.stops[:3])], [Left("b", "full")],
            ),
        ),
        (
            "key",
            lambda p, r: (
                p, [r, DayRoute("idris", MONDAY, 500, (Stop("fetch key", "k", 510, 515),), 530)], [],
            ),
        ),
    ],
)  # fmt: skip
def test_a_plan_made_worse_in_one_place_breaks_that_rule(sound, rule, worse):
    problem, routes, left = worse(*sound)
    assert rule in rules(problem, VisitPlan(tuple(routes), tuple(left)))


places = st.builds(
    Place, st.sampled_from(["p", "q", "r"]), st.none() | st.floats(-20, 20), st.none() | st.floats(-20, 20)
)
windows = st.none() | st.lists(
    st.builds(
        lambda day, start, length: Window(MONDAY + timedelta(days=day), start, start + length),
        st.integers(0, 4), st.integers(420, 900), st.integers(30, 500),
    ),
    max_size=3,
).map(tuple)  # fmt: skip


@st.composite
def problems(draw):
    keys = (Key("k", draw(places), draw(st.integers(480, 600)), draw(st.integers(600, 1020))),)
    visits = tuple(
        WantedVisit(
            id=f"v{number}", minutes=draw(st.integers(20, 300)), place=draw(places), windows=draw(windows),
            last_day=draw(st.none() | st.dates(MONDAY, MONDAY + timedelta(days=9))),
            key=draw(st.sampled_from(["", "", "k"])),
        )
        for number in range(draw(st.integers(1, 4)))
    )  # fmt: skip
    inspector = Inspector(
        id="ruth", home=draw(places), most_visits=draw(st.integers(1, 4)), most_minutes=draw(st.integers(200, 600))
    )
    travel = Travel(speed_kmh=draw(st.integers(10, 60)), detour=draw(st.floats(1, 2)))
    return PlanProblem(
        visits=visits, inspectors=(inspector,), first=MONDAY, last=MONDAY + timedelta(days=4), keys=keys, travel=travel
    )


@given(problems(), st.integers(0, 4), st.randoms())
def test_a_day_that_is_timed_keeps_every_rule(problem, day, random):
    order = list(problem.visits)
    random.shuffle(order)
    order = order[: random.randint(1, len(order))]
    route = timed(problem, problem.inspectors[0], MONDAY + timedelta(days=day), order)
    if route is None:
        return
    left = tuple(Left(visit.id, "not asked for") for visit in problem.visits if visit.id not in route.visits)
    assert broken(problem, VisitPlan((route,), left)) == ()
    # And nothing of it can be earlier: a plan that claims so is refused.
    for number, stop in enumerate(route.stops):
        if stop.task == "visit" and number and route.stops[number - 1].task == "visit":
            waits = stop.begins - route.stops[number - 1].ends
            sooner = moved(route, number, -waits - 1)
            assert rules(problem, VisitPlan((sooner,), left))
