"""How a landlord's duties stand (rule 14.2, as the table has them)."""

from datetime import date

import pytest

from dorrik.core.book import intervals
from dorrik.core.work.duty_states import Followed, duty_states

INSPECTED = date(2026, 11, 11)


def followed(outcome="unsatisfactory", copies=None, cleared_on=None, confirmations=None):
    return Followed(
        inspected_on=INSPECTED, outcome=outcome, copies=copies or {}, cleared_on=cleared_on,
        confirmations=confirmations or {},
    )  # fmt: skip


def by_short(nation, **more):
    return {duty_state.short: duty_state for duty_state in duty_states(nation, followed(**more))}


def test_in_england_the_copy_and_the_work_have_28_days_from_the_inspection():
    duties = by_short("England")
    assert duties["copy to the occupier"].due == date(2026, 12, 9) == duties["work done"].due
    # Counted from the day on which the work is complete.
    assert duties["work confirmed in writing"].due is None
    done = by_short("England", cleared_on=date(2026, 12, 1))
    assert (done["work done"].done_on, done["work confirmed in writing"].due) == (date(2026, 12, 1), date(2026, 12, 29))


def test_a_satisfactory_report_asks_for_no_work():
    assert "work done" not in by_short("England", outcome="satisfactory")


def test_a_confirmation_that_has_to_go_to_two_is_done_when_both_have_it():
    one = by_short("England", cleared_on=date(2026, 12, 1), confirmations={"occupier": date(2026, 12, 2)})
    assert one["work confirmed in writing"].done_on is None
    both = {"occupier": date(2026, 12, 2), "authority": date(2026, 12, 5)}
    assert by_short("England", confirmations=both)["work confirmed in writing"].done_on == date(2026, 12, 5)
    # In Wales it goes to the contract-holder alone.
    assert by_short("Wales", confirmations={"occupier": date(2026, 12, 2)})["work confirmed in writing"].done_on


def test_a_copy_to_somebody_else_ticks_nothing():
    assert by_short("England", copies={"client": date(2026, 11, 12)})["copy to the occupier"].done_on is None
    assert by_short("England", copies={"occupier": date(2026, 11, 12)})["copy to the occupier"].done_on


@pytest.mark.parametrize("nation", ["England", "Scotland", "Wales", "Northern Ireland", "Ireland"])
def test_what_nothing_here_can_show_is_never_ticked(nation):
    everything = followed(
        copies=dict.fromkeys(("occupier", "authority", "client"), INSPECTED), cleared_on=INSPECTED,
        confirmations=dict.fromkeys(("occupier", "authority"), INSPECTED),
    )  # fmt: skip
    states = duty_states(nation, everything)
    assert states and len(states) == len(intervals.duties(nation))
    assert all((state.done_on is not None) == state.shown for state in states)
    assert not any(duty_state.done_on for duty_state in duty_states(nation, followed()))
