"""Outcome of a report from the codes of its open observations and from what stands against it (rules 13.1 and 13.5)."""

from collections.abc import Iterable
from typing import Literal

from dorrik.core.book.codes import CODES, UNSATISFACTORY

#: `open`: something is missing or unanswered, so that nothing can be said yet.
Outcome = Literal["satisfactory", "unsatisfactory", "open"]


def decide(codes: Iterable[str], against: int = 0) -> Outcome:
    """Unsatisfactory with any open C1, C2 or FI, else satisfactory. Raises ValueError for another code.

    against: number of other things that stand against it (`against`): with one of them nothing is satisfactory.
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
