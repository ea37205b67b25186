"""A firm's own entries of the catalogue: made, changed and withdrawn, every one of them kept with its dates."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import Connection, insert, select, update

from dorrik.core.book.catalogue import MOST_OWN
from dorrik.store.database.account_tables import catalogue_entry, person
from dorrik.store.database.engine import new_id, now


@dataclass(frozen=True, slots=True)
class KeptEntry:
    """An entry as the firm has it in force: what it says, who made it so, and when."""

    says: dict[str, str]
    author: str
    made_at: datetime


class TooManyEntries(ValueError):
    """A firm has no more entries than an inspection can carry."""


def kept(connection: Connection, firm_id: str) -> list[KeptEntry]:
    """The entries in force, in the order in which they were made."""
    c = catalogue_entry.c
    query = (
        select(c.says, person.c.name, c.made_at)
        .join(person, person.c.id == c.author_id)
        .where(c.firm_id == firm_id, c.withdrawn_at.is_(None))
        .order_by(c.made_at, c.id)
    )
    return [KeptEntry(row.says, row.name, row.made_at) for row in connection.execute(query)]


def in_force(connection: Connection, firm_id: str) -> list[dict[str, str]]:
    """What new inspections of a firm begin with."""
    c = catalogue_entry.c
    query = select(c.says).where(c.firm_id == firm_id, c.withdrawn_at.is_(None)).order_by(c.made_at, c.id)
    return list(connection.execute(query).scalars())


def keep(connection: Connection, firm_id: str, author_id: str, entries: Sequence[dict[str, str]]) -> int:
    """Keep entries that were checked before, each in the place of the one of its key. Returns how many were new or said
    something else. Raises TooManyEntries."""
    before = {entry["key"]: entry for entry in in_force(connection, firm_id)}
    changed = [entry for entry in entries if before.get(entry["key"]) != entry]
    if len(before.keys() | {entry["key"] for entry in changed}) > MOST_OWN:
        raise TooManyEntries(f"A firm has at most {MOST_OWN} entries of its own.")
    for entry_of_firm in changed:
        withdraw(connection, firm_id, author_id, entry_of_firm["key"])
        connection.execute(
            insert(catalogue_entry).values(
                id=new_id(),
                firm_id=firm_id,
                entry_key=entry_of_firm["key"],
                says=entry_of_firm,
                author_id=author_id,
                made_at=now(),
            )
        )
    return len(changed)


def withdraw(connection: Connection, firm_id: str, author_id: str, key: str) -> bool:
    """Take an entry out of what new inspections begin with. False where the firm has none of that key."""
    c = catalogue_entry.c
    withdrawn = connection.execute(
        update(catalogue_entry)
        .where(c.firm_id == firm_id, c.entry_key == key, c.withdrawn_at.is_(None))
        .values(withdrawn_at=now(), withdrawn_by=author_id)
    )
    return bool(withdrawn.rowcount)
