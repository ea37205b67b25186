"""Three tries to get in, each told in writing a day before and shown by a photo, on days of their own."""

from datetime import datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dorrik.core.work.access_tries import AccessTry, standing

AT = datetime(2026, 11, 3, 9, 0)


def sound(day):
    at = AT + timedelta(days=day)
    return AccessTry(at, at - timedelta(days=3), True)


def test_three_sound_tries_on_three_days_are_what_a_remedy_is_asked_for_with():
    found = standing([sound(0), sound(9), sound(20)])
    assert found.complete and found.counting == 3 and "ask for access" in found.next_step
    assert "Check the law" in found.next_step


def test_two_leave_one_and_nothing_is_said_where_there_was_no_try():
    assert "one more try" in standing([sound(0), sound(9)]).next_step
    assert standing([]).next_step == "" and not standing([]).complete


@pytest.mark.parametrize(
    ("one", "missing"),
    [
        (AccessTry(AT, None, True), "no letter told the occupier of that day"),
        (AccessTry(AT, AT - timedelta(hours=23, minutes=59), True), "the letter left less than 24 hours before"),
        (AccessTry(AT, AT - timedelta(days=2), False), "no photo shows it"),
    ],
)
def test_what_a_try_lacks_is_named_and_it_does_not_count(one, missing):
    (found,) = standing([one]).tries
    assert found.missing == (missing,) and not found.counts


def test_a_day_to_the_minute_is_a_day():
    assert standing([AccessTry(AT, AT - timedelta(hours=24), True)]).counting == 1


def test_two_tries_on_one_day_are_one():
    again = AccessTry(AT + timedelta(hours=4), AT - timedelta(days=3), True)
    found = standing([sound(0), again])
    assert found.counting == 1 and found.tries[1].missing == ("a second try on one day",)


tries = st.builds(
    AccessTry,
    at=st.datetimes(datetime(2026, 1, 1), datetime(2026, 3, 1)),
    told_at=st.none() | st.datetimes(datetime(2025, 12, 20), datetime(2026, 3, 1)),
    evidence=st.booleans(),
)


@given(st.lists(tries, max_size=8))
def test_a_try_made_worse_never_helps(some):
    before = standing(some)
    assert before.counting == len({one.at.date() for one in some if one.evidence and one.told_at is not None
                                   and one.at - one.told_at >= timedelta(days=1)})  # fmt: skip
    for at, one in enumerate(some):
        for worse in (AccessTry(one.at, None, one.evidence), AccessTry(one.at, one.told_at, False)):
            assert standing([*some[:at], worse, *some[at + 1 :]]).counting <= before.counting
