"""Classification: the schools' views of an observation, and how far two people agree (rules 13.2 and 13.3)."""

from collections.abc import Iterable
from typing import Literal

from dorrik.core.catalogue import entries
from dorrik.core.record import record

School = Literal["mainstream", "stricter", "milder"]
#: The schools by name, as the house rule says them.
SCHOOLS: dict[str, School] = {"mainstream": "mainstream", "stricter": "stricter", "milder": "milder"}


@record
class View:
    """One school's code for an entry, and its reason."""

    school: School
    code: str
    reason: str


def views(key: str) -> tuple[View, View, View]:
    """The three schools' views of a catalogue entry, the mainstream first. Raises KeyError for an unknown entry."""
    entry = entries()[key]
    return (
        View("mainstream", entry.code, entry.why),
        View("stricter", entry.strict, entry.strict_why),
        View("milder", entry.mild, entry.mild_why),
    )


def suggest(key: str, school: School = "mainstream") -> View:
    """What the firm's school starts from; the inspector decides."""
    return next(view for view in views(key) if view.school == school)


@record
class Agreement:
    """How far pairs of codes agree: number, share, and kappa, the share beyond chance (None where it explains all)."""

    pairs: int
    share: float
    kappa: float | None


def agreement(pairs: Iterable[tuple[str, str]]) -> Agreement | None:
    """Agreement of first codes with blind second opinions; None without pairs.

    Cohen's kappa: (share − chance)/(1 − chance), chance from how often each of the two gives each code.
    """
    found = list(pairs)
    if not found:
        return None
    n = len(found)
    share = sum(a == b for a, b in found) / n
    codes = {code for pair in found for code in pair}
    chance = sum(sum(a == c for a, _ in found) * sum(b == c for _, b in found) for c in codes) / n**2
    return Agreement(n, share, None if chance >= 1 - 1e-12 else (share - chance) / (1 - chance))
