"""What is made of parts of something, and what is written of them, kept while they are the same objects."""

from collections.abc import Callable, Iterable, Sequence
from typing import Any, TypeVar

from dorrik.core.basics.record import plain

_T = TypeVar("_T")
_V = TypeVar("_V")


class IdentityCache:
    """What was made of the parts of something the time before. Of one thread at a time."""

    def __init__(self) -> None:
        self._wholes: dict[str, tuple[Any, Any]] = {}
        self._items: dict[str, dict[Any, tuple[Any, Any]]] = {}
        self._lists: dict[str, tuple[Any, Any]] = {}

    def each(
        self, part: str, things: Iterable[_T], make: Callable[[_T], _V], beside: Callable[[_T], Any] | None = None
    ) -> tuple[_V, ...]:
        """What a function makes of each thing in a part. beside: what else it is made of."""
        whole = self._lists.get(part)
        if whole is not None and whole[0] is things and beside is None and isinstance(things, tuple):
            same: tuple[_V, ...] = whole[1]
            return same
        before, now = self._items.get(part, {}), {}
        values: list[_V] = []
        for thing in things:
            key = id(thing) if beside is None else (id(thing), beside(thing))
            known = before.get(key)
            # The thing itself is held too: another could have the number of one that is gone.
            now[key] = known = known if known is not None and known[0] is thing else (thing, make(thing))
            values.append(known[1])
        self._items[part] = now
        made = tuple(values)
        self._lists[part] = (things, made)
        return made

    def written(self, part: str, value: Any) -> Any:
        """A part as data that JSON knows: the same object as before where it is of the same object."""
        known = self._wholes.get(part)
        if known is not None and known[0] is value:
            return known[1]
        data = self._written_items(part, value) if isinstance(value, tuple) else plain(value)
        if known is not None and known[1] == data:
            data = known[1]
        self._wholes[part] = (value, data)
        return data

    def _written_items(self, part: str, things: Sequence[Any]) -> list[Any]:
        return list(self.each(f"{part}, written", things, plain))
