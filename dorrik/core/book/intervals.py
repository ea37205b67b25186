"""When the next inspection is due, and the duties that follow a report (rules 14.1 and 14.2)."""

from datetime import date, timedelta

from dorrik.core.basics.record import record
from dorrik.core.basics.verdict import Verdict
from dorrik.core.book.reference import cached, rows

CAUTION = "Check the law that applies where the property is."


@cached
def longest_years(premises: str, nation: str = "all") -> float:
    """Longest usual time to the next inspection (years). Raises LookupError for premises not in the table."""
    for wanted in (nation, "all"):
        for row in rows("intervals"):
            if row["premises"] == premises and row["nation"] == wanted:
                return float(row["years"])
    raise LookupError(f"No interval is tabulated for {premises!r}.")


def next_due(inspected_on: date, premises: str, nation: str = "all", years: float | None = None) -> date:
    """The date by which the next inspection is due, counted from the inspection's own date.

    premises, nation: as in the table; years: the inspector's shorter interval, None for the longest usual one. A longer
    one than usual is brought back to it.
    """
    longest = longest_years(premises, nation)
    wanted = longest if years is None else min(years, longest)
    months = round(wanted * 12)
    month = inspected_on.month - 1 + months
    year, month = inspected_on.year + month // 12, month % 12 + 1
    # The last day of a shorter month, where the day itself does not exist there.
    following = date(year + month // 12, month % 12 + 1, 1)
    return date(year, month, min(inspected_on.day, (following - timedelta(days=1)).day))


@record
class IntervalProposal:
    """An interval to the next inspection: whole years, why, and the longest that is usual for the tenure."""

    years: int
    reason: str
    longest: int


@record(kw_only=True)
class Signs:
    """What shortens an interval. condition: 'good', 'fair', 'poor' or None; improvements: number of C3; put_right:
    number of C1, C2 and FI that were open; low_by: year in which insulation reaches its minimum if it goes on so, or
    None; older_devices: fuses or breakers of standards no longer made; damp: weather gets in; oldest: the part that is
    known to be the oldest, and the latest year that it can be of."""

    condition: str | None = None
    improvements: int = 0
    put_right: int = 0
    low_by: int | None = None
    older_devices: bool = False
    damp: bool = False
    oldest: tuple[str, int] | None = None


#: Wiring of that age is looked at again sooner than is usual for a home that is not let (years).
OLD_YEARS = 40


def propose(premises: str, nation: str, signs: Signs, year: int | None = None) -> IntervalProposal:
    """An interval with its reasons, never longer than is usual for the tenure (rule 14.1).

    year: of the inspection, for a trend. Raises LookupError for premises not in the table.
    """
    longest = int(longest_years(premises, nation))
    years, why = longest, [f"{longest} years are the most that is usual for {_a(premises)}"]
    if signs.condition == "poor":
        years, why = min(years, max(1, longest // 2)), [*why, "its condition is poor"]
    elif signs.condition == "fair" and longest > 5:
        years, why = min(years, longest - 3), [*why, "its condition is fair"]
    if signs.put_right >= 3:
        years, why = min(years, max(1, longest - 2)), [*why, f"{signs.put_right} observations are C1, C2 or FI"]
    if signs.improvements >= 3:
        years, why = min(years, max(1, longest - 1)), [*why, f"{signs.improvements} improvements are recommended"]
    if signs.older_devices and longest > 5:
        years, why = min(years, 5), [*why, "its devices are of older standards"]
    if signs.damp and longest > 5:
        years, why = min(years, 5), [*why, "damp or weather gets in"]
    if signs.oldest is not None and year is not None and year - signs.oldest[1] >= OLD_YEARS and longest > 5:
        years, why = min(years, 5), [*why, f"its oldest part ({signs.oldest[0]}) is of {signs.oldest[1]} or earlier"]
    if signs.low_by is not None and year is not None and signs.low_by - year <= years:
        years = max(1, min(years, signs.low_by - year - 1))
        why.append(f"insulation would reach its minimum about {signs.low_by} if it goes on so")
    reasons = why[0] + ("" if len(why) == 1 else "; shorter, since " + ", ".join(why[1:]))
    return IntervalProposal(years, f"{reasons}.", longest)


def _a(premises: str) -> str:
    return f"{'an' if premises[0] in 'aeiou' else 'a'} {premises}"


def judge(years: int, premises: str, nation: str) -> Verdict | None:
    """An interval (years) longer than is usual or lawful for the tenure is pointed out; None within it (rule 14.1)."""
    try:
        longest = longest_years(premises, nation)
    except LookupError:
        return None
    if years <= longest:
        return None
    return Verdict(
        status="attention",
        reason=f"{years} years for {_a(premises)}, where {longest:g} are the most that is usual.",
        source="intervals · rule 14.1",
        limit=longest,
        margin=longest - years,
        next_step=f"Shorten it, or give the reason and the law you go by. {CAUTION}",
    )


@record
class Duty:
    """A reminder of a legal duty: what, whose, how many days from which event; None where no days are set.

    short: in a few words, for a line of time; only_if: the outcome that it follows from, '' for every one; ticked_by:
    what shows that it is done (see `duty_states`), '' where nothing that is recorded does.
    """

    nation: str
    duty: str
    who: str
    days: int | None
    counted_from: str
    short: str
    only_if: str
    ticked_by: str

    def due(self, event: date) -> date | None:
        """The last day, counted from the event; None where no days are set."""
        return None if self.days is None else event + timedelta(days=self.days)


@cached
def duties(nation: str) -> tuple[Duty, ...]:
    """The duties of a nation as understood in 2026, to be shown with CAUTION; () for one not in the table."""
    return tuple(
        Duty(
            row["nation"],
            row["duty"],
            row["who"],
            int(row["days"]) if row["days"] else None,
            row["counted_from"],
            row["short"],
            row["only_if"],
            row["ticked_by"],
        )
        for row in rows("duties")
        if row["nation"] == nation
    )
