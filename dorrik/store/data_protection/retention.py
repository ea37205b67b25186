"""How long a firm keeps what it knows of a client, and what that is; erasing it: `store.erasing`."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any

from sqlalchemy import Connection, func, or_, select, update

from dorrik.store.database.account_tables import firm
from dorrik.store.database.tables import ENTITIES, ENTRIES, book_change, inspection, issued_report
from dorrik.store.reports.reports import OFFER

#: Years after the last work, where the firm has settled nothing: claims out of a contract run out after six.
KEEP_YEARS = 6
KEEP_REPORTS_YEARS = 10


class TooEarly(Exception):
    """The time for which the firm keeps this is not over; `until` is the first day on which it is."""

    def __init__(self, until: date) -> None:
        super().__init__(f"Kept until {until.isoformat()}.")
        self.until = until


@dataclass(frozen=True, slots=True)
class Kept:
    """What is kept of a client: entries of the register, inspections, reports, photos; since when nothing was done."""

    properties: int
    jobs: int
    inspections: int
    reports: int
    photos: int
    last_work: date | None
    erasable_from: date | None
    reports_until: date | None


def settle(connection: Connection, firm_id: str, keep_years: int, keep_reports_years: int) -> None:
    """Settle for how many years after the last work a client's data, and their reports, are kept."""
    connection.execute(
        update(firm).where(firm.c.id == firm_id).values(keep_years=keep_years, keep_reports_years=keep_reports_years)
    )


def years(connection: Connection, firm_id: str) -> tuple[int, int]:
    """For how many years data and reports are kept."""
    row = connection.execute(select(firm.c.keep_years, firm.c.keep_reports_years).where(firm.c.id == firm_id)).one()
    return (
        KEEP_YEARS if row.keep_years is None else row.keep_years,
        KEEP_REPORTS_YEARS if row.keep_reports_years is None else row.keep_reports_years,
    )


def later(day: date, by: int) -> date:
    """The same day so many years later."""
    try:
        return day.replace(year=day.year + by)
    except ValueError:
        return day.replace(year=day.year + by, day=28)


def properties_of(connection: Connection, firm_id: str, client_id: str) -> list[str]:
    """Ids of a client's properties, removed ones too."""
    c = ENTRIES["property"].c
    return list(connection.execute(select(c.id).where(c.firm_id == firm_id, c.parent_id == client_id)).scalars())


def inspections_at(connection: Connection, firm_id: str, properties: Iterable[str]) -> list[str]:
    """Ids of the inspections at those properties."""
    c = inspection.c
    query = select(c.id).where(c.firm_id == firm_id, c.property_id.in_(list(properties)))
    return list(connection.execute(query.order_by(c.id)).scalars())


def below(connection: Connection, firm_id: str, kind: str, properties: list[str]) -> list[str]:
    """Ids of the entries of a kind that belong to those properties, removed ones too."""
    c = ENTRIES[kind].c
    query = select(c.id).where(c.firm_id == firm_id, c.parent_id.in_(properties))
    return list(connection.execute(query).scalars())


def kept(connection: Connection, firm_id: str, client_id: str) -> Kept:
    """What is kept of a client of that firm. The caller has checked that there is one."""
    homes = properties_of(connection, firm_id, client_id)
    jobs = below(connection, firm_id, "job", homes)
    at = inspections_at(connection, firm_id, homes)
    r, p = issued_report.c, ENTITIES["photo"].c
    reports, issued = connection.execute(
        select(func.count(), func.max(r.issued_at)).where(
            r.inspection_id.in_(at), r.erased_at.is_(None), r.kind != OFFER
        )
    ).one()
    photos = connection.execute(
        select(func.count(func.distinct(p.sha256))).where(p.inspection_id.in_(at), p.sha256.is_not(None))
    ).scalar_one()
    last = _last_work(connection, firm_id, client_id, homes, jobs, at)
    keep, keep_reports = years(connection, firm_id)
    return Kept(
        len(homes), len(jobs), len(at), reports, photos, last, later(last, keep) if last else None,
        later(issued.date(), keep_reports) if issued else None,
    )  # fmt: skip


def _last_work(
    connection: Connection, firm_id: str, client_id: str, homes: list[str], jobs: list[str], at: list[str]
) -> date | None:
    """The last day on which anything was done for a client: a change of the register, an inspection, a booked visit."""
    b, i, j = book_change.c, inspection.c, ENTRIES["job"].c
    of_kind = or_(
        (b.kind == "client") & (b.entry_id == client_id),
        (b.kind == "property") & b.entry_id.in_(homes),
        (b.kind == "job") & b.entry_id.in_(jobs),
    )
    last_days: list[Any] = [
        connection.execute(select(func.max(b.made_at)).where(b.firm_id == firm_id, of_kind)).scalar(),
        connection.execute(select(func.max(i.changed_at)).where(i.id.in_(at))).scalar(),
        connection.execute(select(func.max(i.inspected_on)).where(i.id.in_(at))).scalar(),
        connection.execute(select(func.max(j.booked_on)).where(j.firm_id == firm_id, j.id.in_(jobs))).scalar(),
    ]
    days = [day.date() if isinstance(day, datetime) else day for day in last_days if day is not None]
    return max(days, default=None)
