"""A property in a portfolio: where it stands, which day counts, what comes next and who has it (rules 14.1 and 14.2).

Several things can be open at one property at once. The most pressing of them is its state; the others are named beside
it, so that a visit that is booked never hides danger that is not put right.
"""

from collections.abc import Iterator
from datetime import date, timedelta
from typing import Literal, get_args

from dorrik.core.basics.record import record

State = Literal["to put right", "on hold", "in hand", "copies due", "booked", "asked", "due", "never", "done"]
#: All states, the most pressing first.
STATES: tuple[State, ...] = get_args(State)
#: Who has the next step.
Holder = Literal["office", "inspector", "client", "network operator", "nobody"]
#: So long before it is due, an inspection is spoken of: time enough to ask, to book, and to be sent away twice.
SPOKEN_OF = timedelta(days=60)


@record(kw_only=True)
class PropertyFacts:
    """What is known of a property; None or 0 for what is not there.

    inspected_on: of its latest report; due_on: the last day for the next inspection; unreported: names of installations
    that have no report and no day, beside others that have; asked, booked_on: a job that is open, and its day; in_hand:
    an inspection has begun and is not issued; held, return_on: it is on hold, and until when; held_by_operator: for the
    network operator; required: observations of the report that are to be put right and are not cleared; dangerous: one
    of them is a C1; required_by: the first legal day for that; copies, copies_by: a copy that the law requires is not
    shown to be sent, and the first day for one.
    """

    inspected_on: date | None = None
    due_on: date | None = None
    unreported: tuple[str, ...] = ()
    asked: bool = False
    booked_on: date | None = None
    in_hand: bool = False
    held: bool = False
    return_on: date | None = None
    held_by_operator: bool = False
    required: int = 0
    dangerous: bool = False
    required_by: date | None = None
    copies: bool = False
    copies_by: date | None = None


@record
class Standing:
    """One thing that is open at a property.

    on: the day that counts, None where none is known; late: has it passed, or does it come too late?; next_step: in
    words; holder: who has it.
    """

    state: State
    on: date | None
    late: bool
    next_step: str
    holder: Holder


@record
class PortfolioLine:
    """Where a property stands: the most pressing thing, and everything else that is open, by how pressing it is."""

    first: Standing
    also: tuple[Standing, ...]


def line(facts: PropertyFacts, today: date) -> PortfolioLine:
    """Where a property stands on a day."""
    standings = sorted(_open(facts, today), key=lambda standing: STATES.index(standing.state))
    return PortfolioLine(standings[0], tuple(standings[1:]))


def due_on(
    reported: tuple[date, date | None] | None, inspected_elsewhere: date | None, due: date | None
) -> date | None:
    """The last day for the next inspection: by the latest report, else as the register says.

    reported: when the latest report's inspection was, and when the next one is due by it, None without a report;
    inspected_elsewhere, due: of the register, by a report of somebody else. The later inspection counts.
    """
    if reported is None:
        return due
    inspected, by_report = reported
    if inspected_elsewhere is not None and inspected_elsewhere > inspected and due is not None:
        return due
    return by_report if by_report is not None else due


def _open(facts: PropertyFacts, today: date) -> Iterator[Standing]:
    def standing(state: State, on: date | None, next_step: str, holder: Holder) -> Standing:
        return Standing(state, on, on is not None and on < today, next_step, holder)

    if facts.required:
        danger = ", danger present" if facts.dangerous else ""
        yield standing("to put right", facts.required_by, f"{facts.required} to put right{danger}", "client")
    if facts.held:
        holder: Holder = "network operator" if facts.held_by_operator else "inspector"
        back = "return visit" if facts.return_on else "agree a return visit"
        yield standing("on hold", facts.return_on, back, holder)
    elif facts.in_hand:
        yield standing("in hand", facts.booked_on or facts.due_on, "finish and issue the report", "inspector")
    if facts.copies:
        yield standing("copies due", facts.copies_by, "send the copies of the report", "office")
    if not (facts.held or facts.in_hand):
        yield from _to_inspect(facts, today)


def _to_inspect(facts: PropertyFacts, today: date) -> Iterator[Standing]:
    """The next inspection, where none has begun: one of booked, asked, due, never and done."""
    on, late = facts.due_on, facts.due_on is not None and facts.due_on < today
    if facts.booked_on is not None:
        # A day that is gone without an inspection was no visit, and one beyond the last day comes too late.
        if facts.booked_on < today:
            yield Standing("booked", facts.booked_on, True, "the day has passed: book another", "office")
        elif on is not None and facts.booked_on > on:
            yield Standing("booked", facts.booked_on, True, "after the last day: bring it forward", "office")
        else:
            yield Standing("booked", facts.booked_on, False, "inspect", "inspector")
    elif facts.asked:
        yield Standing("asked", on, late, "agree a day", "office")
    elif on is not None and on - SPOKEN_OF <= today:
        yield Standing("due", on, late, "ask for the next inspection", "office")
    elif on is None and facts.inspected_on is None:
        yield Standing("never", None, False, "ask when it was last inspected", "office")
    elif on is None:
        # A report without a day for the next one: nobody may read that as "nothing to do".
        yield Standing("due", None, False, "set when the next inspection is due", "office")
    elif facts.unreported:
        yield Standing("never", None, False, f"{', '.join(facts.unreported)}: no report yet", "office")
    else:
        yield Standing("done", on, False, "nothing until then", "nobody")
