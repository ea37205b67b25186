"""When each reading was entered, and by whom it was taken: the journal knows, the document does not."""

from datetime import UTC

from sqlalchemy import Connection, and_, func, select

from dorrik.core.home.instruments import CONTINUITY_FIELDS
from dorrik.core.home.journal_facts import leads_in_doubt
from dorrik.core.inspection.records import Inspection
from dorrik.core.judging.topics.note import Figure
from dorrik.store.database.tables import change as journal


def asks_journal(inspection: Inspection) -> bool:
    """Is there anything that only the journal knows, and the rules ask for?"""
    return leads_in_doubt(inspection) or any(attendance.purpose == "trainee" for attendance in inspection.attendances)


def measured_at(connection: Connection, inspection: Inspection, seq: int) -> dict[tuple[str, str], str]:
    """Time of the latest reading (ISO 8601, UTC) by entity id and field of every continuity reading, as the journal had
    it at a sequence number: what was kept since is not of the inspection in hand.

    Empty while no null is bad: the rules ask for times only then, and this is asked at every keystroke.
    """
    if not leads_in_doubt(inspection):
        return {}
    c = journal.c
    latest = (
        select(c.entity_id, c.field, func.max(c.seq).label("seq"))
        .where(c.inspection_id == inspection.id, c.seq <= seq, c.field.in_(CONTINUITY_FIELDS))
        .group_by(c.entity_id, c.field)
        .subquery()
    )
    query = (
        select(c.entity_id, c.field, func.coalesce(c.read_at, c.made_at).label("read_at"))
        .join(latest, latest.c.seq == c.seq)
        .where(c.inspection_id == inspection.id)
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
    c = journal.c
    here = and_(c.inspection_id == inspection.id, c.seq <= seq)
    # A signature that was taken back signs for nothing.
    signing = [attendance.id for attendance in inspection.attendances if attendance.countersigned_at is not None]
    signatures = (
        select(c.entity_id, func.max(c.seq).label("seq"))
        .where(here, c.entity_id.in_(signing), c.field == "countersigned_at", c.value.is_not(None))
        .group_by(c.entity_id)
    )
    signed = {row.entity_id: row.seq for row in connection.execute(signatures)}
    latest = (
        select(c.entity_id, c.field, func.max(c.seq).label("seq")).where(here).group_by(c.entity_id, c.field).subquery()
    )
    query = (
        select(c.entity_id, c.field, c.seq, c.read_by)
        .join(latest, latest.c.seq == c.seq)
        .where(here, c.read_by.in_(trainees), c.value.is_not(None))
        .order_by(c.seq)
    )
    unsigned: dict[str, tuple[Figure, ...]] = {}
    for row in connection.execute(query):
        if row.seq > signed.get(row.read_by, 0):
            unsigned[row.read_by] = (*unsigned.get(row.read_by, ()), (row.entity_id, row.field))
    return unsigned
