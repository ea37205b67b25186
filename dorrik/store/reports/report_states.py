"""How the latest report of each inspection stands, for lists: written when something is done about it."""

from collections.abc import Sequence
from dataclasses import asdict, dataclass, fields
from datetime import date
from typing import Any

from sqlalchemy import Connection, func, select
from sqlalchemy.dialects.mysql import insert as upsert

from dorrik.store.database.follow_up_tables import report_state
from dorrik.store.database.tables import inspection

#: Lines of a page.
PAGE = 50


@dataclass(frozen=True, slots=True)
class ReportState:
    """counting: items that count against the result; cleared: of these; reported: of these, said to be put right and
    not looked at yet; worst: the most serious code that is open, '' for none; due: the last legal day for the work;
    next_visit: when somebody is to do some of it; copy_due: the last legal day of a copy that nobody has; closed: is
    nothing left to be done?"""

    counting: int
    cleared: int
    reported: int
    worst: str
    due: date | None
    next_visit: date | None
    copy_due: date | None
    confirmed_on: date | None
    closed: bool


@dataclass(frozen=True, slots=True)
class ReportLine:
    """A report of a list: of which inspection, what names it, and how it stands."""

    inspection_id: str
    reference: str
    home: str
    client: str
    state: ReportState


def keep(connection: Connection, firm_id: str, inspection_id: str, state: ReportState) -> None:
    """Write down how a report stands."""
    values = asdict(state)
    given = upsert(report_state).values(inspection_id=inspection_id, firm_id=firm_id, **values)
    connection.execute(given.on_duplicate_key_update(**values))


def missing(connection: Connection, limit: int) -> Sequence[tuple[str, str]]:
    """Firm and inspection of reports of which nothing is written down yet."""
    i, s = inspection.c, report_state.c
    query = (
        select(i.firm_id, i.id)
        .outerjoin(report_state, s.inspection_id == i.id)
        .where(i.issued_number.is_not(None), i.erased_at.is_(None), s.inspection_id.is_(None))
        .limit(limit)
    )
    return [(row.firm_id, row.id) for row in connection.execute(query)]


def open_ones(
    connection: Connection, firm_id: str, start: int = 0, limit: int = PAGE, until: date | None = None
) -> tuple[list[ReportLine], int]:
    """Reports with something left to clear, to confirm or to send, by their last day, and how many there are. until:
    those alone whose day is then or before."""
    i, s = inspection.c, report_state.c
    day = func.least(func.coalesce(s.due, date.max), func.coalesce(s.copy_due, date.max))
    here = [s.firm_id == firm_id, s.closed.is_(False), i.erased_at.is_(None)]
    if until is not None:
        here.append(day <= until)
    source = report_state.join(inspection, i.id == s.inspection_id)
    count = connection.execute(select(func.count()).select_from(source).where(*here)).scalar_one()
    query = (
        select(report_state, i.reference, i.installation_name, i.property_address, i.client_name)
        .select_from(source)
        .where(*here)
        .order_by(day, s.reported.desc(), i.id)
        .offset(start)
        .limit(limit)
    )
    return [_line(row) for row in connection.execute(query)], count


def _line(row: Any) -> ReportLine:
    home = ", ".join(part for part in (row.installation_name, row.property_address) if part)
    return ReportLine(row.inspection_id, row.reference or "", home, row.client_name or "", _state(row))


def _state(row: Any) -> ReportState:
    return ReportState(*(getattr(row, field.name) for field in fields(ReportState)))


def of(connection: Connection, inspection_ids: Sequence[str]) -> dict[str, ReportState]:
    """How the reports of those inspections stand, by their ids."""
    s = report_state.c
    rows = connection.execute(select(report_state).where(s.inspection_id.in_(inspection_ids)))
    return {row.inspection_id: _state(row) for row in rows}
