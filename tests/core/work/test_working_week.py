"""Inspectors, days off and key places as the planner takes them."""

from datetime import date, timedelta

from dorrik.core.work.visit_plan import Place, works_on
from dorrik.core.work.working_week import days_off, inspector, key, weekdays

HOME = Place("home", 0, 0)
MONDAY = date(2026, 11, 30)


def test_a_week_that_says_nothing_is_monday_to_friday_eight_to_five_with_two_visits():
    made = inspector("ruth", {}, [], HOME)
    assert (made.start_min, made.end_min, made.most_visits, made.most_minutes) == (480, 1020, 2, 480)
    assert [works_on(made, MONDAY + timedelta(days=n)) for n in range(7)] == [True] * 5 + [False] * 2


def test_days_that_are_not_worked_and_saturdays():
    assert weekdays({"not_monday": True, "on_saturday": True}) == frozenset({1, 2, 3, 4, 5})


def test_days_off_from_first_to_last_a_single_one_and_one_that_was_never_filled_in():
    said = [{"first_day": "2026-12-24", "last_day": "2026-12-26"}, {"first_day": "2026-12-02"}, {"reason": "Course"}]
    assert days_off(said) == {date(2026, 12, 2), *(date(2026, 12, n) for n in (24, 25, 26))}


def test_leave_that_somebody_typed_to_the_end_of_time_ends():
    assert len(days_off([{"first_day": "2026-12-01", "last_day": "2036-12-01"}])) <= 401


def test_a_key_place_is_open_as_it_says_and_serves_several():
    made = key("agent", {"opens_at": "09:00", "closes_at": "16:00"}, HOME)
    assert (made.from_min, made.until_min, made.many) == (540, 960, True)
