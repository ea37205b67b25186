"""The data that go with a report: the inspection as it was frozen, without the identifiers of our own tables.

A PDF is handed on to people we don't know. Inside it things still have to name each other (a board its circuits, a note
its circuit): they get names that mean nothing outside it, in the order in which they were made.
"""

import re
from collections.abc import Mapping
from typing import Any

from dorrik.core.inspection.document import ids as document_ids

_UUID = re.compile(r"[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}")


def attachment(frozen: Mapping[str, Any]) -> dict[str, Any]:
    """The frozen data with names of its own; what points out of it (register, job, instruments) is left out."""
    inside = sorted(set(document_ids(frozen.get("inspection"))))
    names = {identity: f"e{at:05d}" for at, identity in enumerate(inside, 1)}
    document: dict[str, Any] = _renamed(frozen, names)
    return document


def _renamed(value: Any, names: Mapping[str, str]) -> Any:
    if isinstance(value, Mapping):
        return {names.get(key, key): _renamed(one, names) for key, one in value.items() if not _points_out(one, names)}
    if isinstance(value, list | tuple):
        return [_renamed(item, names) for item in value]
    return names.get(value, value) if isinstance(value, str) else value


def _points_out(value: Any, names: Mapping[str, str]) -> bool:
    return isinstance(value, str) and value not in names and _UUID.fullmatch(value) is not None
