"""Outcome of a report from the codes of its open observations and from what stands against it (rules 13.1 and 13.5)."""

from collections.abc import Iterable, Mapping
from types import MappingProxyType
from typing import Literal

#: `open`: something is missing or unanswered, so that nothing can be said yet.
Outcome = Literal["satisfactory", "unsatisfactory", "open"]

CODES = ("C1", "C2", "C3", "FI")
UNSATISFACTORY = frozenset({"C1", "C2", "FI"})
#: The most serious first, as lists and reports have them.
ORDER = ("C1", "C2", "FI", "C3", "note")
#: How serious a code is, for holding one against another.
WEIGHT: Mapping[str, int] = MappingProxyType({code: len(ORDER) - place - 1 for place, code in enumerate(ORDER)})
MEANING = {
    "C1": "danger present",
    "C2": "potentially dangerous",
    "C3": "improvement recommended",
    "FI": "further investigation without delay",
    "note": "noted, not coded",
}

#: The same to whoever has to act on it.
FOR_A_LANDLORD = {
    "C1": "Danger: have it put right at once",
    "C2": "May become dangerous: have it put right urgently",
    "C3": "Improvement recommended; does not make the result unsatisfactory",
    "FI": "Cause unknown: have it looked into without delay",
}


def decide(codes: Iterable[str], against: int = 0) -> Outcome:
    """Unsatisfactory with any open C1, C2 or FI, else satisfactory. Raises ValueError for another code.

    against: number of other things that stand against it (`topics.against`): with one of them nothing is satisfactory.
    """
    seen = set(codes)
    if strange := seen - set(CODES):
        raise ValueError(f"Not a classification code: {', '.join(sorted(strange))}.")
    if seen & UNSATISFACTORY:
        return "unsatisfactory"
    return "open" if against else "satisfactory"


def in_words(outcome: Outcome, missing: str) -> str:
    """The outcome as it reads: `not decided: 3 failures without a code` while something stands against it (rule 13.5).

    missing: what is missing, in words, '' for nothing.
    """
    if outcome == "open":
        return f"not decided: {missing}"
    return f"{outcome}, and {missing}" if missing else outcome
