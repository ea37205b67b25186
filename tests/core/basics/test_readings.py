from math import inf

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dorrik.core.basics.readings import Reading, ReadingError, add, at_least, at_most, rounded


@pytest.mark.parametrize(
    ("text", "value", "bound"),
    [
        ("0.38", 0.38, None),
        ("0,38", 0.38, None),
        (".5", 0.5, None),
        (" 12 ", 12.0, None),
        (">299", 299.0, ">"),
        ("> 299", 299.0, ">"),
        ("<0.05", 0.05, "<"),
        ("≥200", 200.0, ">"),
        ("≤ 0,05", 0.05, "<"),
        (">=200", 200.0, ">"),
    ],
)
def test_numbers_and_bounds(text, value, bound):
    reading = Reading.parse(text)
    assert (reading.kind, reading.value, reading.bound) == ("number", value, bound)
    assert str(reading) == text.strip()


@pytest.mark.parametrize("text", ["OL", "ol", "∞", "o/r", "O/R"])
def test_over_range_is_a_lower_bound_of_unknown_size(text):
    reading = Reading.parse(text)
    assert (reading.kind, reading.value, reading.bound) == ("over-range", None, ">")
    assert reading.interval == (0.0, inf)


def test_a_limitation_keeps_its_reason_to_the_letter():
    assert Reading.parse("LIM RCD trips on test").limitation == "RCD trips on test"
    assert Reading.parse("lim: no access, locked").limitation == "no access, locked"
    assert Reading.parse("LIM").limitation == ""
    assert Reading.parse("0.4").limitation is None


def test_not_applicable_not_verified_and_empty():
    assert Reading.parse("N/A").kind == "not-applicable"
    assert Reading.parse("n/v").kind == "not-verified"
    assert Reading.parse("  ").kind == "empty"


@pytest.mark.parametrize(
    ("text", "told"),
    [
        ("1..4", "more than one decimal mark"),
        ("1.2.3", "more than one decimal mark"),
        ("-3", "negative"),
        ("−0.1", "negative"),
        ("abc", "not a reading"),
        (">>5", "more than one bound sign"),
        (">", "no figure after the sign"),
        ("0.38Ω", "leave the unit out"),
        ("1e3", "not a reading"),
        ("limit", "not a reading"),
        ("9999999", "too large"),
        ("0.1\x00", "not a reading"),
        ("x" * 10_000, "10000 characters long"),
    ],
)
def test_what_is_no_reading_is_told_in_words(text, told):
    with pytest.raises(ReadingError, match=told):
        Reading.parse(text)


def test_resolution_is_the_last_digit_written():
    assert Reading.parse("0.38").resolution == pytest.approx(0.01)
    assert Reading.parse("0.380").resolution == pytest.approx(0.001)
    assert Reading.parse(">299").resolution == 1


def test_default_uncertainties():
    # Rule 1.3: continuity 2 % + 2 digits, insulation 3 % + 3, loop 5 % + 5, trip time 1 % + 1 ms.
    assert Reading.parse("0.50").uncertainty("continuity") == pytest.approx(0.03)
    assert Reading.parse("100").uncertainty("insulation") == pytest.approx(6.0)
    assert Reading.parse("1.00").uncertainty("loop") == pytest.approx(0.10)
    assert Reading.parse("200").uncertainty("trip-time") == pytest.approx(3.0)


def test_a_bound_never_settles_what_it_does_not_know():
    assert at_most(Reading.parse(">1.2"), 1.0) is False
    assert at_most(Reading.parse(">0.8"), 1.0) is None
    assert at_most(Reading.parse("<0.8"), 1.0) is True
    assert at_most(Reading.parse("<1.2"), 1.0) is None
    assert at_least(Reading.parse(">200"), 1.0) is True
    assert at_least(Reading.parse("<1"), 1.0) is False
    assert at_least(Reading.parse("OL"), 1.0) is None
    assert at_most(Reading.parse("LIM"), 1.0) is None
    assert at_most(None, 1.0) is None


def test_a_bound_on_the_limit_itself():
    assert at_most(Reading.parse(">1"), 1.0) is False
    assert at_most(Reading.parse("≥1"), 1.0) is None
    assert at_least(Reading.parse("≤1"), 1.0) is None


def test_sums_carry_bounds():
    assert str(add(Reading.parse("0.35"), Reading.parse("0.81"))) == "1.16"
    assert str(add(Reading.parse("0.35"), Reading.parse(">0.81"))) == ">1.16"
    assert str(add(Reading.parse("<0.05"), Reading.parse("0.30"))) == "<0.35"
    assert add(Reading.parse("LIM"), Reading.parse("0.3")) is None


def test_figures_for_people():
    assert [rounded(v) for v in (0.1234, 1.005, 12.34, 123.4, inf)] == ["0.12", "1.00", "12.3", "123", "∞"]


@given(st.text(max_size=300))
def test_any_text_is_a_reading_or_a_readable_error(text):
    try:
        reading = Reading.parse(text)
    except ReadingError as error:
        assert str(error)
    else:
        assert str(reading) == text.strip()


@given(st.decimals(0, 1000, places=2), st.sampled_from(["", ">", "<"]), st.floats(0, 2000))
def test_verdicts_on_bounds_hold_for_every_value_the_bound_allows(number, sign, limit):
    reading = Reading.parse(f"{sign}{number}")
    low, high = reading.interval
    inside = [v for v in (low + 1e-6, float(number), high - 1e-6) if low < v < high] or [float(number)]
    for answer, holds in (
        (at_most(reading, limit), lambda v: v <= limit),
        (at_least(reading, limit), lambda v: v >= limit),
    ):
        if answer is not None:
            assert all(holds(v) is answer for v in inside)
