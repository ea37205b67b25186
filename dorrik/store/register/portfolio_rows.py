"""What is kept of every property of a firm, or of one client, gathered in a few queries for the portfolio."""

from collections.abc import Collection, Iterable
from dataclasses import dataclass, field
from datetime import date
from typing import Any

from sqlalchemy import ColumnElement, Connection, Select, exists, func, select

from dorrik.core.work.register import INSPECTION
from dorrik.store.database.follow_up_tables import report_state
from dorrik.store.database.tables import ENTITIES, ENTRIES, inspection


@dataclass(slots=True)
class ReportRow:
    """The latest report of an installation, and what is open about it."""

    inspected_on: date | None
    due_on: date | None
    counting: int
    cleared: int
    worst: str
    work_due: date | None
    copy_due: date | None


@dataclass(slots=True)
class KeptProperty:
    """A property as it is kept. reports: the latest of each installation, by its id; jobs: day and state of those that
    are open; in_hand: return day, on hold, held by the operator, of each inspection that is not issued."""

    id: str
    client_id: str
    client: str
    address: str
    reference: str
    nation: str
    latitude: float | None
    longitude: float | None
    inspected_on: date | None
    due_on: date | None
    reports: dict[str | None, ReportRow] = field(default_factory=dict)
    installations: dict[str, str] = field(default_factory=dict)
    jobs: list[tuple[str, date | None]] = field(default_factory=list)
    in_hand: list[tuple[bool, date | None, bool]] = field(default_factory=list)


#: Properties are looked at in so many parts, by the end of their ids, so that a change has one part read anew.
PARTS = tuple(f"{number:02x}" for number in range(256))


def _part(column: ColumnElement[Any]) -> ColumnElement[str]:
    return func.right(column, 2)


def _queries(firm_id: str) -> dict[str, Select[Any]]:
    """What the portfolio is read from, each with the property first."""
    p, c, i, s = ENTRIES["property"].c, ENTRIES["client"].c, inspection.c, report_state.c
    e, j, o = ENTRIES["installation"].c, ENTRIES["job"].c, ENTITIES["operator_call"].c
    called = exists().where(o.inspection_id == i.id, o.removed.isnot(True), o.closed_at.is_(None))
    of_property = (i.firm_id == firm_id, i.erased_at.is_(None), i.property_id.is_not(None))
    return {
        "properties": select(
            p.id, p.parent_id, c.name, p.address, p.reference, p.nation, p.latitude, p.longitude, p.inspected_on,
            p.due_on,
        )
        .select_from(ENTRIES["property"])
        .join(ENTRIES["client"], (c.firm_id == p.firm_id) & (c.id == p.parent_id))
        .where(p.firm_id == firm_id, p.removed.isnot(True), c.removed.isnot(True)),
        "reports": select(
            i.property_id, i.installation_id, i.inspected_on, i.due_on, s.counting, s.cleared, s.worst, s.due,
            s.copy_due,
        )
        .select_from(inspection.outerjoin(report_state, s.inspection_id == i.id))
        .where(*of_property, i.issued_number.is_not(None)),
        "installations": select(e.parent_id, e.id, e.name).where(e.firm_id == firm_id, e.removed.isnot(True)),
        "jobs": select(j.parent_id, j.state, j.booked_on).where(
            j.firm_id == firm_id, j.removed.isnot(True), j.state.is_distinct_from("done"),
            j.work.is_(None) | (j.work == INSPECTION),
            # Once its inspection has begun, a job is no visit that is still to come.
            ~exists().where(i.firm_id == firm_id, i.job_id == j.id, i.erased_at.is_(None)),
        ),
        "in_hand": select(i.property_id, i.held_at, i.return_on, called.label("called")).where(
            *of_property, i.issued_number.is_(None)
        ),
    }  # fmt: skip


def fingerprints(connection: Connection, firm_id: str) -> dict[str, tuple[int, ...]]:
    """What each part holds, in figures that are others as soon as anything in it is another. It is the content that is
    looked at, so that whoever writes need not know of it."""
    queries = _queries(firm_id)
    counts: dict[str, list[int]] = {part: [0] * (2 * len(queries)) for part in PARTS}
    for at, query in enumerate(queries.values()):
        rows = query.subquery()
        columns = list(rows.c)
        # No text that is kept holds a control character.
        row_text = func.concat_ws("\x1f", *(func.coalesce(column, "") for column in columns))
        summed = select(_part(columns[0]), func.count(), func.sum(func.crc32(row_text))).group_by(_part(columns[0]))
        for part, count, total in connection.execute(summed):
            counts[part][2 * at : 2 * at + 2] = [count, int(total)]
    return {part: tuple(figures) for part, figures in counts.items()}


def rows(connection: Connection, firm_id: str, parts: Collection[str]) -> list[KeptProperty]:
    """Every property of those parts that is not removed."""
    queries = {
        name: query.where(_part(next(iter(query.selected_columns))).in_(parts)) if len(parts) < len(PARTS) else query
        for name, query in _queries(firm_id).items()
    }
    properties = {
        row[0]: KeptProperty(row[0], row[1], row[2] or "", row[3] or "", row[4] or "", row[5] or "", *row[6:])
        for row in connection.execute(queries["properties"]).all()
    }

    def of(name: str) -> Iterable[tuple[KeptProperty, Any]]:
        for row in connection.execute(queries[name]).all():
            if (home := properties.get(row[0])) is not None:
                yield home, row

    # The latest of an installation comes last and stays.
    for home_id, row in sorted(of("reports"), key=lambda pair: pair[1][2] or date.min):
        home_id.reports[row[1]] = ReportRow(row[2], row[3], row[4] or 0, row[5] or 0, row[6] or "", row[7], row[8])
    for home_id, row in of("installations"):
        home_id.installations[row[1]] = row[2] or "Installation"
    for home_id, row in of("jobs"):
        home_id.jobs.append((row[1] or "asked", row[2]))
    for home_id, row in of("in_hand"):
        home_id.in_hand.append((row[1] is not None, row[2], bool(row[3])))
    return list(properties.values())


@dataclass(frozen=True, slots=True)
class KnownProperty:
    """A property as a table is held against it: its address, whose it is, and its fields."""

    address: str
    client_id: str
    client: str
    values: dict[str, Any]


def known(connection: Connection, firm_id: str, client_id: str) -> dict[str, KnownProperty]:
    """Every property of a firm by its id, those of that client last: where an address stands twice, theirs is meant."""
    p, c = ENTRIES["property"].c, ENTRIES["client"].c
    query = (
        select(ENTRIES["property"], c.name.label("client_name"))
        .join(ENTRIES["client"], (c.firm_id == p.firm_id) & (c.id == p.parent_id))
        .where(p.firm_id == firm_id, p.removed.isnot(True), c.removed.isnot(True), p.address.is_not(None))
        .order_by(p.parent_id == client_id)
    )
    return {
        row.id: KnownProperty(
            row.address, row.parent_id, row.client_name or "",
            {
                name: value.isoformat() if isinstance(value, date) else value
                for name, value in row._mapping.items() if value is not None
            },
        )
        for row in connection.execute(query)
    }  # fmt: skip


def clients(connection: Connection, firm_id: str) -> dict[str, str]:
    """Whose each property of a firm is, by its id."""
    p = ENTRIES["property"].c
    return {row.id: row.parent_id for row in connection.execute(select(p.id, p.parent_id).where(p.firm_id == firm_id))}


def inspections_of(connection: Connection, firm_id: str, client_id: str) -> set[str]:
    """Ids of the inspections of a client's properties."""
    i, p = inspection.c, ENTRIES["property"].c
    query = (
        select(i.id)
        .join(ENTRIES["property"], (p.firm_id == i.firm_id) & (p.id == i.property_id))
        .where(i.firm_id == firm_id, p.parent_id == client_id)
    )
    return set(connection.execute(query).scalars())


def inspected(
    connection: Connection, firm_id: str, client_id: str, first: date, last: date
) -> list[tuple[str, date, str]]:
    """Address, day and result of the inspections of a client's homes whose report was issued, by their day."""
    i, p = inspection.c, ENTRIES["property"].c
    query = (
        select(p.address, i.inspected_on, i.issued_outcome)
        .select_from(inspection)
        .join(ENTRIES["property"], (p.firm_id == i.firm_id) & (p.id == i.property_id))
        .where(i.firm_id == firm_id, p.parent_id == client_id, i.issued_number.is_not(None), i.erased_at.is_(None))
        .where(i.inspected_on.between(first, last))
        .order_by(i.inspected_on, p.address)
    )
    return [(row[0] or "", row[1], row[2] or "") for row in connection.execute(query)]
