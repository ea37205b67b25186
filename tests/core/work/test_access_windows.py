"""When somebody can let in: what the register says, as windows of days."""

from datetime import date, timedelta
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dorrik.core.work.access_windows import NOT_POSSIBLE, POSSIBLE, TIMES, WEEKDAYS, minute, windows

MONDAY = date(2026, 11, 30)
WEEK = [MONDAY + timedelta(days=n) for n in range(7)]
DAY = 24 * 60


def spans(entries, days=WEEK):
    found = windows(entries, days)
    return None if found is None else [(WEEKDAYS[w.day.weekday()][:3], w.from_min, w.until_min) for w in found]


def test_a_property_that_says_nothing_is_open_at_any_time():
    assert windows([], WEEK) is None


def test_a_tenant_who_is_in_on_thursdays():
    assert spans([{"access": POSSIBLE, "weekday": "Thursday"}]) == [("Thu", 0, DAY)]
    said = [{"access": POSSIBLE, "weekday": "Thursday", "from_time": "09:00", "until_time": "13:30"}]
    assert spans(said) == [("Thu", 540, 810)]


def test_two_times_that_touch_are_one_and_two_apart_are_two():
    morning = {"access": POSSIBLE, "weekday": "Friday", "from_time": "08:00", "until_time": "12:00"}
    noon = {"access": POSSIBLE, "weekday": "Friday", "from_time": "12:00", "until_time": "15:00"}
    evening = {"access": POSSIBLE, "weekday": "Friday", "from_time": "17:00"}
    assert spans([noon, morning]) == [("Fri", 480, 900)]
    assert spans([morning, evening]) == [("Fri", 480, 720), ("Fri", 1020, DAY)]


def test_what_is_not_possible_is_cut_out_of_what_is():
    lunch = {"access": NOT_POSSIBLE, "from_time": "12:00", "until_time": "13:00"}
    away = {"access": NOT_POSSIBLE, "first_day": "2026-12-01", "last_day": "2026-12-03"}
    days = [name for name, *_ in spans([away])]
    assert days == ["Mon", "Fri", "Sat", "Sun"]
    assert spans([{"access": POSSIBLE, "weekday": "Monday"}, lunch]) == [("Mon", 0, 720), ("Mon", 780, DAY)]


@pytest.mark.parametrize(
    "entries",
    [
        [{"access": POSSIBLE, "weekday": "Monday"}, {"access": NOT_POSSIBLE}],
        [{"access": POSSIBLE, "weekday": "Monday"}, {"access": NOT_POSSIBLE, "weekday": "Monday"}],
        [{"access": POSSIBLE, "first_day": "2030-01-01"}],
        [{"access": POSSIBLE, "from_time": "10:00", "until_time": "10:00"}],
    ],
)
def test_times_that_exclude_each_other_leave_none_and_are_not_any_time(entries):
    assert windows(entries, WEEK) == ()


entry = st.fixed_dictionaries(
    {"access": st.sampled_from([POSSIBLE, NOT_POSSIBLE])},
    optional={
        "weekday": st.sampled_from(WEEKDAYS),
        "from_time": st.sampled_from(TIMES),
        "until_time": st.sampled_from(TIMES),
    },
)


def holds(one, day, at):
    if one.get("weekday") not in (None, WEEKDAYS[day.weekday()]):
        return False
    return minute(one.get("from_time"), 0) <= at < minute(one.get("until_time"), DAY)


@given(st.lists(entry, min_size=1, max_size=5), st.integers(0, DAY - 1))
def test_every_minute_is_open_exactly_where_it_is_possible_and_nothing_forbids_it(entries, at):
    found = windows(entries, WEEK)
    for day in WEEK:
        can = [one for one in entries if one["access"] == POSSIBLE]
        allowed = (not can or any(holds(one, day, at) for one in can)) and not any(
            holds(one, day, at) for one in entries if one["access"] == NOT_POSSIBLE
        )
        assert allowed is any(w.day == day and w.from_min <= at < w.until_min for w in found)
    # Windows of one day neither touch nor overlap: a visit lies within one of them or in none.
    for day in WEEK:
        own = sorted((w.from_min, w.until_min) for w in found if w.day == day)
        assert all(first[1] < second[0] for first, second in pairwise(own))
