"""Which readings were taken while leads were in doubt (rule 1.4): the nulls are in the inspection, when each reading
was made is in the journal."""

from datetime import datetime

from sqlalchemy import Connection, and_, func, or_, select

from dorrik.core.inspection import KINDS, Inspection
from dorrik.core.instruments import nulls
from dorrik.store.tables import change as journal

_FIELDS = tuple(
    {name for kind in KINDS.values() for name, spec in kind.fields.items() if spec.quantity == "continuity"}
)


def doubtful(connection: Connection, inspection: Inspection) -> frozenset[tuple[str, str]]:
    """Entity and field of readings whose latest entry was made within the span that a bad null marks."""
    spans = [one.doubtful for one in nulls(inspection.lead_nulls) if one.doubtful]
    if not spans:
        return frozenset()
    c = journal.c
    latest = (
        select(c.entity_id, c.field, func.max(c.seq).label("seq"))
        .where(c.inspection_id == inspection.id, c.field.in_(_FIELDS), c.entity != "lead_null")
        .group_by(c.entity_id, c.field)
        .subquery()
    )
    within = or_(
        *(
            and_(c.made_at >= _moment(since), c.made_at < _moment(until)) if until else c.made_at >= _moment(since)
            for since, until in spans
        )
    )
    query = (
        select(c.entity_id, c.field).join(latest, latest.c.seq == c.seq).where(c.inspection_id == inspection.id, within)
    )
    return frozenset((row.entity_id, row.field) for row in connection.execute(query))


def _moment(text: str) -> datetime:
    return datetime.fromisoformat(text.removesuffix("Z"))
