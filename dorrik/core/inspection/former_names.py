"""Names that were other ones once: documents, devices and charts that still say them are understood.

What was frozen is never changed, and a tablet may come back after weeks with entries under the names it knew.
"""

from collections.abc import Mapping
from typing import Any

#: Kinds of entity by what they were called.
KINDS: Mapping[str, str] = {"meter": "instrument_used"}
#: Fields by kind and what they were called.
FIELDS: Mapping[tuple[str, str], str] = {
    ("circuit", "points"): "points_served",
    ("point", "sort"): "kind",
    ("instrument_used", "sort"): "kind",
    ("instrument", "sort"): "kind",
}
#: Lists of a document by the kind that holds them and what they were called.
LISTS: Mapping[tuple[str, str], str] = {("inspection", "meters"): "instruments_used", ("circuit", "outlets"): "points"}


def kind(name: str) -> str:
    """The name of a kind today."""
    return KINDS.get(name, name)


def field(of: str, name: str) -> str:
    """The name of a field of a kind today."""
    return FIELDS.get((of, name), name)


def part(of: str, name: str, value: Any) -> str:
    """The name of a part of a document's entity today: a list of what stands in it, or a field."""
    if isinstance(value, list | tuple):
        return LISTS.get((of, name), name)
    return field(of, name)
