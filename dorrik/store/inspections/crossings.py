"""Where devices that did not see each other met in an inspection: asked of its journal, decided by the core."""

from collections.abc import Iterable, Sequence

from sqlalchemy import Connection, and_, bindparam, func, or_, select

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
    """Values are asked for only where entries crossed: of a journal of thousands that is few or none."""
    gone = _out_of_sight(kept)
    met = [
        crossing for crossing in crossed(_without_values(connection, kept.id)) if crossing.stands.entity_id not in gone
    ]
    seqs = [entry.seq for crossing in met for entry in (crossing.stands, *crossing.others)]
    if not seqs:
        return ()
    rows = connection.execute(_OF_SEQS, {"inspection_id": kept.id, "seqs": seqs})
    return crossed(Entry(*row) for row in rows)


def _without_values(connection: Connection, inspection_id: str) -> Iterable[Entry]:
    """Entries of fields that more than one device wrote, each as if its value were its own: the database looks for the
    fields, since fetching a row costs more than looking at it there."""
    for row in connection.execute(_BY_SEVERAL, {"inspection_id": inspection_id}):
        yield Entry(
            row.seq, row.entity, row.entity_id, row.field, row.seq, row.based_on, row.made_at, row.author_id,
            row.device,
        )  # fmt: skip


def _removals(connection: Connection, kept: KeptInspection) -> tuple[CrossedRemoval, ...]:
    return removed_and_worked_on(kept, _entries(connection, kept.id, _out_of_sight(kept)))


def _out_of_sight(kept: KeptInspection) -> set[str]:
    gone = [entity.id for entity in kept.entities.values() if entity.values.get("removed")]
    return {entity_below for entity_id in gone for entity_below in under(kept, entity_id)}


def _doubled(connection: Connection, kept: KeptInspection) -> tuple[Doubled, ...]:
    gone = _out_of_sight(kept)
    pairs = [pair for pair in alike(kept) if gone.isdisjoint(pair)]
    ids = {entity_id for pair in pairs for entity_id in pair}
    placed = by_entity(
        entry for entry in _entries(connection, kept.id, ids) if entry.field in KINDS[entry.entity].parents
    )  # fmt: skip
    doubled = []
    for one, other in pairs:
        if one not in placed or other not in placed or not made_apart(placed[one], placed[other]):
            continue
        first, second = sorted((placed[one][0], placed[other][0]), key=lambda entry: entry.seq)
        doubled.append(Doubled(first, second, joining(kept, first.entity_id, second.entity_id)))
    return tuple(doubled)


def _entries(connection: Connection, inspection_id: str, entity_ids: Iterable[str]) -> Sequence[Entry]:
    ids = sorted(set(entity_ids))
    if not ids:
        return ()
    rows = connection.execute(_OF_ENTITIES, {"inspection_id": inspection_id, "ids": ids})
    return [Entry(*row) for row in rows]


_c = journal.c
_OF_ENTITIES = (
    select(
        _c.seq, _c.entity, _c.entity_id, _c.field, _c.value, _c.based_on, _c.made_at, _c.author_id, _c.device
    )
    .where(_c.inspection_id == bindparam("inspection_id"), _c.entity_id.in_(bindparam("ids", expanding=True)))
    .order_by(_c.seq)
)  # fmt: skip
_OF_SEQS = (
    select(_c.seq, _c.entity, _c.entity_id, _c.field, _c.value, _c.based_on, _c.made_at, _c.author_id, _c.device)
    .where(_c.inspection_id == bindparam("inspection_id"), _c.seq.in_(bindparam("seqs", expanding=True)))
    .order_by(_c.seq)
)
_several = (
    select(_c.entity_id, _c.field)
    .where(_c.inspection_id == bindparam("inspection_id"), _c.field.not_in(UNASKED))
    .group_by(_c.entity_id, _c.field)
    .having(or_(func.min(_c.device) != func.max(_c.device), func.min(_c.author_id) != func.max(_c.author_id)))
    .subquery()
)
_BY_SEVERAL = (
    select(_c.seq, _c.entity, _c.entity_id, _c.field, _c.based_on, _c.made_at, _c.author_id, _c.device)
    .join_from(journal, _several, and_(_several.c.entity_id == _c.entity_id, _several.c.field == _c.field))
    .where(_c.inspection_id == bindparam("inspection_id"))
    .order_by(_c.seq)
)
