"""A firm's inspections as lines of a list."""

from dataclasses import dataclass
from datetime import date, datetime
from typing import Any

from sqlalchemy import Connection, and_, func, select

from dorrik.store.tables import inspection, issued_report


@dataclass(frozen=True, slots=True)
class Line:
    """One inspection: what names it, when it is due again, and its latest issue (number and outcome)."""

    id: str
    reference: str | None
    property_address: str | None
    client_name: str | None
    inspected_on: str | None
    next_due: str | None
    changed_at: datetime
    issued: int | None
    outcome: str | None
    left: int | None = None
    failing: int | None = None
    held_reason: str | None = None
    return_on: str | None = None


def _due(inspected_on: date | None, years: int | None) -> str | None:
    if inspected_on is None or years is None:
        return None
    day = 28 if (inspected_on.month, inspected_on.day) == (2, 29) else inspected_on.day
    return inspected_on.replace(year=inspected_on.year + years, day=day).isoformat()


def lines(connection: Connection, firm_id: str, limit: int = 500) -> list[Line]:
    """The firm's inspections, the one changed last first."""
    i, r = inspection.c, issued_report.c
    latest = select(r.inspection_id, func.max(r.number).label("number")).group_by(r.inspection_id).subquery()
    query = (
        select(
            i.id,
            i.reference,
            i.property_address,
            i.client_name,
            i.inspected_on,
            i.next_years,
            i.changed_at,
            r.number,
            r.outcome,
        )
        .outerjoin(latest, latest.c.inspection_id == i.id)
        .outerjoin(issued_report, and_(r.inspection_id == i.id, r.number == latest.c.number))
        .where(i.firm_id == firm_id)
        .order_by(i.changed_at.desc())
        .limit(limit)
    )
    found: list[Line] = []
    row: Any
    for row in connection.execute(query):
        day = row.inspected_on
        due = _due(day, row.next_years)
        shown = day.isoformat() if day else None
        found.append(Line(*row[:4], shown, due, row.changed_at, row.number, row.outcome))
    return found


def is_issued(connection: Connection, inspection_id: str) -> bool:
    """Was a report of it issued? The caller has checked whose inspection it is."""
    c = issued_report.c
    return connection.execute(select(c.id).where(c.inspection_id == inspection_id).limit(1)).first() is not None


def latest_reference(connection: Connection, firm_id: str) -> str | None:
    """The greatest reference of the firm, longer ones after shorter ones; None where it has none."""
    i = inspection.c
    query = select(i.reference).where(i.firm_id == firm_id, i.reference.is_not(None))
    return connection.execute(query.order_by(func.length(i.reference).desc(), i.reference.desc()).limit(1)).scalar()
