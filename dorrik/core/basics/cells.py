"""What was worked out, kept with what it was read from, and worked out again only where that became different.

A cell holds what a function gave. While the function runs, everything that it reads of watched things and of other
cells is written down; a change marks the cells that read it, and those marked are worked out when they are next asked
for. What comes out equal to what stood there before reaches no further. So nobody has to say what depends on what, and
a dependence cannot be forgotten: what is not read through a watched thing or a cell must not change.
"""

from collections.abc import Callable, Hashable, Iterator
from typing import Any, TypeVar

from dorrik.core.basics.identity_cache import IdentityCache

_T = TypeVar("_T")

_SOUND, _TO_CHECK, _STALE = 0, 1, 2
#: Any part of what was read.
_ALL = -1
#: So many things of a list are worked out in one cell; a change among a thousand then looks at some sixty.
CHUNK = 32


class Readable:
    """Something that cells read: `readers` are those that did, each with the parts of it that it read (as bits)."""

    __slots__ = ("readers",)

    def __init__(self) -> None:
        self.readers: dict[Cell, int] = {}


class Cell(Readable):
    """What a function gave for some arguments."""

    __slots__ = ("arguments", "function", "needs", "state", "value")

    def __init__(self, function: Callable[..., Any], arguments: tuple[Any, ...]) -> None:
        super().__init__()
        self.function = function
        self.arguments = arguments
        self.value: Any = None
        self.needs: dict[Any, int] = {}
        self.state = _STALE

    def mark(self, state: int) -> None:
        """It may be out of date, or is; then whatever read it may be."""
        if self.state >= state:
            return
        sound, self.state = self.state == _SOUND, state
        if sound:
            for reader in self.readers:
                reader.mark(_TO_CHECK)


class Once:
    """Works everything out once, for a judgement that stands alone."""

    lasting = False

    def __init__(self) -> None:
        self.kept = IdentityCache()
        self._made: dict[tuple[Any, ...], tuple[tuple[Any, ...], Any]] = {}
        self._given: dict[Hashable, Any] = {}

    def made(self, function: Callable[..., Any], *arguments: Any) -> Any:
        """What a function gives; of a generator, all that it yields. Arguments are told apart by which objects they
        are."""
        # This runs for every circuit in every topic: of one or two arguments the key is made without a loop.
        few = 0 < len(arguments) < 3
        key = (function, id(arguments[0]), id(arguments[-1])) if few else (function, *map(id, arguments))
        known = self._made.get(key)
        if known is None:
            value = function(*arguments)
            # The arguments too: another object could have the number of one that is gone.
            known = self._made[key] = (arguments, tuple(value) if isinstance(value, Iterator) else value)
        return known[1]

    def each(
        self,
        function: Callable[..., Any],
        of: Any,
        things: Callable[[Any], tuple[Any, ...]],
        join: Callable[[list[Any]], Any] | None = None,
    ) -> Any:
        """What a function gives for every one of some things, one after the other: `function(of, *thing)`. join: makes
        one of several, where it does not matter of how many; here nobody gains by it."""
        return tuple(one for thing in things(of) for one in function(of, *thing))

    def clear(self) -> None:
        """Let go of everything: what is kept names what keeps it, which only a search for circles would end."""
        self._made.clear()
        self._given.clear()

    def put(self, key: Hashable, value: Any) -> None:
        """Keep something that is given from outside."""
        self._given[key] = value

    def given(self, key: Hashable) -> Any:
        """What was put under a key."""
        return self._given[key]


class Cells:
    """All cells of one thing that changes. Of one thread at a time.

    reading: what the cell that runs just now has read so far; None while none runs; kept: what was made of parts while
    none runs. A function that raises leaves its cell stale; what is kept stays sound.
    """

    lasting = True

    def __init__(self) -> None:
        self.kept = IdentityCache()
        self._cells: dict[tuple[Any, ...], Cell] = {}
        self.reading: dict[Any, int] | None = None

    def __len__(self) -> int:
        """How many cells there are, those that nobody asks for any more among them."""
        return len(self._cells)

    def clear(self) -> None:
        """Let go of everything, circles of cells and their readers among it."""
        for cell in self._cells.values():
            cell.readers.clear()
            cell.needs.clear()
            cell.arguments, cell.value = (), None
        self._cells.clear()
        self.kept = IdentityCache()

    def made(self, function: Callable[..., Any], *arguments: Hashable) -> Any:
        """What a function gives, worked out only where something that it read became different. Arguments are told
        apart by their hash and equality."""
        key = (function, *arguments)
        cell = self._cells.get(key)
        if cell is None:
            cell = self._cells[key] = Cell(function, arguments)
        if cell.state:
            self._refresh(cell)
        if self.reading is not None:
            self.reading[cell] = _ALL
        return cell.value

    def each(
        self,
        function: Callable[..., Any],
        of: Hashable,
        things: Callable[[Any], tuple[Any, ...]],
        join: Callable[[list[Any]], Any] | None = None,
    ) -> Any:
        """What a function gives for every one of some things, one after the other: `function(of, *thing)`. Each has a
        cell of its own, and so has each CHUNK of them. join: makes one of several, of each chunk."""
        return self.made(self._of_all, function, of, things, join)

    def put(self, key: Hashable, value: Any) -> None:
        """Keep something that is given from outside."""
        cell = self._cells.get((self.given, key))
        if cell is None:
            cell = self._cells[self.given, key] = Cell(self.given, (key,))
        elif _same(cell.value, value):
            return
        cell.value, cell.state = value, _SOUND
        self.changed(cell, _ALL)

    def given(self, key: Hashable) -> Any:
        """What was put under a key."""
        cell = self._cells[self.given, key]
        if self.reading is not None:
            self.reading[cell] = _ALL
        return cell.value

    def changed(self, thing: Readable, parts: int) -> None:
        """Some parts of something (as bits) became different."""
        for reader, read in thing.readers.items():
            if read & parts:
                reader.mark(_STALE)

    def _of_all(
        self, function: Callable[..., Any], of: Any, things: Callable[[Any], tuple[Any, ...]], join: Any
    ) -> tuple[Any, ...]:
        results: list[Any] = []
        for start in range(0, len(self.made(things, of)), CHUNK):
            results += self.made(self._chunk, function, of, things, join, start)
        return tuple(results)

    def _chunk(
        self, function: Callable[..., Any], of: Any, things: Callable[[Any], tuple[Any, ...]], join: Any, start: int
    ) -> tuple[Any, ...]:
        results: list[Any] = []
        for thing in self.made(things, of)[start : start + CHUNK]:
            results += self.made(function, of, *thing)
        return (join(results),) if join is not None else tuple(results)

    def _refresh(self, cell: Cell) -> None:
        if cell.state == _TO_CHECK:
            # In the order in which they were read: what was read only because of another comes after it.
            for need in cell.needs:
                if type(need) is Cell and need.state:
                    self._refresh(need)
                    if cell.state == _STALE:
                        break
            if cell.state == _TO_CHECK:
                cell.state = _SOUND
                return
        before, self.reading = self.reading, {}
        try:
            value = cell.function(*cell.arguments)
            if isinstance(value, Iterator):
                value = tuple(value)
            needs = self.reading
        finally:
            self.reading = before
        if needs != cell.needs:
            for gone in cell.needs.keys() - needs.keys():
                gone.readers.pop(cell, None)
            for need, parts in needs.items():
                need.readers[cell] = parts
            cell.needs = needs
        cell.state = _SOUND
        if not _same(value, cell.value):
            cell.value = value
            self.changed(cell, _ALL)


def _same(one: Any, other: Any) -> bool:
    return one is other or (type(one) is type(other) and bool(one == other))
