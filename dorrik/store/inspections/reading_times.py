"""When each reading was entered, and by whom it was taken: the journal knows, the document does not."""

from datetime import UTC
from typing import Any

from sqlalchemy import Connection, Row, and_, func, or_, select

from dorrik.core.home.instruments import CONTINUITY_FIELDS
from dorrik.core.home.journal_facts import TIMED_FIELDS, asks_times
from dorrik.core.inspection.change import IMPORTED
from dorrik.core.inspection.kept_inspection import KeptInspection
from dorrik.core.inspection.records import Inspection
from dorrik.core.judging.topics.note import Figure
from dorrik.store.database.tables import change as journal


def asks_journal(inspection: Inspection) -> bool:
    """Is there anything that only the journal knows, and the rules ask for?"""
    return asks_times(inspection) or any(attendance.purpose == "trainee" for attendance in inspection.attendances)


def measured_at(connection: Connection, inspection: Inspection, seq: int) -> dict[tuple[str, str], str]:
    """Time of the latest reading (ISO 8601, UTC) by entity id and field of every continuity and live reading, as the
    journal had it at a sequence number: what was kept since is not of the inspection in hand.

    Empty while nothing asks for times (`core/home/journal_facts.py`), for this is asked at every keystroke.
    """
    return _latest_times(connection, inspection.id, seq) if asks_times(inspection) else {}


def _latest_times(connection: Connection, inspection_id: str, seq: int) -> dict[Figure, str]:
    c = journal.c
    latest = (
        select(c.entity_id, c.field, func.max(c.seq).label("seq"))
        .where(c.inspection_id == inspection_id, c.seq <= seq, c.field.in_(TIMED_FIELDS))
        .group_by(c.entity_id, c.field)
        .subquery()
    )
    query = (
        select(c.entity_id, c.field, func.coalesce(c.read_at, c.made_at).label("read_at"))
        .join(latest, latest.c.seq == c.seq)
        # A continuity reading from elsewhere may have been taken with the leads that are in doubt here (rule 1.4).
        .where(c.inspection_id == inspection_id, or_(c.device != IMPORTED, c.field.in_(CONTINUITY_FIELDS)))
    )
    return {
        (row.entity_id, row.field): row.read_at.replace(tzinfo=UTC).isoformat() for row in connection.execute(query)
    }


def not_countersigned(connection: Connection, inspection: Inspection, seq: int) -> dict[str, tuple[Figure, ...]]:
    """Figures that stand as a trainee read them and that nobody has signed for since, by the trainee's attendance; at a
    sequence number, as `measured_at`.

    What counts is the order of the journal, not the clocks of devices. Nothing is asked where no trainee was there.
    """
    trainees = [attendance.id for attendance in inspection.attendances if attendance.purpose == "trainee"]
    if not trainees:
        return {}
    # A signature that was taken back signs for nothing.
    signing = [attendance.id for attendance in inspection.attendances if attendance.countersigned_at is not None]
    signed = _signatures(connection, inspection.id, seq, signing)
    unsigned: dict[str, tuple[Figure, ...]] = {}
    for row in _read_by(connection, inspection.id, seq, trainees):
        if row.seq > signed.get(row.read_by, 0):
            unsigned[row.read_by] = (*unsigned.get(row.read_by, ()), (row.entity_id, row.field))
    return unsigned


def _signatures(connection: Connection, inspection_id: str, seq: int, of: list[str]) -> dict[str, int]:
    """The sequence number of the last signature of each of these attendances."""
    c = journal.c
    query = (
        select(c.entity_id, func.max(c.seq).label("seq"))
        .where(c.inspection_id == inspection_id, c.seq <= seq, c.entity_id.in_(of))
        .where(c.field == "countersigned_at", c.value.is_not(None))
        .group_by(c.entity_id)
    )
    return {row.entity_id: row.seq for row in connection.execute(query)}


def _read_by(connection: Connection, inspection_id: str, seq: int, trainees: list[str]) -> list[Row[Any]]:
    """Figures that stand as one of these trainees read them, in the order of the journal."""
    c = journal.c
    here = and_(c.inspection_id == inspection_id, c.seq <= seq)
    latest = (
        select(c.entity_id, c.field, func.max(c.seq).label("seq")).where(here).group_by(c.entity_id, c.field).subquery()
    )
    query = (
        select(c.entity_id, c.field, c.seq, c.read_by)
        .join(latest, latest.c.seq == c.seq)
        .where(here, c.read_by.in_(trainees), c.value.is_not(None))
        .order_by(c.seq)
    )
    return list(connection.execute(query))


def for_device(connection: Connection, kept: KeptInspection) -> dict[str, Any]:
    """The same for a device that judges by itself, whether it is asked now or after what is entered there
    (`core/home/journal_facts.py`)."""
    attendances = [entity for entity in kept.entities.values() if entity.kind == "attendance"]
    trainees = [attendance.id for attendance in attendances if attendance.values["purpose"] == "trainee"]
    times = _latest_times(connection, kept.id, kept.seq)
    return {
        "read_at": [{"id": entity_id, "field": field, "at": at} for (entity_id, field), at in times.items()],
        "read_by": _by_whom(connection, kept, trainees),
        "signed": _signatures(connection, kept.id, kept.seq, trainees) if trainees else {},
    }


def _by_whom(connection: Connection, kept: KeptInspection, trainees: list[str]) -> list[dict[str, Any]]:
    rows = _read_by(connection, kept.id, kept.seq, trainees) if trainees else []
    return [{"id": row.entity_id, "field": row.field, "by": row.read_by, "seq": row.seq} for row in rows]
