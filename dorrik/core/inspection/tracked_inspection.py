"""An inspection that is watched while the rules read it: entities that stay the same objects while their fields change.

A rule reads `circuit.zs_ohm` as of any circuit; which entity and which field it was is written down for the cell that
runs. When the inspection has become another, the fields that differ mark the cells that have read them.
"""

from collections.abc import Callable
from dataclasses import fields
from functools import cache
from typing import Any, cast

from dorrik.core.basics.cells import Cells
from dorrik.core.inspection.kinds import KINDS
from dorrik.core.inspection.records import Inspection

_KIND_OF = {kind.type: kind for kind in KINDS.values()}


@cache
def _lists(kind: type) -> tuple[str, ...]:
    """Fields of a kind that hold other entities."""
    name = _KIND_OF[kind].name
    return tuple(child.plural for child in KINDS.values() if name in child.parents)


@cache
def _values(kind: type) -> tuple[tuple[int, Callable[[Any], Any]], ...]:
    """Every other field: its bit, and what reads it."""
    lists = _lists(kind)
    named = enumerate(field.name for field in fields(kind))
    return tuple((1 << at, getattr(kind, name).__get__) for at, name in named if name not in lists)


@cache
def _watched(kind: type) -> Any:
    """The class of the watched entities of a kind: one of that kind, told apart by which object it is."""
    lists = _lists(kind)
    made: dict[str, Any] = {
        # now: the entity as it is; lists: what hangs on it, by field.
        "__slots__": ("cells", "lists", "now", "readers"),
        "__eq__": object.__eq__,
        "__hash__": object.__hash__,
        # Its own slots alone can be set: fields have no setter.
        "__setattr__": object.__setattr__,
        # A copy with another field (`dataclasses.replace`) is a plain entity.
        "__class__": property(lambda _: kind),
    }
    for at, field in enumerate(fields(kind)):
        made[field.name] = property(
            _list_reader(field.name, 1 << at)
            if field.name in lists
            else _reader(getattr(kind, field.name).__get__, 1 << at)
        )
    return type(kind.__name__, (kind,), made)


def _reader(get: Callable[[Any], Any], bit: int) -> Callable[[Any], Any]:
    def read(self: Any) -> Any:
        reading = self.cells.reading
        if reading is not None:
            reading[self] = reading.get(self, 0) | bit
        return get(self.now)

    return read


def _list_reader(name: str, bit: int) -> Callable[[Any], Any]:
    def read(self: Any) -> Any:
        reading = self.cells.reading
        if reading is not None:
            reading[self] = reading.get(self, 0) | bit
        return self.lists[name]

    return read


class TrackedInspection:
    """One inspection, as it is now."""

    def __init__(self, cells: Cells) -> None:
        self._cells = cells
        self._known: dict[tuple[type, str], Any] = {}
        self._top: Any = None

    @property
    def top(self) -> Inspection:
        """The inspection itself, watched. It stays the same object."""
        return cast(Inspection, self._top)

    def becomes(self, inspection: Inspection) -> None:
        """Take the inspection as it is now. Entities that are the same objects as before are not looked at."""
        self._top = self._take(inspection)

    def _take(self, entity: Any) -> Any:
        kind: Any = type(entity)
        tracked = self._known.get((kind, entity.id))
        if tracked is None:
            tracked = object.__new__(_watched(kind))
            tracked.cells, tracked.readers, tracked.now = self._cells, {}, entity
            tracked.lists = {name: tuple(map(self._take, getattr(entity, name))) for name in _lists(kind)}
            self._known[kind, entity.id] = tracked
            return tracked
        before = tracked.now
        if before is entity:
            return tracked
        parts = 0
        for bit, get in _values(kind):
            one, other = get(before), get(entity)
            if one is not other and (type(one) is not type(other) or one != other):
                parts |= bit
        for name in _lists(kind):
            parts |= self._take_list(tracked, before, entity, name)
        tracked.now = entity
        if parts:
            self._cells.changed(tracked, parts)
        return tracked

    def _take_list(self, tracked: Any, before: Any, entity: Any, name: str) -> int:
        one, other = getattr(before, name), getattr(entity, name)
        if one is other:
            return 0
        known = tracked.lists[name]
        if len(one) == len(other) == len(known):
            # Most of them are the very objects that they were.
            things = tuple(
                thing if was is now else self._take(now) for thing, was, now in zip(known, one, other, strict=True)
            )
        else:
            things = tuple(map(self._take, other))
        if things == known:
            return 0
        tracked.lists[name] = things
        return 1 << next(at for at, field in enumerate(fields(type(entity))) if field.name == name)
