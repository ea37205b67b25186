"""How a day of visits is timed. Figures are worked out by hand: 30 km/h is 2 minutes a kilometre, without a detour."""

from dataclasses import replace
from datetime import date, timedelta

import pytest

from dorrik.core.work.visit_plan import (
    Inspector,
    Key,
    Pin,
    Place,
    PlanCost,
    PlanProblem,
    Travel,
    VisitPlan,
    WantedVisit,
    Window,
    cost,
    latest_day,
    may_be_on,
    timed,
)  # fmt: skip

MONDAY = date(2026, 11, 30)
QUAY, HILL, AGENT, YARD = Place("quay", 0, 0), Place("hill", 3, 4), Place("agent", 0, 10), Place("yard", 0, -5)
RUTH = Inspector(id="ruth", home=QUAY)
STRAIGHT = Travel(speed_kmh=30, detour=1.0)


def problem(*visits, **more):
    return PlanProblem(
        visits=visits, inspectors=(RUTH,), first=MONDAY, last=MONDAY + timedelta(days=11), travel=STRAIGHT, **more
    )


def visit(name, minutes=180, place=HILL, **more):
    return WantedVisit(id=name, minutes=minutes, place=place, **more)


def times(route):
    return [(stop.task, stop.id, stop.begins, stop.ends) for stop in route.stops]


def test_a_day_begins_and_ends_at_home_with_the_way_between():
    first, second = visit("a"), visit("b", 120, YARD)
    route = timed(problem(first, second), RUTH, MONDAY, [first, second])
    # 5 km from the quay to the hill, √(3² + 9²) = 9.487 km on to the yard, 5 km home.
    assert times(route)[0] == ("visit", "a", 490, 670)
    assert times(route)[1] == ("visit", "b", pytest.approx(670 + 18.974, abs=0.001), pytest.approx(808.974, abs=0.001))
    assert (route.leaves, route.back) == (480, pytest.approx(818.974, abs=0.001))
    assert cost(problem(first, second), VisitPlan((route,))) == PlanCost(
        0, 1, pytest.approx(19.487, abs=0.001), pytest.approx(38.974, abs=0.001)
    )


def test_nobody_leaves_home_to_wait_at_a_door():
    thursday = MONDAY + timedelta(days=3)
    late = visit("a", windows=(Window(thursday, 13 * 60, 17 * 60),))
    route = timed(problem(late), RUTH, thursday, [late])
    assert (route.leaves, times(route)) == (770, [("visit", "a", 780, 960)])
    assert timed(problem(late), RUTH, MONDAY, [late]) is None


def test_a_visit_lies_in_a_window_whole():
    short = visit("a", windows=(Window(MONDAY, 480, 600), Window(MONDAY, 720, 960)))
    route = timed(problem(short), RUTH, MONDAY, [short])
    assert times(route) == [("visit", "a", 720, 900)]


def test_a_key_is_fetched_before_and_brought_back_after():
    one, two = visit("a", 120, key="k"), visit("b", 60, key="k")
    asked = problem(one, two, keys=(Key("k", AGENT, 9 * 60, 13 * 60),))
    route = timed(asked, RUTH, MONDAY, [one, two])
    way = (3**2 + 6**2) ** 0.5 * 2
    # The agent is there from 9: 20 minutes' way, so that nobody leaves before 8:40.
    assert route.leaves == 520
    assert [stop.task for stop in route.stops] == ["fetch key", "visit", "visit", "return key"]
    assert route.stops[1].begins == pytest.approx(545 + way)
    assert route.stops[3].begins == pytest.approx(545 + way + 180 + way)
    # The agent goes at noon: there is no time to bring it back.
    early = replace(asked, keys=(Key("k", AGENT, 9 * 60, 12 * 60),))
    assert timed(early, RUTH, MONDAY, [one, two]) is None


def test_no_day_is_longer_than_it_may_be():
    assert timed(problem(), RUTH, MONDAY, [visit("a", 230), visit("b", 230)]) is not None
    assert timed(problem(), RUTH, MONDAY, [visit("a", 230), visit("b", 231)]) is None
    assert timed(problem(), RUTH, MONDAY, [visit("a", 60), visit("b", 60), visit("c", 60)]) is None
    assert timed(problem(), replace(RUTH, most_visits=3), MONDAY, [visit("a", 60), visit("b", 60), visit("c", 60)])


@pytest.mark.parametrize(
    ("deadline", "latest"),
    [
        (date(2026, 12, 4), date(2026, 12, 3)),  # a Friday
        (date(2026, 12, 7), date(2026, 12, 4)),  # a Monday: the weekend is no slack
        (date(2026, 12, 6), date(2026, 12, 4)),  # a Sunday
    ],
)
def test_a_working_day_is_kept_free_before_a_deadline(deadline, latest):
    bound = visit("a", last_day=deadline)
    assert latest_day(bound, 1) == latest
    assert may_be_on(problem(bound), bound, RUTH, latest)
    assert not may_be_on(problem(bound), bound, RUTH, deadline)


def test_what_was_put_there_by_hand_stays_there_and_may_use_the_slack():
    friday = date(2026, 12, 4)
    pinned = visit("a", last_day=friday, pin=Pin("ruth", friday, 600))
    asked = problem(pinned)
    assert times(timed(asked, RUTH, friday, [pinned])) == [("visit", "a", 600, 780)]
    assert not may_be_on(asked, pinned, RUTH, friday - timedelta(days=1))
    too_late = visit("a", last_day=friday, pin=Pin("ruth", friday + timedelta(days=3)))
    assert not may_be_on(asked, too_late, RUTH, friday + timedelta(days=3))


def test_days_off_and_weekends_are_nobodys():
    away = replace(RUTH, days_off=frozenset({MONDAY}))
    assert not may_be_on(problem(), visit("a"), away, MONDAY)
    assert not may_be_on(problem(), visit("a"), RUTH, date(2026, 12, 5))


def test_the_way_by_a_table_and_to_a_place_that_nobody_knows():
    ferry = Travel(table={("quay", "hill"): 55})
    assert ferry.minutes(QUAY, HILL) == ferry.minutes(HILL, QUAY) == 55
    assert ferry.minutes(QUAY, Place("somewhere")) == 30
    assert ferry.km(QUAY, Place("somewhere")) == 0
    # 10 km in a straight line are 13 on the road: 26 minutes.
    assert Travel().minutes(QUAY, AGENT) == pytest.approx(26)
