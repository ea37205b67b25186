"""Where a property of a portfolio stands (rules 14.1 and 14.2): harm comes first, nothing open is hidden."""

from dataclasses import replace
from datetime import date, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dorrik.core.work import portfolio
from dorrik.core.work.portfolio import PropertyFacts, line

TODAY = date(2026, 12, 1)
SOON, LATER = date(2027, 1, 15), date(2031, 11, 10)


@pytest.mark.parametrize(
    ("facts", "state", "on", "holder"),
    [
        (PropertyFacts(), "never", None, "office"),
        (PropertyFacts(due_on=SOON), "due", SOON, "office"),
        (PropertyFacts(due_on=SOON, asked=True), "asked", SOON, "office"),
        (PropertyFacts(due_on=SOON, asked=True, booked_on=date(2026, 12, 3)), "booked", date(2026, 12, 3), "inspector"),
        (PropertyFacts(due_on=SOON, in_hand=True), "in hand", SOON, "inspector"),
        (PropertyFacts(in_hand=True, held=True, return_on=SOON), "on hold", SOON, "inspector"),
        (PropertyFacts(in_hand=True, held=True, held_by_operator=True), "on hold", None, "network operator"),
        (PropertyFacts(inspected_on=TODAY, due_on=LATER, required=3, required_by=SOON), "to put right", SOON, "client"),
        (PropertyFacts(inspected_on=TODAY, due_on=LATER, copies=True, copies_by=SOON), "copies due", SOON, "office"),
        (PropertyFacts(inspected_on=TODAY, due_on=LATER), "done", LATER, "nobody"),
        # A report that set no day: that is not "nothing to do".
        (PropertyFacts(inspected_on=TODAY), "due", None, "office"),
    ],
)
def test_each_state_names_the_day_that_counts_and_who_has_it(facts, state, on, holder):
    first = line(facts, TODAY).first
    assert (first.state, first.on, first.holder, first.late) == (state, on, holder, False)


def test_a_visit_that_is_booked_hides_nothing_that_is_open():
    facts = PropertyFacts(
        inspected_on=date(2026, 11, 1), due_on=SOON, booked_on=SOON, required=2, dangerous=True, copies=True,
        required_by=date(2026, 11, 30), copies_by=date(2026, 11, 29),
    )  # fmt: skip
    found = line(facts, TODAY)
    assert found.first.state == "to put right" and found.first.late
    assert "danger present" in found.first.next_step
    assert [one.state for one in found.also] == ["copies due", "booked"]
    assert found.also[0].late


def test_a_day_that_has_passed_is_late_and_a_visit_that_was_missed_is_no_visit():
    assert line(PropertyFacts(due_on=TODAY - timedelta(days=1)), TODAY).first.late
    assert not line(PropertyFacts(due_on=TODAY), TODAY).first.late
    missed = line(PropertyFacts(due_on=LATER, booked_on=TODAY - timedelta(days=1)), TODAY).first
    assert (missed.state, missed.late, missed.holder) == ("booked", True, "office")


@pytest.mark.parametrize("last_day", [TODAY - timedelta(days=3), SOON - timedelta(days=1)])
def test_a_visit_booked_beyond_the_last_day_is_late(last_day):
    """The appointment exists; the law's day comes before it."""
    found = line(PropertyFacts(due_on=last_day, booked_on=SOON), TODAY).first
    assert (found.state, found.late, found.holder) == ("booked", True, "office")
    assert not line(PropertyFacts(due_on=SOON, booked_on=SOON), TODAY).first.late


def test_what_is_due_is_spoken_of_two_months_before():
    day = TODAY + timedelta(days=60)
    assert line(PropertyFacts(inspected_on=TODAY, due_on=day), TODAY).first.state == "due"
    assert line(PropertyFacts(inspected_on=TODAY, due_on=day + timedelta(days=1)), TODAY).first.state == "done"


days = st.none() | st.dates(date(2026, 1, 1), date(2032, 1, 1))
any_facts = st.builds(
    PropertyFacts,
    inspected_on=days, due_on=days, asked=st.booleans(), booked_on=days, in_hand=st.booleans(), held=st.booleans(),
    return_on=days, held_by_operator=st.booleans(), required=st.integers(0, 5), required_by=days,
    copies=st.booleans(), copies_by=days,
)  # fmt: skip


@given(any_facts)
def test_whatever_is_open_is_named(facts):
    found = line(facts, TODAY)
    states = [one.state for one in (found.first, *found.also)]
    assert len(states) == len(set(states))
    assert states == sorted(states, key=portfolio.STATES.index)
    assert ("to put right" in states) is bool(facts.required)
    assert ("copies due" in states) is facts.copies
    assert ("on hold" in states) is facts.held
    # Nothing is called done over anything that is open.
    if found.first.state == "done":
        assert found.also == () and facts.due_on is not None and facts.due_on > TODAY


@given(any_facts)
def test_a_property_that_is_made_worse_in_one_place_never_stands_better(facts):
    before = portfolio.STATES.index(line(facts, TODAY).first.state)
    for worse in (replace(facts, required=facts.required + 1), replace(facts, copies=True)):
        assert portfolio.STATES.index(line(worse, TODAY).first.state) <= before


REPORTED, NEXT = date(2024, 5, 1), date(2029, 5, 1)


@pytest.mark.parametrize(
    ("reported", "elsewhere", "of_register", "expected"),
    [
        (None, None, None, None),
        (None, REPORTED, SOON, SOON),
        ((REPORTED, NEXT), None, None, NEXT),
        # Somebody else inspected before or after: the later inspection counts.
        ((REPORTED, NEXT), REPORTED - timedelta(days=900), SOON, NEXT),
        ((REPORTED, NEXT), REPORTED + timedelta(days=400), SOON, SOON),
        # A report that set no day takes none away.
        ((REPORTED, None), None, SOON, SOON),
        ((REPORTED, NEXT), REPORTED + timedelta(days=400), None, NEXT),
    ],
)
def test_the_later_inspection_says_when_the_next_is_due(reported, elsewhere, of_register, expected):
    assert portfolio.due_on(reported, elsewhere, of_register) == expected
