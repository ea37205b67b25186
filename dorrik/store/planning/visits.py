"""A firm's plan of visits as it is kept: where each visit is, what was put there by hand, and what the plan goes by."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any

from sqlalchemy import Connection, insert, literal_column, select, update
from sqlalchemy.dialects.mysql import insert as upsert

from dorrik.store.database.engine import now
from dorrik.store.database.planning_tables import planned_visit, travel_time, visit_plan


@dataclass(frozen=True, slots=True)
class KeptVisit:
    """A visit as it is kept. inspector_id, day, begins_min: its place, None where it has none; minutes: how long it was
    planned for; why: it has no place; version: counts its changes."""

    id: str
    job_id: str
    inspection_id: str | None
    inspector_id: str | None
    day: date | None
    begins_min: float | None
    minutes: float | None
    pinned: bool
    why: str | None
    version: int
    changed_at: datetime
    changed_by: str | None


@dataclass(frozen=True, slots=True)
class PlanHead:
    """What a plan is as a whole. settings: what differs from the usual; moved: by the last planning, and why."""

    version: int
    settings: dict[str, Any]
    planned_at: datetime | None
    planned_s: float | None
    moved: list[dict[str, Any]]


@dataclass(frozen=True, slots=True)
class KeptPlace:
    """Where a visit is now: whose day, which, from when, for how long; or why nowhere."""

    visit_id: str
    job_id: str
    inspection_id: str | None
    inspector_id: str | None
    day: date | None
    begins_min: float | None
    minutes: float
    pinned: bool
    why: str | None = None


def head(connection: Connection, firm_id: str, *, lock: bool = False) -> PlanHead:
    """A firm's plan; an empty one where it has none. lock: nobody else changes it until the transaction ends."""
    query = select(visit_plan).where(visit_plan.c.firm_id == firm_id)
    if lock:
        empty = {"firm_id": firm_id, "version": 0, "settings": {}, "moved": []}
        connection.execute(upsert(visit_plan).values(**empty).on_duplicate_key_update(firm_id=firm_id))
        query = query.with_for_update()
    row = connection.execute(query).one_or_none()
    if row is None:
        return PlanHead(0, {}, None, None, [])
    return PlanHead(row.version, row.settings, row.planned_at, row.planned_s, row.moved)


def change_head(connection: Connection, firm_id: str, **values: Any) -> int:
    """Change the plan as a whole, whose lock the transaction holds; returns its new version."""
    c = visit_plan.c
    connection.execute(update(visit_plan).where(c.firm_id == firm_id).values(version=c.version + 1, **values))
    return head(connection, firm_id).version


def of_firm(connection: Connection, firm_id: str) -> dict[str, KeptVisit]:
    """Every visit that has or had a place, by its id."""
    query = select(*(column for column in planned_visit.c if column.name != "firm_id")).where(
        planned_visit.c.firm_id == firm_id
    )
    return {row.id: KeptVisit(**row._mapping) for row in connection.execute(query)}


def one(connection: Connection, firm_id: str, visit_id: str) -> KeptVisit | None:
    """A visit of that firm; None where there is none of that id."""
    c = planned_visit.c
    query = select(*(column for column in c if column.name != "firm_id")).where(c.firm_id == firm_id, c.id == visit_id)
    row = connection.execute(query).one_or_none()
    return KeptVisit(**row._mapping) if row is not None else None


def place(connection: Connection, firm_id: str, person_id: str | None, places: Iterable[KeptPlace]) -> None:
    """Write down where visits are now."""
    at = now()
    rows = [
        {
            "firm_id": firm_id, "id": one.visit_id, "job_id": one.job_id, "inspection_id": one.inspection_id,
            "inspector_id": one.inspector_id, "day": one.day, "begins_min": one.begins_min, "minutes": one.minutes,
            "pinned": one.pinned, "why": one.why[:300] if one.why else None, "version": 1, "changed_at": at,
            "changed_by": person_id,
        }
        for one in places
    ]  # fmt: skip
    if not rows:
        return
    given = upsert(planned_visit)
    changed = {
        name: given.inserted[name]
        for name in ("inspector_id", "day", "begins_min", "minutes", "pinned", "why", "changed_at", "changed_by")
    }
    # A literal: the driver writes many rows at once only where nothing else stands behind their values.
    statement = given.on_duplicate_key_update(version=literal_column("planned_visit.version + 1"), **changed)
    for begin in range(0, len(rows), 500):
        connection.execute(statement, rows[begin : begin + 500])


def travel_table(connection: Connection, firm_id: str) -> dict[tuple[str, str], float] | None:
    """Minutes between two places by their ids, where the firm has a table; None where it has none."""
    c = travel_time.c
    legs = connection.execute(select(c.from_id, c.to_id, c.minutes).where(c.firm_id == firm_id)).all()
    return {(row.from_id, row.to_id): row.minutes for row in legs} or None


def set_travel_table(connection: Connection, firm_id: str, table: dict[tuple[str, str], float]) -> None:
    """Replace the firm's table of travel times; an empty one ends it."""
    connection.execute(travel_time.delete().where(travel_time.c.firm_id == firm_id))
    rows = [
        {"firm_id": firm_id, "from_id": one, "to_id": other, "minutes": minutes}
        for (one, other), minutes in table.items()
    ]
    for begin in range(0, len(rows), 2_000):
        connection.execute(insert(travel_time), rows[begin : begin + 2_000])
