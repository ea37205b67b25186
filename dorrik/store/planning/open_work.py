"""What there is to visit: open jobs with their properties, inspections on hold, and visits that were recorded."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, datetime

from sqlalchemy import Connection, select

from dorrik.core.work.register import STATES
from dorrik.store.database.tables import ENTITIES, ENTRIES, inspection
from dorrik.store.register.register import RegisterRecord, entry_of

#: States of a job in which somebody still has to go there.
OPEN = STATES[:-1]


@dataclass(frozen=True, slots=True)
class JobToVisit:
    """A job with its property, whose it is, and the times at which the property can be entered."""

    job: RegisterRecord
    home: RegisterRecord
    client_id: str
    client: str


@dataclass(frozen=True, slots=True)
class HeldInspection:
    """An inspection that waits for a return visit."""

    id: str
    job_id: str
    reference: str
    return_on: date | None
    reason: str


@dataclass(frozen=True, slots=True)
class Attended:
    """Somebody's time at an inspection of a job."""

    job_id: str
    inspection_id: str
    who: str
    arrived_at: datetime
    left_at: datetime


def jobs(connection: Connection, firm_id: str) -> list[JobToVisit]:
    """Jobs that are open and for which no inspection was begun, or whose inspections all wait; by number."""
    j, p, c = ENTRIES["job"], ENTRIES["property"], ENTRIES["client"]
    query = (
        select(j, p.c.parent_id.label("client_id"), c.c.name.label("client_name"))
        .join(p, (p.c.firm_id == j.c.firm_id) & (p.c.id == j.c.parent_id))
        .join(c, (c.c.firm_id == p.c.firm_id) & (c.c.id == p.c.parent_id))
        .where(j.c.firm_id == firm_id, j.c.removed.isnot(True), p.c.removed.isnot(True), c.c.removed.isnot(True))
        .where(j.c.state.is_(None) | j.c.state.in_(OPEN))
        .order_by(j.c.number, j.c.id)
    )
    rows = connection.execute(query).all()
    homes_query = select(p).where(p.c.firm_id == firm_id, p.c.id.in_({row.parent_id for row in rows}))
    homes = {row.id: entry_of("property", row) for row in connection.execute(homes_query)}
    return [
        JobToVisit(
            entry_of("job", row), homes[row.parent_id], row.client_id, row.client_name or "Client without a name"
        )
        for row in rows
    ]


def begun(connection: Connection, firm_id: str) -> dict[str, bool]:
    """Jobs for which an inspection was begun, by their ids: is any of them still in hand, not on hold?"""
    i = inspection.c
    rows = connection.execute(
        select(i.job_id, i.issued_number, i.held_at).where(
            i.firm_id == firm_id, i.job_id.is_not(None), i.erased_at.is_(None)
        )
    )
    by_job: dict[str, bool] = {}
    for row in rows:
        by_job[row.job_id] = by_job.get(row.job_id, False) or (row.issued_number is None and row.held_at is None)
    return by_job


def held(connection: Connection, firm_id: str) -> list[HeldInspection]:
    """Inspections of jobs that are on hold and not issued."""
    i = inspection.c
    rows = connection.execute(
        select(i.id, i.job_id, i.reference, i.return_on, i.held_reason).where(
            i.firm_id == firm_id, i.job_id.is_not(None), i.held_at.is_not(None), i.issued_number.is_(None),
            i.erased_at.is_(None),
        )
    )  # fmt: skip
    return [
        HeldInspection(row.id, row.job_id, row.reference or "", row.return_on, row.held_reason or "") for row in rows
    ]


def attended(connection: Connection, firm_id: str, job_ids: Iterable[str] | None = None) -> list[Attended]:
    """Times on site that were recorded from arriving to leaving, of inspections that belong to a job."""
    i, a = inspection.c, ENTITIES["attendance"].c
    query = (
        select(i.job_id, i.id, a.who, a.arrived_at, a.left_at)
        .join(ENTITIES["attendance"], a.inspection_id == i.id)
        .where(i.firm_id == firm_id, i.job_id.is_not(None), i.erased_at.is_(None), a.removed.isnot(True))
        .where(a.arrived_at.is_not(None), a.left_at.is_not(None), a.left_at > a.arrived_at)
    )
    if job_ids is not None:
        query = query.where(i.job_id.in_(list(job_ids)))
    return [Attended(row[0], row[1], row[2] or "", row[3], row[4]) for row in connection.execute(query)]
