"""How long a firm keeps what it knows of a client, and erasing it: values go, the fact that there was a change stays.

What is personal is declared with its field (`fields.personal`). Of the register, of the inspections at the client's
properties and of both histories such values are taken out; figures, codes and dates stay, since they tell of nobody any
more and the firm's statistics and nulls rest on them. Issued reports stay, frozen as they are, for as long as the firm
says that law and contract ask; then their pages and data go too, and their digest stays.
"""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any

from sqlalchemy import Connection, func, or_, select, update

from dorrik.core.inspection import KINDS, EntityKind
from dorrik.core.register import REGISTER
from dorrik.store import search
from dorrik.store.account_tables import firm
from dorrik.store.engine import now
from dorrik.store.tables import ENTITIES, ENTRIES, book_change, inspection, issued_report
from dorrik.store.tables import change as journal

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


@dataclass(frozen=True, slots=True)
class Erased:
    """What an erasure took: how many values and lines of history; digests of photos that nothing refers to any more."""

    values: int
    lines: int
    reports: int
    photos: tuple[str, ...]


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


def _later(day: date, by: int) -> date:
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


def _below(connection: Connection, firm_id: str, kind: str, properties: list[str]) -> list[str]:
    c = ENTRIES[kind].c
    query = select(c.id).where(c.firm_id == firm_id, c.parent_id.in_(properties))
    return list(connection.execute(query).scalars())


def kept(connection: Connection, firm_id: str, client_id: str) -> Kept:
    """What is kept of a client of that firm. The caller has checked that there is one."""
    homes = properties_of(connection, firm_id, client_id)
    jobs = _below(connection, firm_id, "job", homes)
    at = inspections_at(connection, firm_id, homes)
    r, p = issued_report.c, ENTITIES["photo"].c
    reports, issued = connection.execute(
        select(func.count(), func.max(r.issued_at)).where(r.inspection_id.in_(at), r.erased_at.is_(None))
    ).one()
    photos = connection.execute(
        select(func.count(func.distinct(p.sha256))).where(p.inspection_id.in_(at), p.sha256.is_not(None))
    ).scalar_one()
    last = _last_work(connection, firm_id, client_id, homes, jobs, at)
    keep, keep_reports = years(connection, firm_id)
    return Kept(
        len(homes), len(jobs), len(at), reports, photos, last, _later(last, keep) if last else None,
        _later(issued.date(), keep_reports) if issued else None,
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
    found: list[Any] = [
        connection.execute(select(func.max(b.made_at)).where(b.firm_id == firm_id, of_kind)).scalar(),
        connection.execute(select(func.max(i.changed_at)).where(i.id.in_(at))).scalar(),
        connection.execute(select(func.max(i.inspected_on)).where(i.id.in_(at))).scalar(),
        connection.execute(select(func.max(j.booked_on)).where(j.firm_id == firm_id, j.id.in_(jobs))).scalar(),
    ]
    days = [one.date() if isinstance(one, datetime) else one for one in found if one is not None]
    return max(days, default=None)


def erase(connection: Connection, firm_id: str, client_id: str, today: date) -> Erased:
    """Erase a client with their properties and jobs. Raises TooEarly. The caller has checked that there is one."""
    state = kept(connection, firm_id, client_id)
    if state.erasable_from is not None and today < state.erasable_from:
        raise TooEarly(state.erasable_from)
    homes = properties_of(connection, firm_id, client_id)
    at = inspections_at(connection, firm_id, homes)
    below = {kind: _below(connection, firm_id, kind, homes) for kind in ("job", "installation")}
    taken = lines = 0
    for kind, ids in ({"client": [client_id], "property": homes} | below).items():
        search.forget(connection, firm_id, kind, ids)
        taken += _empty_entries(connection, firm_id, REGISTER[kind], ids)
        lines += _empty_lines(connection, firm_id, REGISTER[kind], ids)
    search.forget(connection, firm_id, "inspection", at)
    photos = _photos(connection, firm_id, at)
    for entity in KINDS.values():
        taken += _empty_entities(connection, entity, at)
        lines += _empty_journal(connection, entity, at)
    # What a process remembers of them is void.
    connection.execute(update(inspection).where(inspection.c.id.in_(at)).values(changed_at=now()))
    reports = _erase_reports(connection, firm_id, at, today)
    return Erased(taken, lines, reports, photos)


def _personal(kind: EntityKind) -> list[str]:
    return [name for name, spec in kind.fields.items() if spec.personal]


def _empty_entries(connection: Connection, firm_id: str, kind: EntityKind, ids: list[str]) -> int:
    table = ENTRIES[kind.name]
    values: dict[str, Any] = dict.fromkeys(_personal(kind))
    here = (table.c.firm_id == firm_id, table.c.id.in_(ids))
    return connection.execute(update(table).where(*here).values(**values, removed=True)).rowcount * len(values)


def _empty_lines(connection: Connection, firm_id: str, kind: EntityKind, ids: list[str]) -> int:
    c = book_change.c
    here = (c.firm_id == firm_id, c.kind == kind.name, c.entry_id.in_(ids), c.field.in_(_personal(kind)))
    return connection.execute(
        update(book_change).where(*here, c.erased_at.is_(None)).values(value=None, before=None, erased_at=now())
    ).rowcount


def _empty_entities(connection: Connection, kind: EntityKind, at: list[str]) -> int:
    names = _personal(kind)
    if not names:
        return 0
    table = ENTITIES[kind.name]
    column = table.c.id if kind.name == "inspection" else table.c.inspection_id
    values: dict[str, Any] = dict.fromkeys(names)
    return connection.execute(update(table).where(column.in_(at)).values(**values)).rowcount * len(values)


def _empty_journal(connection: Connection, kind: EntityKind, at: list[str]) -> int:
    c = journal.c
    names = _personal(kind)
    if not names:
        return 0
    here = (c.inspection_id.in_(at), c.entity == kind.name, c.field.in_(names), c.erased_at.is_(None))
    return connection.execute(update(journal).where(*here).values(value=None, before=None, erased_at=now())).rowcount


def _photos(connection: Connection, firm_id: str, at: list[str]) -> tuple[str, ...]:
    """Photos of those inspections are taken out; those that no other inspection of the firm refers to are named."""
    table = ENTITIES["photo"]
    p = table.c
    here = set(connection.execute(select(p.sha256).where(p.inspection_id.in_(at), p.sha256.is_not(None))).scalars())
    elsewhere = set(
        connection.execute(
            select(p.sha256)
            .join(inspection, inspection.c.id == p.inspection_id)
            .where(inspection.c.firm_id == firm_id, p.sha256.in_(list(here)), p.inspection_id.not_in(at))
        ).scalars()
    )
    connection.execute(update(table).where(p.inspection_id.in_(at)).values(removed=True, sha256=None))
    c = journal.c
    connection.execute(
        update(journal)
        .where(c.inspection_id.in_(at), c.entity == "photo", c.field == "sha256")
        .values(value=None, before=None, erased_at=now())
    )
    return tuple(sorted(here - elsewhere))


def _erase_reports(connection: Connection, firm_id: str, at: list[str], today: date) -> int:
    """Pages and data of reports whose time is over go; number, day, outcome and digest stay."""
    _, keep = years(connection, firm_id)
    c = issued_report.c
    rows = connection.execute(select(c.id, c.issued_at).where(c.inspection_id.in_(at), c.erased_at.is_(None))).all()
    over = [row.id for row in rows if _later(row.issued_at.date(), keep) <= today]
    connection.execute(
        update(issued_report).where(c.id.in_(over)).values(document="", pdf=b"", reason=None, erased_at=now())
    )
    return len(over)
