"""What a lead set should read: the mean of its accepted nulls over all inspections of the firm (rule 1.4)."""

from sqlalchemy import Connection, select

from dorrik.core.inspection import LeadNull
from dorrik.core.instruments import nulls
from dorrik.core.readings import Reading
from dorrik.store.tables import ENTITIES, inspection

#: The latest nulls tell more of the leads of today than those of years ago.
LATEST = 500


def known(connection: Connection, firm_id: str) -> dict[str, tuple[float, int]]:
    """By lead set, its mean (Ω) and from how many accepted nulls."""
    c = ENTITIES["lead_null"].c
    query = (
        select(c.id, c.leads_id, c.known_ohm, c.reading_ohm, c.nulled_at)
        .join(inspection, inspection.c.id == c.inspection_id)
        .where(inspection.c.firm_id == firm_id, c.removed.isnot(True), c.leads_id.is_not(None))
        .where(c.reading_ohm.is_not(None), c.nulled_at.is_not(None))
        .order_by(c.nulled_at.desc())
        .limit(LATEST)
    )
    log = [
        LeadNull(
            id=row.id,
            leads_id=row.leads_id,
            known_ohm=row.known_ohm,
            reading_ohm=Reading.parse(row.reading_ohm),
            nulled_at=row.nulled_at.isoformat() + "Z",
        )
        for row in connection.execute(query)
    ]
    accepted: dict[str, list[float]] = {}
    for one in nulls(log):
        reading = one.null.reading_ohm
        if one.doubtful is None and reading is not None and reading.value is not None and one.null.leads_id:
            accepted.setdefault(one.null.leads_id, []).append(reading.value)
    return {leads: (sum(values) / len(values), len(values)) for leads, values in accepted.items()}
