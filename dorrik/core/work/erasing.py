"""What stays of a value when the data of a client are erased: figures, codes, dates and choices, which tell of nobody,
and what is declared to be something of our own (`FieldSpec.keeps`). Words go, wherever they stand."""

import re
from collections.abc import Callable, Mapping
from functools import cache
from types import MappingProxyType
from typing import Any

from dorrik.core.basics.readings import Reading, ReadingError
from dorrik.core.book import board_checks, catalogue
from dorrik.core.book.reference import rows
from dorrik.core.home import place_checks
from dorrik.core.inspection.field_spec import FieldSpec
from dorrik.core.inspection.kinds import KINDS

_ID = re.compile("[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}")
#: As inspections and jobs are numbered, such as K-0147.
_NUMBER = re.compile("[A-Z]{1,2}-[0-9]{1,8}")
_WAY = re.compile("[0-9]{1,3}[A-Z]?")


@cache
def _keys() -> frozenset[str]:
    """Keys of our own tables: entries of the catalogue, checks, and names of fields."""
    fields = {name for kind in KINDS.values() for name in kind.fields}
    lines = {row["key"] for row in rows("schedule")}
    return frozenset({*catalogue.entries(), *board_checks.items(), *place_checks.room_checks(), *lines, *fields})


_STAYS: Mapping[str, Callable[[str], bool]] = MappingProxyType(
    {
        "": lambda text: False,
        "id": lambda text: _ID.fullmatch(text) is not None,
        "number": lambda text: _NUMBER.fullmatch(text) is not None,
        "key": lambda text: text in _keys(),
        "way": lambda text: _WAY.fullmatch(text) is not None,
    }
)


def is_words(spec: FieldSpec) -> bool:
    """Is nothing of a field ever kept?"""
    return (spec.kind == "text" and not spec.keeps) or spec.kind == "pairings"


def may_hold_words(spec: FieldSpec) -> bool:
    """Can there be words in a field beside what is kept?"""
    return spec.kind in ("text", "reading", "pairings")


def left(spec: FieldSpec, value: Any) -> Any:
    """What stays of a kept value; None where nothing does."""
    if value is None or not may_hold_words(spec):
        return value
    if not isinstance(value, str) or is_words(spec):
        return None
    if spec.kind == "text":
        return value if _STAYS[spec.keeps](value) else None
    try:
        reading = Reading.parse(value, spec.unit, spec.quantity)
    except ReadingError:
        return None
    # Why something was not tested is told in words.
    return "LIM" if reading.kind == "limitation" else value
