"""The firm's register as it is kept: entries with their fields, who changed them, and what a search finds of them."""

import hashlib
import uuid
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import UTC, date, datetime
from typing import Any

from sqlalchemy import Connection, Row, func, insert, select, update
from sqlalchemy.exc import IntegrityError

from dorrik.core.basics.identifiers import is_id
from dorrik.core.inspection import former_names
from dorrik.core.inspection.field_spec import FieldError
from dorrik.core.work.register import REGISTER, contradiction
from dorrik.store.database.account_tables import person
from dorrik.store.database.engine import new_id, now
from dorrik.store.database.tables import ENTITIES, ENTRIES, book_change, inspection
from dorrik.store.firm import numbers
from dorrik.store.register import search
from dorrik.store.register.search import Subject


@dataclass(frozen=True, slots=True)
class RegisterRecord:
    """One entry of the register: its kind, the id of what it belongs to (the firm or another entry), its fields."""

    kind: str
    id: str
    parent_id: str
    values: dict[str, Any]


@dataclass(frozen=True, slots=True)
class WrittenField:
    """One change of the register: who made it and when."""

    field: str
    value: Any
    before: Any
    made_at: datetime
    author: str


class Refused(ValueError):
    """Fields that cannot be kept: `fields` says of each why. Nothing was kept."""

    def __init__(self, fields: Mapping[str, str]) -> None:
        super().__init__(" ".join(fields.values()))
        self.fields = dict(fields)


def entry_of(kind: str, row: Row[Any]) -> RegisterRecord:
    """A row of a kind's table as an entry."""
    data = row._mapping
    values = {name: data[name] for name in REGISTER[kind].fields if data[name] is not None}
    values = {name: value.isoformat() if isinstance(value, date) else value for name, value in values.items()}
    return RegisterRecord(kind, row.id, data.get("parent_id", row.firm_id), values)


def get(connection: Connection, firm_id: str, kind: str, entry_id: str, *, lock: bool = False) -> RegisterRecord | None:
    """An entry of that firm; None where it has none of that id. lock: hold it until the transaction ends."""
    if not is_id(entry_id):
        return None
    table = ENTRIES[kind]
    query = select(table).where(table.c.id == entry_id, table.c.firm_id == firm_id)
    row = connection.execute(query.with_for_update() if lock else query).one_or_none()
    return entry_of(kind, row) if row else None


def entries(
    connection: Connection, firm_id: str, kind: str, parent_id: str | None = None, limit: int | None = None
) -> list[RegisterRecord]:
    """Entries of a kind that are not removed, of one parent or of the whole firm, in the order in which they came.

    All of them, where no limit is given: for what belongs to one property, and what a firm has few of.
    """
    table = ENTRIES[kind]
    query = select(table).where(table.c.firm_id == firm_id, table.c.removed.isnot(True))
    if parent_id is not None:
        if not is_id(parent_id):
            return []
        query = query.where(table.c.parent_id == parent_id)
    return [entry_of(kind, row) for row in connection.execute(query.order_by(table.c.id).limit(limit))]


def page(
    connection: Connection, firm_id: str, kind: str, parent_id: str | None = None, start: int = 0, limit: int = 50
) -> tuple[list[RegisterRecord], int]:
    """Some entries of a kind by name or address, of one parent or the whole firm, and how many there are in all."""
    table = ENTRIES[kind]
    here = [table.c.firm_id == firm_id, table.c.removed.isnot(True)]
    if parent_id is not None:
        here.append(table.c.parent_id == parent_id)
    named = table.c.name if "name" in table.c else table.c.address
    query = select(table).where(*here).order_by(named.is_(None), named, table.c.id).offset(start).limit(limit)
    count = connection.execute(select(func.count()).select_from(table).where(*here)).scalar_one()
    return [entry_of(kind, row) for row in connection.execute(query)], count


def cleaned(kind: str, given: Mapping[str, Any]) -> dict[str, Any]:
    """The values as they are kept. Raises Refused with every field that is wrong."""
    kept, wrong = {}, {}
    for given_name, value in given.items():
        name = former_names.field(kind, given_name)
        spec = REGISTER[kind].fields.get(name)
        try:
            if spec is None:
                raise FieldError(f"“{name[:40]}” is not a field of a {kind}.")
            kept[name] = spec.clean(value, datetime.now(UTC))
        except FieldError as error:
            wrong[given_name] = str(error)
    if wrong:
        raise Refused(wrong)
    return kept


def add(
    connection: Connection, firm_id: str, author_id: str, kind: str, parent_id: str, given: Mapping[str, Any],
    entry_id: str | None = None,
) -> RegisterRecord | None:  # fmt: skip
    """Add an entry; None where the firm has no such parent, or the id is another's. Raises Refused.

    The same id sent twice is added once: the second sending changes its fields.
    """
    parent = REGISTER[kind].parent
    if parent_id != firm_id if parent == "firm" else get(connection, firm_id, parent, parent_id) is None:
        return None
    entry_id = entry_id or new_id()
    if not is_id(entry_id):
        return None
    if get(connection, firm_id, kind, entry_id) is None:
        values = {} if parent == "firm" else {"parent_id": parent_id}
        try:
            with connection.begin_nested():
                connection.execute(insert(ENTRIES[kind]).values(id=entry_id, firm_id=firm_id, **values))
        except IntegrityError:
            return None
    return change(connection, firm_id, author_id, kind, entry_id, given)


def change(
    connection: Connection, firm_id: str, author_id: str, kind: str, entry_id: str, given: Mapping[str, Any]
) -> RegisterRecord | None:
    """Change fields of an entry, all or none; None where the firm has no such entry. Raises Refused."""
    # Held, so that of two fields changed at once the second is checked against the first.
    entry = get(connection, firm_id, kind, entry_id, lock=True)
    if entry is None:
        return None
    kept = cleaned(kind, given)
    after = entry.values | kept
    wrong = contradiction(kind, after, frozenset(kept))
    if wrong:
        raise Refused(dict([wrong]))
    _unique(connection, firm_id, kind, entry_id, kept)
    changed = {name: value for name, value in kept.items() if entry.values.get(name) != value}
    if changed:
        table = ENTRIES[kind]
        here = (table.c.firm_id == firm_id, table.c.id == entry_id)
        try:
            with connection.begin_nested():
                connection.execute(update(table).where(*here).values(**changed))
        except IntegrityError:
            # Somebody gave the number to another job in this moment; the database holds that it is one job's.
            raise _taken(connection, firm_id, "number", changed.get("number")) from None
        at = now()
        connection.execute(
            insert(book_change),
            [
                {
                    "firm_id": firm_id,
                    "kind": kind,
                    "entry_id": entry_id,
                    "field": name,
                    "value": value,
                    "before": entry.values.get(name),
                    "made_at": at,
                    "author_id": author_id,
                }
                for name, value in changed.items()
            ],
        )
    whole = RegisterRecord(
        kind, entry_id, entry.parent_id, {name: value for name, value in after.items() if value is not None}
    )
    _find_by(connection, firm_id, whole)
    return whole


def _unique(connection: Connection, firm_id: str, kind: str, entry_id: str, kept: Mapping[str, Any]) -> None:
    """A job's number, an instrument's serial number and a lead set's name stand for one thing."""
    for name in {"job": ("number",), "instrument": ("serial",), "leads": ("name",)}.get(kind, ()):
        if kept.get(name) is None:
            continue
        c = ENTRIES[kind].c
        other = select(c.id).where(c.firm_id == firm_id, c[name] == kept[name], c.id != entry_id)
        if name != "number":
            other = other.where(c.removed.isnot(True))
        if connection.execute(other.limit(1)).first():
            raise _taken(connection, firm_id, name, kept[name])


def _taken(connection: Connection, firm_id: str, name: str, value: Any) -> Refused:
    message = f"{value} is already in the register"
    if name == "number":
        message += f"; {numbers.next_job(connection, firm_id)} is free"
    return Refused({name: f"{message}."})


def history(
    connection: Connection, firm_id: str, kind: str, entry_id: str, field: str, limit: int = 100
) -> list[WrittenField]:
    """Who changed one field of an entry of that firm and kind from what to what, newest first."""
    c = book_change.c
    query = (
        select(c.field, c.value, c.before, c.made_at, person.c.name)
        .join(person, person.c.id == c.author_id)
        .where(c.firm_id == firm_id, c.kind == kind, c.entry_id == entry_id, c.field == field)
        .order_by(c.id.desc())
        .limit(limit)
    )
    return [WrittenField(*row) for row in connection.execute(query)]


def booked(
    connection: Connection, firm_id: str, until: date, most: int = 50
) -> list[tuple[RegisterRecord, RegisterRecord]]:
    """Jobs that are booked up to a day, each with its property, the earliest first, no more than so many."""
    c = ENTRIES["job"].c
    query = (
        select(ENTRIES["job"])
        .where(c.firm_id == firm_id, c.removed.isnot(True), c.state == "booked", c.booked_on <= until)
        .order_by(c.booked_on, c.booked_at)
        .limit(most)
    )
    jobs = [entry_of("job", row) for row in connection.execute(query)]
    homes = {job.parent_id: get(connection, firm_id, "property", job.parent_id) for job in jobs}
    return [(job, home) for job in jobs if (home := homes[job.parent_id]) is not None]


def return_visits(connection: Connection, firm_id: str, job_id: str) -> int:
    """How many return visits the inspections of a job have had, and one more for each that is on hold."""
    i, a = inspection.c, ENTITIES["attendance"].c
    of_job = (i.firm_id == firm_id, i.job_id == job_id)
    made = (
        select(func.count())
        .select_from(inspection)
        .join(ENTITIES["attendance"], a.inspection_id == i.id)
        .where(*of_job, a.purpose == "return visit", a.removed.isnot(True))
    )
    held = select(func.count()).select_from(inspection).where(*of_job, i.held_at.is_not(None))
    return connection.execute(made).scalar_one() + connection.execute(held).scalar_one()


def derived_id(*parts: object) -> str:
    """An id that follows from what it stands for (UUIDv8, RFC 9562): made on two devices, it is the same."""
    value = int.from_bytes(hashlib.sha256("/".join(map(str, parts)).encode()).digest()[:16], "big")
    value = value & ~(0xF << 76) | 0x8 << 76
    return str(uuid.UUID(int=value & ~(0x3 << 62) | 0x2 << 62))


def beginning_id(connection: Connection, firm_id: str, job_id: str, installation_id: str | None) -> str:
    """Under which id the next inspection of an installation for a job is begun: two devices at once begin one."""
    c = inspection.c
    here = (c.firm_id == firm_id, c.job_id == job_id, c.installation_id == installation_id)
    begun = connection.execute(select(func.count()).where(*here)).scalar_one()
    return derived_id(firm_id, job_id, installation_id, begun)


def inspections_of(connection: Connection, firm_id: str, property_id: str) -> list[Row[Any]]:
    """The inspections of a property: id, reference, day, outcome declared; the latest first."""
    c = inspection.c
    query = (
        select(
            c.id,
            c.reference,
            c.inspected_on,
            c.declared_outcome,
            c.installation_name,
            c.job_id,
            c.held_at,
            c.return_on,
        )
        .where(c.firm_id == firm_id, c.property_id == property_id)
        .order_by(c.inspected_on.desc(), c.id.desc())
    )
    return list(connection.execute(query))


def client_of(connection: Connection, firm_id: str, inspection_id: str) -> RegisterRecord | None:
    """The client of the register whose property an inspection is of; None where nothing says so."""
    c, p = inspection.c, ENTRIES["property"].c
    row = connection.execute(
        select(p.parent_id)
        .join(inspection, (c.firm_id == p.firm_id) & (c.property_id == p.id))
        .where(c.id == inspection_id, c.firm_id == firm_id)
    ).one_or_none()
    return get(connection, firm_id, "client", row.parent_id) if row is not None else None


# What a search finds.


def _find_by(connection: Connection, firm_id: str, entry: RegisterRecord) -> None:
    """Make an entry findable, and what is found by its words too."""
    if entry.kind not in ("client", "property", "job"):
        return
    if entry.values.get("removed"):
        search.forget(connection, firm_id, entry.kind, [entry.id])
    else:
        search.keep(connection, firm_id, _subjects(connection, firm_id, entry))


def _subjects(connection: Connection, firm_id: str, entry: RegisterRecord) -> Iterable[Subject]:
    v = entry.values
    if entry.kind == "client":
        yield Subject("client", entry.id, v.get("name") or "Unnamed client", v.get("address") or "", (
            v.get("name"), v.get("address"), v.get("contact"), v.get("phone"), v.get("email"),
        ))  # fmt: skip
        for home in entries(connection, firm_id, "property", entry.id):
            yield home_subject(home, entry)
    elif entry.kind == "property":
        client = get(connection, firm_id, "client", entry.parent_id)
        yield home_subject(entry, client)
        for job in entries(connection, firm_id, "job", entry.id):
            yield _job(job, entry)
    else:
        yield _job(entry, get(connection, firm_id, "property", entry.parent_id))


def home_subject(home: RegisterRecord, client: RegisterRecord | None) -> Subject:
    """A property as a search finds it."""
    v = home.values
    name = client.values.get("name") if client else None
    return Subject("property", home.id, v.get("address") or "No address yet", name or "", (
        v.get("address"), v.get("occupier_name"), v.get("occupier_phone"), v.get("reference"), name,
    ))  # fmt: skip


def _job(job: RegisterRecord, home: RegisterRecord | None) -> Subject:
    v = job.values
    address = home.values.get("address") if home else None
    title = f"Job {v.get('number') or 'without a number'}"
    return Subject("job", job.id, title, address or "", (v.get("number"), address))
