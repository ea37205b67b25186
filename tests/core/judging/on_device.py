"""Homes as a device is told of them: entities side by side, ids as they are made on devices."""

import json
import random
from typing import Any
from uuid import UUID, uuid5

from dorrik.core.inspection.document import ids, parse, write
from dorrik.core.inspection.kinds import KINDS

NOW = "2026-12-01T10:00:00.000Z"
#: Names ids of the simulated homes, which are short.
SPACE = UUID(int=7)
CHOICES = {name: spec.choices for kind in KINDS.values() for name, spec in kind.fields.items()}
NO_FACTS: dict[str, Any] = {"read_at": [], "read_by": [], "signed": {}}


def with_uuids(document: dict[str, Any]) -> dict[str, Any]:
    """The same document, of today's version, with ids as devices make them, wherever they stand."""
    document = write(parse(document))
    named = {one: str(uuid5(SPACE, one)) for one in ids(document)}

    def renamed(value: Any, of: str = "") -> Any:
        if isinstance(value, dict):
            return {name: renamed(one, name) for name, one in value.items()}
        if isinstance(value, list):
            return [renamed(one, of) for one in value]
        # A bath may be called what a field calls one.
        return named.get(value, value) if isinstance(value, str) and value not in CHOICES.get(of, ()) else value

    return renamed(document)


def entities(document: dict[str, Any]) -> list[dict[str, Any]]:
    """Every entity of a document by itself, with what it hangs on."""
    found: list[dict[str, Any]] = []

    def walk(kind: str, entity: dict[str, Any], parent_id: str) -> None:
        values = {name: value for name, value in entity.items() if name in KINDS[kind].fields}
        found.append({"kind": kind, "id": entity["id"], "parent_id": parent_id, "values": values})
        for child in KINDS.values():
            for one in entity.get(child.plural, ()) if kind in child.parents else ():
                walk(child.name, one, entity["id"])

    walk("inspection", document["inspection"], "firm")
    return found


def opened(document: dict[str, Any], **more: Any) -> dict[str, Any]:
    """What a device asks its judge of a home that it opens."""
    asked = {
        "id": document["inspection"]["id"], "firm_id": "firm", "entities": entities(document), "facts": NO_FACTS,
        "entered": [], "blind": [], "changes": [], "now": NOW,
    }  # fmt: skip
    return asked | more


def changed(kind: str, entity_id: str, field: str, value: Any, **more: Any) -> dict[str, Any]:
    """A change as a device makes it."""
    change = {
        "id": new_id(), "entity": kind, "entity_id": entity_id, "field": field, "value": value, "based_on": 0,
        "made_at": NOW, "device": "tablet",
    }  # fmt: skip
    return change | more


def new_id(chance: random.Random | None = None) -> str:
    return str(UUID(int=(chance or random).getrandbits(128)))


def text(told: Any) -> str:
    return json.dumps(told, ensure_ascii=False, sort_keys=True)
