"""Where devices that did not see each other met in an inspection: asked of its journal, decided by the core."""

from collections.abc import Iterable, Sequence

from sqlalchemy import Connection, and_, bindparam, or_, select

from dorrik.core.basics.record import record
from dorrik.core.inspection.crossed_entries import (
    UNASKED,
    CrossedEntry,
    CrossedRemoval,
    Entry,
    by_entity,
    crossed,
    made_apart,
    removed_and_worked_on,
    under,
)
from dorrik.core.inspection.joining import Joining, alike, joining
from dorrik.core.inspection.kept_inspection import KeptInspection
from dorrik.core.inspection.kinds import KINDS
from dorrik.store.database.tables import change as journal


@record
class Doubled:
    """Two things that look like one and were recorded by devices that did not see each other's: the entries that made
    them, the earlier first, and what makes one of them."""

    first: Entry
    second: Entry
    joining: Joining


@record
class Crossings:
    """Everything that somebody is still to decide."""

    fields: tuple[CrossedEntry, ...]
    removals: tuple[CrossedRemoval, ...]
    doubled: tuple[Doubled, ...]

    @property
    def count(self) -> int:
        """How many questions there are."""
        return len(self.fields) + len(self.removals) + len(self.doubled)


def crossings(connection: Connection, kept: KeptInspection) -> Crossings:
    """What is to be decided in an inspection, as it and its journal stand in the caller's transaction."""
    if kept.erased:
        return Crossings((), (), ())
    return Crossings(_fields(connection, kept), _removals(connection, kept), _doubled(connection, kept))


def _fields(connection: Connection, kept: KeptInspection) -> tuple[CrossedEntry, ...]:
    places = connection.execute(_CROSSED, {"inspection_id": kept.id}).all()
    gone = _out_of_sight(kept)
    ids = {row.entity_id for row in places} - gone
    of_fields = {(row.entity_id, row.field) for row in places}
    entries = [one for one in _entries(connection, kept.id, ids) if (one.entity_id, one.field) in of_fields]
    return crossed(entries)


def _removals(connection: Connection, kept: KeptInspection) -> tuple[CrossedRemoval, ...]:
    return removed_and_worked_on(kept, _entries(connection, kept.id, _out_of_sight(kept)))


def _out_of_sight(kept: KeptInspection) -> set[str]:
    gone = [one.id for one in kept.entities.values() if one.values.get("removed")]
    return {one for entity_id in gone for one in under(kept, entity_id)}


def _doubled(connection: Connection, kept: KeptInspection) -> tuple[Doubled, ...]:
    gone = _out_of_sight(kept)
    pairs = [pair for pair in alike(kept) if gone.isdisjoint(pair)]
    ids = {one for pair in pairs for one in pair}
    placed = by_entity(
        one for one in _entries(connection, kept.id, ids) if one.field in KINDS[one.entity].parents
    )  # fmt: skip
    found = []
    for one, other in pairs:
        if one not in placed or other not in placed or not made_apart(placed[one], placed[other]):
            continue
        first, second = sorted((placed[one][0], placed[other][0]), key=lambda entry: entry.seq)
        found.append(Doubled(first, second, joining(kept, first.entity_id, second.entity_id)))
    return tuple(found)


def _entries(connection: Connection, inspection_id: str, entity_ids: Iterable[str]) -> Sequence[Entry]:
    ids = sorted(set(entity_ids))
    if not ids:
        return ()
    rows = connection.execute(_OF_ENTITIES, {"inspection_id": inspection_id, "ids": ids})
    return [Entry(*row) for row in rows]


_c = journal.c
_other, _later = journal.alias("other"), journal.alias("later")
_OF_ENTITIES = (
    select(
        _c.seq, _c.entity, _c.entity_id, _c.field, _c.value, _c.based_on, _c.made_at, _c.author_id, _c.device
    )
    .where(_c.inspection_id == bindparam("inspection_id"), _c.entity_id.in_(bindparam("ids", expanding=True)))
    .order_by(_c.seq)
)  # fmt: skip
#: Fields whose last entry came after one of another device that it had not seen: by the index of fields alone, but for
#: the few entries that were made while others came.
_CROSSED = (
    select(_c.entity_id, _c.field)
    .where(
        _c.inspection_id == bindparam("inspection_id"),
        _c.based_on < _c.seq - 1,
        _c.field.not_in(UNASKED),
        select(_other.c.seq)
        .where(
            _other.c.inspection_id == _c.inspection_id,
            _other.c.entity_id == _c.entity_id,
            _other.c.field == _c.field,
            _other.c.seq > _c.based_on,
            _other.c.seq < _c.seq,
            or_(_other.c.author_id != _c.author_id, _other.c.device != _c.device),
        )
        .exists(),
        ~select(_later.c.seq)
        .where(
            and_(
                _later.c.inspection_id == _c.inspection_id,
                _later.c.entity_id == _c.entity_id,
                _later.c.field == _c.field,
                _later.c.seq > _c.seq,
            )
        )
        .exists(),
    )
    .distinct()
)
