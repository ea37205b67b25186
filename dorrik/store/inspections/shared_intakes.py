"""Which inspections share one intake: groups, what a home has for itself, and which others could join."""

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

from sqlalchemy import Connection, delete, insert, select, update

from dorrik.core.basics.identifiers import is_id
from dorrik.core.work.shared_intake import FIELDS
from dorrik.store.database.engine import new_id
from dorrik.store.database.tables import inspection, shared_intake

#: Others that are offered to share with.
MOST = 20


@dataclass(frozen=True, slots=True)
class Neighbour:
    """Another inspection in hand: of which home, and whether it is of the same property."""

    id: str
    reference: str | None
    property_address: str | None
    installation: str | None
    same_property: bool


def members(connection: Connection, inspection_id: str) -> dict[str, frozenset[str]]:
    """Every inspection of the group, this one too, in the order of their ids, with the fields it has for itself; empty
    where it shares with none. The caller has checked whose inspection it is."""
    if not is_id(inspection_id):
        return {}
    c = shared_intake.c
    group = select(c.group_id).where(c.inspection_id == inspection_id).scalar_subquery()
    rows = connection.execute(select(c.inspection_id, c.own).where(c.group_id == group).order_by(c.inspection_id))
    return {row.inspection_id: frozenset(row.own) for row in rows}


def join(connection: Connection, inspection_id: str, other_id: str) -> None:
    """Put both into one group, with all that share with either."""
    c = shared_intake.c
    ids = {inspection_id, other_id}
    groups = connection.execute(select(c.group_id).where(c.inspection_id.in_(ids)).order_by(c.group_id)).scalars().all()
    group = groups[0] if groups else new_id()
    connection.execute(update(shared_intake).where(c.group_id.in_(groups)).values(group_id=group))
    there = set(connection.execute(select(c.inspection_id).where(c.inspection_id.in_(ids))).scalars())
    rows: list[dict[str, Any]] = [{"inspection_id": key, "group_id": group, "own": []} for key in sorted(ids - there)]
    if rows:
        connection.execute(insert(shared_intake), rows)


def leave(connection: Connection, inspection_id: str) -> None:
    """Take one out of its group; where one alone is left, there is no group any more."""
    c = shared_intake.c
    rest = [key for key in members(connection, inspection_id) if key != inspection_id]
    gone = [inspection_id, *(rest if len(rest) == 1 else [])]
    connection.execute(delete(shared_intake).where(c.inspection_id.in_(gone)))


def keep_own(connection: Connection, inspection_id: str, fields: Iterable[str]) -> None:
    """Keep which fields of the supply a home has for itself."""
    own = [name for name in FIELDS if name in set(fields)]
    connection.execute(update(shared_intake).where(shared_intake.c.inspection_id == inspection_id).values(own=own))


def neighbours(connection: Connection, firm_id: str, here: dict[str, Any], inspection_id: str) -> list[Neighbour]:
    """Inspections in hand that could share: of the same property first, then those whose address ends alike, then the
    latest. here: fields of the inspection."""
    i = inspection.c
    query = (
        select(i.id, i.reference, i.property_address, i.installation_name, i.property_id)
        .where(i.firm_id == firm_id, i.id != inspection_id, i.issued_number.is_(None), i.erased_at.is_(None))
        .order_by(i.changed_at.desc())
        .limit(200)
    )
    address = _words(here["property_address"])

    def order(row: Any) -> tuple[bool, int]:
        return not _same(row, here), -len(address & _words(row.property_address))

    rows = sorted(connection.execute(query), key=order)[:MOST]
    return [
        Neighbour(row.id, row.reference, row.property_address, row.installation_name, _same(row, here)) for row in rows
    ]


def _same(row: Any, here: dict[str, Any]) -> bool:
    return bool(here["property_id"]) and row.property_id == here["property_id"]


def _words(address: str | None) -> set[str]:
    return {word for word in (address or "").lower().replace(",", " ").split() if not word.isdigit()}
