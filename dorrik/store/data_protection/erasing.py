"""Erasing a client: every word that was entered of them goes, here and in every history; that there was a change stays.

Figures, codes and dates stay, since they tell of nobody any more and the firm's statistics and nulls rest on them
(`core.work.erasing`). Photos go with their renditions, those that were replaced or never pinned too. Issued reports
stay, frozen as they are, for as long as the firm says that law and contract ask; then their pages and data go too, and
their digest stays. An inspection that was erased takes no change any more: a device that was away does not bring it
back.
"""

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any

from sqlalchemy import Connection, Engine, Table, bindparam, delete, func, insert, select, update

from dorrik.core.inspection.kinds import KINDS, EntityKind
from dorrik.core.work.erasing import is_words, left, may_hold_words
from dorrik.core.work.register import OF_PROPERTY, REGISTER
from dorrik.store.data_protection import erasing_after, retention
from dorrik.store.database.engine import now
from dorrik.store.database.tables import (
    ENTITIES,
    ENTRIES,
    book_change,
    inspection,
    issued_report,
    photo_to_remove,
    review_step,
    uploaded_photo,
)
from dorrik.store.database.tables import change as journal
from dorrik.store.files.photos import PhotoStore
from dorrik.store.register import search
from dorrik.store.reports.reports import OFFER


@dataclass(frozen=True, slots=True)
class Erased:
    """What an erasure took: how many values, lines of history and reports, which photos, and of which inspections."""

    values: int
    lines: int
    reports: int
    photos: tuple[str, ...]
    inspections: tuple[str, ...]


def erase(connection: Connection, firm_id: str, client_id: str, today: date) -> Erased:
    """Erase a client with their properties, installations, jobs and inspections. Raises retention.TooEarly.

    The caller has checked that there is one. The photos are named and are to be taken out of the store once this is
    committed (`remove_photos`).
    """
    state = retention.kept(connection, firm_id, client_id)
    if state.erasable_from is not None and today < state.erasable_from:
        raise retention.TooEarly(state.erasable_from)
    homes = retention.properties_of(connection, firm_id, client_id)
    at = retention.inspections_at(connection, firm_id, homes)
    below = {kind: retention.below(connection, firm_id, kind, homes) for kind in OF_PROPERTY}
    values = lines = 0
    for kind, ids in ({"client": [client_id], "property": homes} | below).items():
        search.forget(connection, firm_id, kind, ids)
        values += _entries(connection, firm_id, REGISTER[kind], ids)
        c = book_change.c
        lines += _history(
            connection, book_change, (c.id,), REGISTER[kind].fields,
            (c.firm_id == firm_id, c.kind == kind, c.entry_id.in_(ids)),
        )  # fmt: skip
    search.forget(connection, firm_id, "inspection", at)
    photos = _photos(connection, firm_id, at)
    for entity in KINDS.values():
        values += _entities(connection, entity, at)
        j = journal.c
        lines += _history(
            connection, journal, (j.inspection_id, j.seq), entity.fields,
            (j.inspection_id.in_(at), j.entity == entity.name), kept=entity.parents,
        )  # fmt: skip
    # What a process remembers of them is void.
    connection.execute(update(inspection).where(inspection.c.id.in_(at)).values(changed_at=now(), erased_at=now()))
    # What a reviewer wrote may speak of them.
    connection.execute(update(review_step).where(review_step.c.inspection_id.in_(at)).values(words=None))
    values += erasing_after.erase(connection, firm_id, client_id, at, below["job"])
    reports = _reports(connection, firm_id, at, today)
    return Erased(values, lines, reports, photos, tuple(at))


def _entries(connection: Connection, firm_id: str, kind: EntityKind, ids: list[str]) -> int:
    table = ENTRIES[kind.name]
    here = (table.c.firm_id == firm_id, table.c.id.in_(ids))
    connection.execute(update(table).where(*here).values(removed=True))
    return _rows(connection, table, kind, here)


def _entities(connection: Connection, kind: EntityKind, at: list[str]) -> int:
    table = ENTITIES[kind.name]
    column = table.c.id if kind.name == "inspection" else table.c.inspection_id
    return _rows(connection, table, kind, (column.in_(at),))


def _rows(connection: Connection, table: Table, kind: EntityKind, here: Sequence[Any]) -> int:
    """Take the words out of the rows of a kind; returns how many values went."""
    names = [name for name, spec in kind.fields.items() if may_hold_words(spec)]
    if not names:
        return 0
    keys = list(table.primary_key.columns)
    taken = 0
    for row in connection.execute(select(*keys, *(table.c[name] for name in names)).where(*here)).all():
        emptied = {
            name: stays
            for name in names
            if (before := row._mapping[name]) is not None and (stays := left(kind.fields[name], before)) != before
        }
        if emptied:
            same = [key == row._mapping[key.name] for key in keys]
            connection.execute(update(table).where(*same).values(**emptied))
            taken += len(emptied)
    return taken


def _history(
    connection: Connection, table: Table, keys: Sequence[Any], fields: Mapping[str, Any], here: Sequence[Any],
    kept: Iterable[str] = (),
) -> int:  # fmt: skip
    """Take the words out of the lines of a history; returns in how many there were some.

    kept: fields that say where a thing belongs. What is no field any more may have held words: all of it goes.
    """
    c = table.c
    stay = [name for name, spec in fields.items() if not may_hold_words(spec)] + list(kept)
    words = [name for name, spec in fields.items() if is_words(spec)]
    open_lines = (*here, c.erased_at.is_(None), c.field.not_in(stay))
    partly = [name for name in fields if name not in stay and name not in words]
    gone = {"value": None, "before": None, "erased_at": now()}
    taken = connection.execute(update(table).where(*open_lines, c.field.not_in(partly)).values(**gone)).rowcount
    changed = []
    for row in connection.execute(select(*keys, c.field, c.value, c.before).where(*open_lines)).all():
        spec = fields[row.field]
        stays = {"value": left(spec, row.value), "before": left(spec, row.before)}
        if stays != {"value": row.value, "before": row.before}:
            changed.append({f"key_{key.name}": row._mapping[key.name] for key in keys} | stays)
    if changed:
        same = [key == bindparam(f"key_{key.name}") for key in keys]
        connection.execute(
            update(table)
            .where(*same)
            .values(value=bindparam("value"), before=bindparam("before"), erased_at=gone["erased_at"]),
            changed,
        )
    return taken + len(changed)


# Photos


def _photos(connection: Connection, firm_id: str, at: list[str]) -> tuple[str, ...]:
    """Photos of those inspections are taken out; those that nothing else of the firm refers to are named, and written
    down as to be removed: also where this process ends before it has done it."""
    here = _referred(connection, firm_id, lambda column: column.in_(at))
    elsewhere = _referred(connection, firm_id, lambda column: column.not_in(at), among=here)
    table, c = ENTITIES["photo"], journal.c
    connection.execute(update(table).where(table.c.inspection_id.in_(at)).values(removed=True, sha256=None))
    connection.execute(
        update(journal)
        .where(c.inspection_id.in_(at), c.entity == "photo", c.field == "sha256")
        .values(value=None, before=None, erased_at=now())
    )
    u = uploaded_photo.c
    connection.execute(delete(uploaded_photo).where(u.firm_id == firm_id, u.inspection_id.in_(at)))
    gone = tuple(sorted(here - elsewhere))
    _to_remove(connection, firm_id, gone)
    return gone


def _to_remove(connection: Connection, firm_id: str, digests: Iterable[str]) -> None:
    p = photo_to_remove.c
    there = set(connection.execute(select(p.sha256).where(p.firm_id == firm_id)).scalars())
    rows = [{"firm_id": firm_id, "sha256": digest} for digest in digests if digest not in there]
    if rows:
        connection.execute(insert(photo_to_remove), rows)


def _referred(
    connection: Connection, firm_id: str, of: Callable[[Any], Any], among: set[str] | None = None
) -> set[str]:
    """Digests of photos that inspections have, had before they were replaced, or were sent."""
    i, p, u, c = inspection.c, ENTITIES["photo"].c, uploaded_photo.c, journal.c
    digests: set[str] = set()
    queries = (
        select(p.sha256).join(inspection, i.id == p.inspection_id).where(i.firm_id == firm_id, of(p.inspection_id)),
        select(u.sha256).where(u.firm_id == firm_id, of(u.inspection_id)),
    )
    for query in queries:
        digests |= {digest for digest in connection.execute(query.distinct()).scalars() if digest}
    history = (
        select(c.value, c.before)
        .join(inspection, i.id == c.inspection_id)
        .where(i.firm_id == firm_id, of(c.inspection_id), c.entity == "photo", c.field == "sha256")
    )
    for row in connection.execute(history):
        digests |= {digest for digest in row if isinstance(digest, str)}
    return digests if among is None else digests & among


def remove_photos(engine: Engine, store: PhotoStore) -> int:
    """Remove from the store the photos that erasures have named, also interrupted ones; returns how many there were.

    A photo that has come anew since then stays.
    """
    p, u = photo_to_remove.c, uploaded_photo.c
    with engine.connect() as connection:
        waiting = connection.execute(select(p.firm_id, p.sha256)).all()
    for row in waiting:
        with engine.begin() as connection:
            query = select(func.count()).where(u.firm_id == row.firm_id, u.sha256 == row.sha256)
            if not connection.execute(query).scalar_one():
                store.remove(row.firm_id, row.sha256)
            connection.execute(delete(photo_to_remove).where(p.firm_id == row.firm_id, p.sha256 == row.sha256))
    return len(waiting)


def remove_strays(connection: Connection, firm_id: str, store: PhotoStore) -> None:
    """Write down as to be removed what lies in a firm's folder and belongs to no inspection: sent before it was noted
    which inspection a photo was sent to, and never pinned."""
    known = _referred(connection, firm_id, lambda column: column.is_not(None))
    _to_remove(connection, firm_id, store.digests(firm_id) - known)


def _reports(connection: Connection, firm_id: str, at: list[str], today: date) -> int:
    """Pages and data of reports whose time is over, and of offers, go; number, day, outcome and digest stay."""
    _, keep = retention.years(connection, firm_id)
    c = issued_report.c
    rows = connection.execute(
        select(c.id, c.issued_at, c.kind).where(c.inspection_id.in_(at), c.erased_at.is_(None))
    ).all()
    # An offer is no record of a home's safety: nothing asks for it to be held as long as a report.
    over = [row.id for row in rows if row.kind == OFFER or retention.later(row.issued_at.date(), keep) <= today]
    connection.execute(
        update(issued_report)
        .where(c.id.in_(over))
        .values(document="", client_words=None, pdf=b"", reason=None, erased_at=now())
    )
    return len(over)
