"""Outcome of a report from the codes of its open observations (rules 13.1 and 13.5)."""

from collections.abc import Iterable
from typing import Literal

#: `open`: something fails and nothing is coded that speaks of it, so that nothing can be said yet.
Outcome = Literal["satisfactory", "unsatisfactory", "open"]

CODES = ("C1", "C2", "C3", "FI")
UNSATISFACTORY = frozenset({"C1", "C2", "FI"})
#: The most pressing first, as lists and reports have them.
ORDER = ("C1", "C2", "FI", "C3", "note")
MEANING = {
    "C1": "danger present",
    "C2": "potentially dangerous",
    "C3": "improvement recommended",
    "FI": "further investigation without delay",
    "note": "noted, not coded",
}


def decide(codes: Iterable[str], uncoded: int = 0) -> Outcome:
    """Unsatisfactory with any open C1, C2 or FI, else satisfactory. Raises ValueError for another code.

    uncoded: failing verdicts that no observation speaks of: with one of them nothing is ever satisfactory.
    """
    seen = set(codes)
    if strange := seen - set(CODES):
        raise ValueError(f"Not a classification code: {', '.join(sorted(strange))}.")
    if seen & UNSATISFACTORY:
        return "unsatisfactory"
    return "open" if uncoded else "satisfactory"


def in_words(outcome: Outcome, coded: int, uncoded: int) -> str:
    """The outcome as it reads: `no codes yet, 3 failing` while failures stand and nothing is coded (rule 13.5).

    coded: observations with a code; uncoded: failing verdicts that no observation speaks of.
    """
    if outcome == "open":
        return f"{f'{coded} coded' if coded else 'no codes yet'}, {uncoded} failing"
    return f"{outcome}, {uncoded} more failing and not coded" if uncoded else outcome
