"""What two devices entered without seeing each other: which entries crossed, and what was entered into the removed.

An entry has seen another where that stood in the journal when it was made (`based_on`). Of two that have not seen each
other the one that arrives last stands; that says nothing of which is right, so somebody is asked. Whoever enters the
field again having seen both has answered: nothing else is kept of it.
"""

from collections.abc import Iterable, Mapping, Sequence
from datetime import datetime
from itertools import pairwise
from typing import Any

from dorrik.core.basics.record import record
from dorrik.core.inspection.kept_inspection import KeptInspection
from dorrik.core.inspection.kinds import KINDS

#: Fields that put things in order: nobody asks whose order is right.
UNASKED = frozenset(("position",))


@record
class Entry:
    """One entry of the journal, in its order (`seq`). author: the person's id; device: the device's own id."""

    seq: int
    entity: str
    entity_id: str
    field: str
    value: Any
    based_on: int
    made_at: datetime
    author: str
    device: str

    @property
    def writer(self) -> tuple[str, str]:
        """Who wrote it, where: what one person enters on one device never crosses itself."""
        return self.author, self.device


@record
class CrossedEntry:
    """A field where entries crossed. stands: the one that arrived last; others: what other devices entered there, each
    its last, unseen by the one that stands and of another value."""

    stands: Entry
    others: tuple[Entry, ...]


@record
class CrossedRemoval:
    """Something was removed by one and worked on by another, neither seeing the other. entered: what was entered there
    and is out of sight now, in the order of the journal."""

    removed: Entry
    entered: tuple[Entry, ...]


def crossed(entries: Iterable[Entry]) -> tuple[CrossedEntry, ...]:
    """Fields where entries crossed and nobody has decided since. entries: of any fields, in the order of the journal;
    all of a field, or none."""
    by_field: dict[tuple[str, str], list[Entry]] = {}
    for entry in entries:
        if entry.field not in UNASKED:
            by_field.setdefault((entry.entity_id, entry.field), []).append(entry)
    crossings = (_crossed(of_field) for of_field in by_field.values())
    return tuple(crossing for crossing in crossings if crossing is not None)


def _crossed(entries: Sequence[Entry]) -> CrossedEntry | None:
    stands = entries[-1]
    unseen: dict[tuple[str, str], Entry] = {}
    for entry in entries[:-1]:
        if entry.writer != stands.writer and entry.seq > stands.based_on:
            unseen[entry.writer] = entry
    others = tuple(entry for entry in unseen.values() if entry.value != stands.value)
    return CrossedEntry(stands, others) if others else None


def under(kept: KeptInspection, entity_id: str) -> frozenset[str]:
    """Ids of an entity and of what goes out of sight with it. Points of a circuit stay: they still hang on the wall."""
    hanging: dict[str, list[str]] = {}
    for entity in kept.entities.values():
        if entity.kind != "point":
            hanging.setdefault(entity.parent_id, []).append(entity.id)
    whole, next_ones = {entity_id}, [entity_id]
    while next_ones:
        below = [one for above in next_ones for one in hanging.get(above, ()) if one not in whole]
        whole.update(below)
        next_ones = below
    return frozenset(whole)


def removed_and_worked_on(kept: KeptInspection, entries: Sequence[Entry]) -> tuple[CrossedRemoval, ...]:
    """What was removed while another entered something there. entries: all of what is removed and of what hangs on it,
    in the order of the journal."""
    gone = [entity for entity in kept.entities.values() if entity.values.get("removed")]
    ids = {one.id for one in gone}
    removals = []
    for entity in gone:
        if _is_under(kept, entity.parent_id, ids):
            continue
        last = [entry for entry in entries if (entry.entity_id, entry.field) == (entity.id, "removed")]
        if not last:
            continue
        removal, here = last[-1], under(kept, entity.id)
        entered = tuple(
            entry
            for entry in entries
            if entry.entity_id in here and entry.writer != removal.writer and _unseen(entry, removal)
        )
        if entered:
            removals.append(CrossedRemoval(removal, entered))
    return tuple(removals)


def _is_under(kept: KeptInspection, parent_id: str, gone: set[str]) -> bool:
    """Does it hang on something that is removed itself?"""
    while parent_id in kept.entities and parent_id != kept.id:
        if parent_id in gone:
            return True
        parent_id = kept.entities[parent_id].parent_id
    return False


def _unseen(entry: Entry, removal: Entry) -> bool:
    if entry.field in UNASKED or entry.field == "removed" or entry.field in KINDS[entry.entity].parents:
        return False
    if entry.seq < removal.seq:
        return entry.seq > removal.based_on
    return entry.based_on < removal.seq


def made_apart(first: Sequence[Entry], second: Sequence[Entry]) -> bool:
    """Were two things made by devices that did not see the other's, and has nobody decided since that they are two?

    first, second: the entries that put each into its parent, the one that made it first. Whoever puts one of them where
    it is once more, having seen both, says that they are two; who moves one says nothing of that.
    """
    earlier, later = sorted((first[0], second[0]), key=lambda entry: entry.seq)
    if earlier.writer == later.writer or later.based_on >= earlier.seq:
        return False
    placed_again = (
        entry for entries in (first, second) for before, entry in pairwise(entries) if entry.value == before.value
    )
    return not any(entry.based_on >= later.seq for entry in placed_again)


def by_entity(entries: Iterable[Entry]) -> Mapping[str, list[Entry]]:
    """Entries by the entity that they are of."""
    entries_of: dict[str, list[Entry]] = {}
    for entry in entries:
        entries_of.setdefault(entry.entity_id, []).append(entry)
    return entries_of
