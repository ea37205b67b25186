"""An inspection as it is kept: entities with their fields, and putting them together for the rules.

The server has them from its tables, a device from what the server sent and what was entered since.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime
from typing import Any

from dorrik.core.inspection.document import build
from dorrik.core.inspection.kinds import KINDS
from dorrik.core.inspection.records import Inspection, in_order


@dataclass(slots=True)
class KeptEntity:
    """One entity: its kind, the id of what it belongs to, and its fields as they are kept."""

    kind: str
    id: str
    parent_id: str
    values: dict[str, Any]


@dataclass(slots=True)
class KeptInspection:
    """An inspection with everything in it; `entities` by id, the inspection itself among them."""

    id: str
    firm_id: str
    seq: int
    entities: dict[str, KeptEntity] = field(default_factory=dict)
    #: When it was last changed, as its row says.
    changed_at: datetime | None = None
    #: Whether the data of its client were erased.
    erased: bool = False
    #: The number of the last issue of its report, 0 for none, and when that was issued.
    issue: int = 0
    issued_at: datetime | None = None
    #: Entities as the rules see them, made for the last judgement; `touched` says which of them are out of date.
    built: dict[str, Any] = field(default_factory=dict)
    touched: set[str] = field(default_factory=set)


def new_entity(kind: str, entity_id: str, parent_id: str) -> KeptEntity:
    """An entity of that kind with nothing entered yet."""
    return KeptEntity(kind, entity_id, parent_id, dict.fromkeys(KINDS[kind].fields))


def put(kept: KeptInspection, kind: str, entity_id: str, name: str, value: Any) -> Any:
    """Set one field of one entity, as it was checked before; the kind's parent makes the entity or moves it. Returns
    what stood there; of what a parent makes or leaves as it is, None."""
    entity = kept.entities.get(entity_id)
    if name not in KINDS[kind].parents:
        if entity is None:
            raise LookupError(f"There is no {kind} {entity_id}.")
        before = entity.values[name]
        entity.values[name] = value
        kept.touched.add(entity_id)
        return before
    if entity is None:
        kept.entities[entity_id] = new_entity(kind, entity_id, value)
        kept.touched.add(entity_id)
        return None
    if entity.parent_id == value:
        return None
    before, entity.parent_id = entity.parent_id, value
    # Both of what it left and what it came to are built anew.
    kept.touched |= {before, entity_id}
    return before


_CHILDREN_FIRST = tuple(reversed(tuple(KINDS.values())))
#: Kinds that can hang on each, with the lists that they stand in.
_HANGING_ON: Mapping[str, tuple[tuple[str, str], ...]] = {
    name: tuple((child.name, child.plural) for child in KINDS.values() if name in child.parents) for name in KINDS
}


def assemble(kept: KeptInspection) -> Inspection:
    """The inspection as the rules judge it, without what was removed.

    What was built before and not touched since is taken as it is: a figure in one of many circuits builds that circuit,
    its board and the inspection anew.
    """
    if not kept.built:
        kept.touched = set(kept.entities)
    if kept.touched:
        _build(kept)
    inspection: Inspection | None = kept.built.get(kept.id)
    if inspection is None:
        raise LookupError("The inspection itself is missing among its entities.")
    return inspection


def _build(kept: KeptInspection) -> None:
    stale = _with_parents(kept)
    loose = _loose_points(kept)
    to_build: dict[str, list[KeptEntity]] = {}
    hanging: dict[tuple[str, str], list[str]] = {}
    for entity in kept.entities.values():
        if entity.id in stale:
            to_build.setdefault(entity.kind, []).append(entity)
        parent_id = kept.id if entity.id in loose else entity.parent_id
        if parent_id in stale:
            hanging.setdefault((entity.kind, parent_id), []).append(entity.id)
    # Children first: a board is built with its circuits in hand.
    for kind in _CHILDREN_FIRST:
        for entity in to_build.get(kind.name, ()):
            lists = {
                plural: in_order([kept.built[entity_below] for entity_below in hanging.get((child, entity.id), ())])
                for child, plural in _HANGING_ON[kind.name]
            }
            kept.built[entity.id] = build(kind, entity.id, entity.values, **lists)
    kept.touched = set()


def _loose_points(kept: KeptInspection) -> frozenset[str]:
    """Points whose circuit or board was taken out: they still hang on the wall, and wait for another circuit."""
    gone = {
        entity.id
        for entity in kept.entities.values()
        if entity.kind in ("board", "circuit") and entity.values["removed"]
    }
    if not gone:
        return frozenset()
    gone |= {entity.id for entity in kept.entities.values() if entity.kind == "circuit" and entity.parent_id in gone}
    return frozenset(
        entity.id for entity in kept.entities.values() if entity.kind == "point" and entity.parent_id in gone
    )


def _with_parents(kept: KeptInspection) -> set[str]:
    """What was touched, with everything that it stands in."""
    stale: set[str] = set()
    for entity_id in kept.touched:
        at: str | None = entity_id
        while at is not None and at not in stale:
            stale.add(at)
            entity = kept.entities.get(at)
            at = entity.parent_id if entity is not None and at != kept.id else None
    return stale
