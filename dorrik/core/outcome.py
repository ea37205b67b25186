"""Outcome of a report from the codes of its open observations (rule 13.1)."""

from collections.abc import Iterable
from typing import Literal

Outcome = Literal["satisfactory", "unsatisfactory"]

CODES = ("C1", "C2", "C3", "FI")
UNSATISFACTORY = frozenset({"C1", "C2", "FI"})
MEANING = {
    "C1": "danger present",
    "C2": "potentially dangerous",
    "C3": "improvement recommended",
    "FI": "further investigation without delay",
    "note": "noted, not coded",
}


def decide(codes: Iterable[str]) -> Outcome:
    """Unsatisfactory with any open C1, C2 or FI, else satisfactory. Raises ValueError for another code."""
    seen = set(codes)
    if strange := seen - set(CODES):
        raise ValueError(f"Not a classification code: {', '.join(sorted(strange))}.")
    return "unsatisfactory" if seen & UNSATISFACTORY else "satisfactory"
