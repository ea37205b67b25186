"""Ids of entities, changes and inspections: UUIDs, made where the thing was made."""

import re

_IDENTIFIER = re.compile(r"[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}")


def is_id(text: str) -> bool:
    """Is that a UUID as it is kept, in small letters? Nothing else is looked up."""
    return _IDENTIFIER.fullmatch(text) is not None
