"""What recorded visits say of estimates. Medians and quartiles are worked out by hand."""

from datetime import datetime

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dorrik.core.work.visit_lengths import (
    ExpectedLength,
    Factor,
    RecordedVisit,
    expected,
    factor,
    factors,
    in_words,
    kind_of,
    on_site_min,
    usable,
)


def visits(*actual, estimated=100.0, **more):
    return [RecordedVisit(estimated_min=estimated, actual_min=minutes, **more) for minutes in actual]


def test_the_middle_and_the_quarters_of_what_was_recorded():
    # Of 0.9, 1.0, 1.1, 1.3, 1.7 the middle is 1.1, the quarters are 1.0 and 1.3.
    found = factor(visits(110, 90, 170, 100, 130))
    assert (found.middle, found.low, found.high, found.visits) == pytest.approx((1.1, 1.0, 1.3, 5))


def test_a_visit_that_nobody_ended_says_nothing():
    forgotten = visits(3, 17 * 60) + visits(100, estimated=0.0)
    assert usable(forgotten) == [] and factor(forgotten) is None
    assert factor(visits(120) + forgotten) == Factor(1.2, 1.2, 1.2, 1)


def test_apart_by_kind_client_or_inspector():
    made = visits(120, 140, kind="house", inspector_id="ruth") + visits(90, kind="flat", inspector_id="idris")
    by_kind = factors(made, lambda visit: visit.kind)
    assert by_kind["house"].middle == pytest.approx(1.3) and by_kind["flat"].middle == pytest.approx(0.9)
    assert factors(made, lambda visit: visit.inspector_id)["ruth"].visits == 2


def test_without_a_visit_the_estimate_stands_with_its_doubt():
    assert expected(200, None, None) == ExpectedLength(200, 150, 250, 0)


def test_a_kind_counts_the_more_the_more_visits_it_has():
    firm, flat = Factor(1.2, 1.1, 1.4, 40), Factor(0.8, 0.7, 0.9, 4)
    # Four of a kind weigh as much as all: half of 0.8 and half of 1.2.
    found = expected(200, flat, firm)
    assert (found.minutes, found.low, found.high) == pytest.approx((200, 180, 230))
    assert expected(200, Factor(0.8, 0.7, 0.9, 36), firm).minutes == pytest.approx(200 * (0.9 * 0.8 + 0.1 * 1.2))
    assert expected(200, None, firm).minutes == pytest.approx(240)


def test_one_visit_is_no_certainty():
    found = expected(100, None, Factor(1.2, 1.2, 1.2, 1))
    # A fifth of the doubt is gone: 120 × 0.25 × 4/5.
    assert (found.low, found.minutes, found.high) == pytest.approx((96, 120, 144))


@given(st.lists(st.floats(15, 900), min_size=1, max_size=30), st.floats(30, 600))
def test_what_is_expected_lies_within_its_spread(actual, estimated):
    found = factor(visits(*actual))
    length = expected(estimated, found, found)
    assert length.low <= length.minutes <= length.high
    assert length.low > 0


def at(hour, minute=0, day=3):
    return datetime(2026, 11, day, hour, minute)


def test_two_who_were_there_at_once_count_once_and_a_return_visit_beside_it():
    morning, second, back = (at(9), at(12)), (at(10), at(13)), (at(9, day=9), at(10, 30, day=9))
    assert on_site_min([morning, second, back]) == 4 * 60 + 90
    assert on_site_min([(at(9), at(9))]) == 0 and on_site_min([]) == 0


@pytest.mark.parametrize(
    ("circuits", "kind"),
    [(0, "size not known"), (1, "1 to 6 circuits"), (6, "1 to 6 circuits"), (7, "7 to 12 circuits"),
     (20, "13 to 20 circuits"), (21, "more than 20 circuits")],
)  # fmt: skip
def test_homes_are_of_one_kind_by_their_size(circuits, kind):
    assert kind_of(circuits) == kind


@pytest.mark.parametrize(
    ("factor_of", "says"),
    [(Factor(1.3, 1.1, 1.5, 4), "4 visits: too few to go by."), (Factor(1.04, 0.9, 1.2, 9), "As estimated."),
     (Factor(1.18, 1.0, 1.3, 12), "18% longer than estimated."),
     (Factor(0.8, 0.7, 0.9, 6), "20% shorter than estimated.")],
)  # fmt: skip
def test_what_visits_say_in_a_sentence(factor_of, says):
    assert in_words(factor_of) == says
