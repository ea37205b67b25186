"""What a lead set should read: the mean of its accepted nulls over all inspections of the firm (rule 1.4)."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from sqlalchemy import Connection, select

from dorrik.core.basics.readings import Reading
from dorrik.core.home.instruments import nulls
from dorrik.core.inspection.records import LeadNull
from dorrik.store.database.tables import ENTITIES, inspection

#: The latest nulls tell more of the leads of today than those of years ago.
LATEST = 500


@dataclass(frozen=True, slots=True)
class KeptNull:
    """A null of a lead set: when (ISO 8601, UTC), what it read (Ω), and whether it was accepted."""

    at: str
    ohm: float
    accepted: bool


def log(connection: Connection, firm_id: str) -> Mapping[str, Sequence[KeptNull]]:
    """By lead set, its latest nulls, the oldest first."""
    c = ENTITIES["lead_null"].c
    query = (
        select(c.id, c.leads_id, c.known_ohm, c.reading_ohm, c.nulled_at)
        .join(inspection, inspection.c.id == c.inspection_id)
        .where(inspection.c.firm_id == firm_id, c.removed.isnot(True), c.leads_id.is_not(None))
        .where(c.reading_ohm.is_not(None), c.nulled_at.is_not(None))
        .order_by(c.nulled_at.desc())
        .limit(LATEST)
    )
    kept = [
        LeadNull(
            id=row.id,
            leads_id=row.leads_id,
            known_ohm=row.known_ohm,
            reading_ohm=Reading.parse(row.reading_ohm),
            nulled_at=row.nulled_at.isoformat() + "Z",
        )
        for row in connection.execute(query)
    ]
    by_lead_set: dict[str, list[KeptNull]] = {}
    for lead_null in nulls(kept):
        reading = lead_null.null.reading_ohm
        if reading is not None and reading.value is not None and lead_null.null.leads_id:
            null = KeptNull(lead_null.null.nulled_at or "", reading.value, lead_null.doubtful is None)
            by_lead_set.setdefault(lead_null.null.leads_id, []).append(null)
    return {leads: sorted(sets, key=lambda null: null.at) for leads, sets in by_lead_set.items()}


def mean(kept: Sequence[KeptNull]) -> tuple[float, int] | None:
    """The mean (Ω) of the accepted ones and how many they are; None without one."""
    accepted = [null.ohm for null in kept if null.accepted]
    return (sum(accepted) / len(accepted), len(accepted)) if accepted else None
