"""When each reading was entered: the journal knows, the document does not."""

from datetime import UTC

from sqlalchemy import Connection, func, select

from dorrik.core.inspection import Inspection
from dorrik.core.instruments import CONTINUITY_FIELDS, nulls
from dorrik.store.tables import change as journal


def measured_at(connection: Connection, inspection: Inspection) -> dict[tuple[str, str], str]:
    """Time of the latest reading (ISO 8601, UTC) by entity id and field of every continuity reading.

    Empty while no null is bad: the rules ask for times only then, and this is asked at every keystroke.
    """
    if not any(one.doubtful for one in nulls(inspection.lead_nulls)):
        return {}
    c = journal.c
    latest = (
        select(c.entity_id, c.field, func.max(c.seq).label("seq"))
        .where(c.inspection_id == inspection.id, c.field.in_(CONTINUITY_FIELDS))
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
