"""The classification codes, from the gravest to a mere note, and what each means (rule 13.1)."""

from collections.abc import Mapping
from types import MappingProxyType

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
    "note": "no code",
}

#: The same to whoever has to act on it.
FOR_A_LANDLORD = {
    "C1": "Danger: have it put right at once",
    "C2": "May become dangerous: have it put right urgently",
    "C3": "Improvement recommended; does not make the result unsatisfactory",
    "FI": "Cause unknown: have it looked into without delay",
}
