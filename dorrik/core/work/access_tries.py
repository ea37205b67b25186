"""Tries to get in where nobody opened: what is on record before a landlord asks for a remedy (rule 14.2).

A landlord who cannot let an inspector in has to show that everything reasonable was done. Three tries on days of their
own, each announced in writing at least a day before and shown by evidence, are what that is taken to be here; the law
that applies decides.
"""

from collections.abc import Sequence
from datetime import date, datetime, timedelta

from dorrik.core.basics.record import record

#: So many tries, and each announced so long before.
TRIES = 3
NOTICE = timedelta(hours=24)
SOURCE = "24 hours' written notice: Landlord and Tenant Act 1985, section 11(6), England and Wales"
CAUTION = "Check the law that applies where the property is."


@record
class AccessTry:
    """A try to get in. at: when somebody stood at the door, on the clock there; told_at: when the occupier was last
    told in writing of that day, None for not; evidence: is there a photo?"""

    at: datetime
    told_at: datetime | None
    evidence: bool


@record
class TryStanding:
    """A try as it counts. counts: does it count?; missing: what it lacks, in words."""

    on: date
    counts: bool
    missing: tuple[str, ...]


@record
class AccessStanding:
    """Where the tries stand. counting: of `of`; next_step: in words."""

    tries: tuple[TryStanding, ...]
    counting: int
    of: int
    next_step: str

    @property
    def complete(self) -> bool:
        """Is everything on record that a remedy is asked for with?"""
        return self.counting >= self.of


def standing(tries: Sequence[AccessTry]) -> AccessStanding:
    """Where the tries stand, in the order in which they were made. Two on one day are one."""
    tries_standing: list[TryStanding] = []
    days: set[date] = set()
    for access_try in sorted(tries, key=lambda each: each.at):
        missing = []
        if access_try.told_at is None:
            missing.append("no letter told the occupier of that day")
        elif access_try.at - access_try.told_at < NOTICE:
            missing.append("the letter left less than 24 hours before")
        if not access_try.evidence:
            missing.append("no photo shows it")
        if access_try.at.date() in days:
            missing.append("a second try on one day")
        counts = not missing
        if counts:
            days.add(access_try.at.date())
        tries_standing.append(TryStanding(access_try.at.date(), counts, tuple(missing)))
    counting = len(days)
    return AccessStanding(tuple(tries_standing), counting, TRIES, _next(counting, tries_standing))


def _next(counting: int, tries: Sequence[TryStanding]) -> str:
    if counting >= TRIES:
        return "Three tries are on record. The landlord can show them, and ask for access. " + CAUTION
    left = TRIES - counting
    more = "one more try" if left == 1 else f"{left} more tries"
    if not tries:
        return ""
    return f"{counting} of {TRIES} count: {more} on another day, told in writing a day before, with a photo."
