"""How the legal duties that follow a report stand: what shows that each is done, and its last day (rule 14.2)."""

from collections.abc import Iterable, Mapping
from datetime import date
from typing import Literal

from dorrik.core.basics.record import record
from dorrik.core.book import intervals

#: Who gets a copy, as the register of copies names them.
Role = Literal["client", "landlord", "agent", "occupier", "authority", "contractor", "other"]


@record(kw_only=True)
class Followed:
    """What has happened since a report was issued. inspected_on: the day that duties are counted from; outcome: as
    declared; copies, confirmations: the day of the first copy of the report, and of the confirmation that the work is
    done, by the role of who got it; cleared_on: the day on which everything that was required was accepted."""

    inspected_on: date | None
    outcome: str
    copies: Mapping[str, date]
    cleared_on: date | None
    confirmations: Mapping[str, date]


@record(kw_only=True)
class DutyState:
    """A duty of a landlord as it stands.

    due: its last day, None where none is known yet; done_on: None while it is not done, or nothing here shows it;
    counted_from: in words; shown: can anything that is recorded here show that it is done?
    """

    duty: str
    short: str
    who: str
    days: int | None
    counted_from: str
    due: date | None
    done_on: date | None
    shown: bool


def duty_states(nation: str, followed: Followed) -> tuple[DutyState, ...]:
    """The duties of a nation that this report leads to, in the order of the table."""
    return tuple(_state(duty, followed) for duty in intervals.duties(nation) if duty.only_if in ("", followed.outcome))


def _state(duty: intervals.Duty, followed: Followed) -> DutyState:
    event = None
    if duty.counted_from.startswith("inspection"):
        event = followed.inspected_on
    elif duty.counted_from == "completion":
        event = followed.cleared_on
    return DutyState(
        duty=duty.duty,
        short=duty.short,
        who=duty.who,
        days=duty.days,
        counted_from=duty.counted_from,
        due=duty.due(event) if event is not None else None,
        done_on=_done(duty.ticked_by, followed),
        shown=bool(duty.ticked_by),
    )


def _done(ticked_by: str, followed: Followed) -> date | None:
    what, _, roles = ticked_by.partition(":")
    match what:
        case "cleared":
            return followed.cleared_on
        case "copy":
            return _all_of(roles.split(), followed.copies)
        case "confirmation":
            return _all_of(roles.split(), followed.confirmations)
    return None


def _all_of(roles: Iterable[str], got: Mapping[str, date]) -> date | None:
    """The day on which the last of them got theirs; None while one has not."""
    days = [got.get(role) for role in roles]
    return None if None in days else max((day for day in days if day is not None), default=None)
