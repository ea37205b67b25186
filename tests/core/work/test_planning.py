from datetime import date

import pytest

from dorrik.core.work import planning
from dorrik.core.work.planning import PlannedVisit, Prices, Rates, Size

MONDAY = date(2026, 11, 23)


def test_the_estimate_is_the_sum_of_its_parts():
    size = Size(boards=1, rings=2, radials=6, points_opened=10, points_tested=40)
    # 20 + 20 + 25 + 28 + 42 + 40 + 60 + 30
    assert planning.estimate_min(size) == 265
    assert planning.parts_min(size)["radials"] == 42


def test_rates_follow_the_median_of_recorded_visits():
    visits = [{"ring": (20, 30)}, {"ring": (20, 24), "board": (25, 25)}, {"ring": (20, 22), "nothing": (1, 9)}]
    rates = planning.calibrated(Rates(), visits)
    assert rates.ring == pytest.approx(14 * 1.2)
    assert (rates.board, rates.radial) == (25, 7)


def test_price():
    prices = Prices(base=180, circuit=12, circuits_included=8, travel_per_km=0.5, return_visit=60)
    assert planning.price(Size(rings=2, radials=9), prices, travel_km=20, return_visits=1) == 180 + 36 + 10 + 60


def test_a_price_says_how_it_comes_about_and_leaves_out_what_costs_nothing():
    prices = Prices(base=180, circuit=12, circuits_included=8, travel_per_km=0.5, return_visit=60)
    parts = planning.price_parts(Size(rings=2, radials=9), prices, travel_km=20)
    assert [(part.name, part.value, part.how) for part in parts] == [
        ("base", 180, "up to 8 circuits"), ("further circuits", 36, "3 × 12"), ("travel", 10, "20 km × 0.5"),
    ]  # fmt: skip
    assert [part.name for part in planning.price_parts(Size(), prices)] == ["base"]


def test_a_portfolio_is_spread_with_neighbours_together_and_a_slack_day():
    row = [PlannedVisit(f"{n} Lookout Row", 200, north_km=n / 100) for n in range(1, 5)]
    far = [PlannedVisit("Pilot's house", 200, east_km=9), PlannedVisit("Slip cottage", 200, east_km=9.1)]
    found = planning.spread([*row, *far], ["Ruth"], MONDAY, date(2026, 12, 1))
    assert found.left_over == ()
    assert max(day.day for day in found.days) < date(2026, 11, 30)
    together = [{v.east_km > 5 for v in day.visits} for day in found.days]
    assert all(len(kinds) == 1 for kinds in together)
    assert all(day.minutes <= 450 and len(day.visits) <= planning.MOST_VISITS for day in found.days)


def test_access_windows_are_kept_and_what_does_not_fit_is_said():
    locked = PlannedVisit("Flat 2", 200, days=frozenset({date(2026, 11, 25)}))
    sunday = PlannedVisit("Net loft", 200, days=frozenset({date(2026, 11, 29)}))
    long = PlannedVisit("Harbour office", 900)
    found = planning.spread([long, sunday, locked], ["Ruth"], MONDAY, date(2026, 12, 4))
    assert [(d.day, d.visits[0].name) for d in found.days] == [(date(2026, 11, 25), "Flat 2")]
    assert {v.name for v in found.left_over} == {"Net loft", "Harbour office"}


def test_no_days_left():
    assert planning.spread([PlannedVisit("a", 60)], ["Ruth"], MONDAY, MONDAY).left_over[0].name == "a"
