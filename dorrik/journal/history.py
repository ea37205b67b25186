"""Reading the journal: what changed since a sequence number, and the history of one field."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy import Connection, Row, Select, select

from dorrik.core.basics.identifiers import is_id
from dorrik.store.database.account_tables import person
from dorrik.store.database.tables import change as journal


@dataclass(frozen=True, slots=True)
class HistoryEntry:
    """One kept change: who changed what from what, when; overtook: seq of the entry it came after unseen."""

    seq: int
    id: str
    entity: str
    entity_id: str
    field: str
    value: Any
    before: Any
    overtook: int | None
    overtook_author_id: str | None
    made_at: datetime
    kept_at: datetime
    device: str
    instrument_id: str | None
    read_at: datetime | None
    read_by: str | None
    author_id: str
    author: str


def _entries(rows: Iterable[Row[Any]]) -> list[HistoryEntry]:
    return [HistoryEntry(*tuple(row)) for row in rows]


_c = journal.c
_earlier = journal.alias("earlier")


def _query(inspection_id: str) -> Select[Any]:
    return (
        select(
            _c.seq,
            _c.change_id,
            _c.entity,
            _c.entity_id,
            _c.field,
            _c.value,
            _c.before,
            _c.overtook,
            _earlier.c.author_id,
            _c.made_at,
            _c.kept_at,
            _c.device,
            _c.instrument_id,
            _c.read_at,
            _c.read_by,
            _c.author_id,
            person.c.name,
        )
        .join(person, person.c.id == _c.author_id)
        .outerjoin(_earlier, (_earlier.c.inspection_id == _c.inspection_id) & (_earlier.c.seq == _c.overtook))
        .where(_c.inspection_id == inspection_id)
    )


def since(connection: Connection, inspection_id: str, seq: int, limit: int = 1000) -> list[HistoryEntry]:
    """Entries after a sequence number, oldest first. The caller has checked whose inspection it is."""
    return _entries(connection.execute(_query(inspection_id).where(_c.seq > seq).order_by(_c.seq).limit(limit)))


def of_entity(
    connection: Connection, inspection_id: str, entity_id: str, field: str | None = None, limit: int = 100
) -> list[HistoryEntry]:
    """The history of one field of an entity, or of all of them, newest first; none where the id is no id."""
    if not is_id(entity_id):
        return []
    query = _query(inspection_id).where(_c.entity_id == entity_id)
    if field is not None:
        query = query.where(_c.field == field)
    return _entries(connection.execute(query.order_by(_c.seq.desc()).limit(limit)))
