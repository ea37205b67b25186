"""What a firm settles about its letters: words of its own in each, and how long before a legal date it reminds."""

from collections.abc import Mapping
from types import MappingProxyType

#: Where the firm's own words stand, by their name.
TEXTS: Mapping[str, str] = MappingProxyType(
    {
        "report_mail": "In the mail with a report",
        "confirmation_mail": "In the mail with a confirmation that all is put right",
        "reminder_mail": "In a reminder before a legal date",
        "job_mail": "In the mail that confirms a job",
    }
)
LONGEST = 1000
#: Days before a legal date on which a client is reminded, where the firm says so; none until it does.
MOST_DAYS, MOST_REMINDERS = 60, 4


def clean_days(days: list[int]) -> list[int]:
    """The days, the longest first, each once. Raises ValueError."""
    if any(not 1 <= day <= MOST_DAYS for day in days):
        raise ValueError(f"A reminder goes 1 to {MOST_DAYS} days before the date.")
    kept = sorted(set(days), reverse=True)
    if len(kept) > MOST_REMINDERS:
        raise ValueError(f"At most {MOST_REMINDERS} reminders go before one date.")
    return kept
