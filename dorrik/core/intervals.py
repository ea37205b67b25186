"""When the next inspection is due, and the duties that follow a report (rules 14.1 and 14.2)."""

from datetime import date, timedelta

from dorrik.core.record import record
from dorrik.core.reference import kept, rows

CAUTION = "Check the law that applies where the property stands."


@kept
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
class Duty:
    """A reminder of a legal duty: what, whose, how many days from which event."""

    nation: str
    duty: str
    who: str
    days: int
    counted_from: str

    def due(self, event: date) -> date:
        """The last day, counted from the event."""
        return event + timedelta(days=self.days)


@kept
def duties(nation: str) -> tuple[Duty, ...]:
    """The duties of a nation as understood in 2026, to be shown with CAUTION; () for one not in the table."""
    return tuple(
        Duty(row["nation"], row["duty"], row["who"], int(row["days"]), row["counted_from"])
        for row in rows("duties")
        if row["nation"] == nation
    )
