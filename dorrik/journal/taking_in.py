"""Taking a whole inspection in from its document: one change a field, through the same door as everything typed."""

import re
from collections.abc import Callable, Mapping
from datetime import datetime
from typing import Any

from dorrik.core.basics.identifiers import is_id
from dorrik.core.inspection.change import IMPORTED, Change
from dorrik.core.inspection.document import ids as document_ids
from dorrik.core.inspection.kinds import KINDS, EntityKind
from dorrik.store.database.engine import new_id

#: What points into the register of the firm that it came from.
POINTS_OUT = ("property_id", "installation_id", "job_id")
_NAME = re.compile(r"[\w-]{1,36}")


def changes(
    document: Mapping[str, Any], firm_id: str, inspection_id: str, at: datetime, known: Callable[[str, str], bool]
) -> list[Change]:
    """The changes that make an inspection of a document (`core.inspection.document`, written by this version).

    inspection_id: under which it is made; known: is there an entry of that kind and id in the firm's register? What
    points at one that is not there is left out. Entities keep their ids where these are ids of ours, else they get new
    ones, and what refers to them follows.
    """
    whole = document["inspection"]
    ids = {document_id: document_id if is_id(document_id) else new_id() for document_id in document_ids(whole)} | {
        whole["id"]: inspection_id
    }
    known_changes: list[Change] = []

    def change(kind: str, entity_id: str, field: str, value: Any) -> None:
        known_changes.append(Change(new_id(), kind, entity_id, field, value, 0, at, IMPORTED))

    def entity(kind: EntityKind, given: Mapping[str, Any], parent: tuple[str, str]) -> None:
        entity_id = ids[given["id"]]
        change(kind.name, entity_id, *parent)
        children = {child.plural: child for child in KINDS.values() if kind.name in child.parents}
        for name, value in given.items():
            if name in children or name == "id" or value is None:
                continue
            if name in POINTS_OUT and not known(name.removesuffix("_id"), str(value)):
                continue
            change(kind.name, entity_id, name, _renamed(value, ids))
        for plural, child in children.items():
            for entity_given in given.get(plural, ()):
                entity(child, entity_given, (kind.name, entity_id))

    entity(KINDS["inspection"], whole, ("firm", firm_id))
    return known_changes


def _renamed(value: Any, ids: Mapping[str, str]) -> Any:
    if isinstance(value, Mapping):
        return {ids.get(key, key): _renamed(one, ids) for key, one in value.items()}
    if isinstance(value, list | tuple):
        return [_renamed(item, ids) for item in value]
    return ids.get(value, value) if isinstance(value, str) and _NAME.fullmatch(value) else value
