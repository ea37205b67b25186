"""An inspection with some fields written otherwise, again and again while it changes."""

from collections.abc import Callable, Mapping
from dataclasses import replace
from functools import cache
from typing import Any, cast

from dorrik.core.inspection.kinds import KINDS
from dorrik.core.inspection.records import Inspection

_NAME_OF = {kind.type: name for name, kind in KINDS.items()}

#: What is written otherwise of an entity, given the name of its kind: values by field; empty for nothing.
Fields = Callable[[str, Any], Mapping[str, Any]]


class Rewritten:
    """One inspection after another. What is the same object as the time before, and of which the same is written, stays
    the same object: nobody has to look at it again."""

    def __init__(self) -> None:
        # By kind and id: the entity, what was written of it, and the entity with that.
        self._known: dict[tuple[type, str], tuple[Any, dict[str, Any], Any]] = {}
        self._by: Any = None

    def of(self, inspection: Inspection, by: Any, fields: Fields) -> Inspection:
        """The inspection with some fields written otherwise. by: all that `fields` goes by beside the entity itself;
        where it is what it was, entities that are the same objects are not asked about."""
        same = self._by == by
        self._by = by
        return cast(Inspection, self._of(inspection, fields, same=same))

    def _of(self, entity: Any, fields: Fields, *, same: bool) -> Any:
        key = (type(entity), entity.id)
        known = self._known.get(key)
        if same and known is not None and known[0] is entity:
            return known[2]
        kind = _NAME_OF[type(entity)]
        changed = dict(fields(kind, entity))
        for name in _lists(kind):
            before = getattr(entity, name)
            after = tuple(self._of(part, fields, same=same) for part in before)
            if any(one is not other for one, other in zip(before, after, strict=True)):
                changed[name] = after
        if known is not None and known[0] is entity and known[1] == changed:
            return known[2]
        rewritten = replace(entity, **changed) if changed else entity
        self._known[key] = (entity, changed, rewritten)
        return rewritten


@cache
def _lists(kind: str) -> tuple[str, ...]:
    return tuple(child.plural for child in KINDS.values() if kind in child.parents)
