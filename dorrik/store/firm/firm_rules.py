"""What a firm has settled once: its rule book, its house rules, and cells of the reference tables it reads otherwise.

Corrections are never changed or deleted: a new one takes the place of the one before, which stays with its dates.
"""

from dataclasses import asdict, dataclass
from datetime import datetime
from typing import Any

from sqlalchemy import Connection, insert, select, update

from dorrik.core.basics.identifiers import is_id
from dorrik.core.book.reference import Correction, printed, row_key
from dorrik.store.database.account_tables import firm, person, table_correction
from dorrik.store.database.engine import new_id, now
from dorrik.store.firm import own_entries


@dataclass(frozen=True, slots=True)
class KeptCorrection:
    """A correction with what is printed in its place, who made it and when; withdrawn_at: None while it is in force."""

    id: str
    correction: Correction
    printed: str
    author: str
    made_at: datetime
    withdrawn_at: datetime | None


def rules(connection: Connection, firm_id: str) -> tuple[str | None, dict[str, Any]]:
    """A firm's rule book (None: the first one) and the house rules it has chosen."""
    row = connection.execute(select(firm.c.rule_book, firm.c.house_rules).where(firm.c.id == firm_id)).one()
    return row.rule_book, row.house_rules


def settle(connection: Connection, firm_id: str, rule_book: str | None, house_rules: dict[str, Any]) -> None:
    """Settle a firm's rule book and house rules; inspections keep those that they were begun with."""
    connection.execute(update(firm).where(firm.c.id == firm_id).values(rule_book=rule_book, house_rules=house_rules))


@dataclass(frozen=True, slots=True)
class Terms:
    """What inspections of a firm are judged by: rule book (None: that of the nation), house rules, every correction,
    its own entries of the catalogue."""

    rule_book: str | None
    house_rules: dict[str, Any]
    kept: tuple[KeptCorrection, ...]
    catalogue: list[dict[str, str]]

    def corrections(self, at: datetime | None = None) -> list[dict[str, str]]:
        """The corrections in force (now, or at a moment), as an inspection keeps them."""
        return [
            asdict(correction.correction)
            for correction in reversed(self.kept)
            if (
                correction.withdrawn_at is None
                if at is None
                else correction.made_at <= at <= (correction.withdrawn_at or datetime.max)
            )
        ]


def terms(connection: Connection, firm_id: str) -> Terms:
    """What a firm has settled, whole."""
    book, chosen = rules(connection, firm_id)
    return Terms(book, chosen, tuple(corrections(connection, firm_id)), own_entries.in_force(connection, firm_id))


def corrections(connection: Connection, firm_id: str) -> list[KeptCorrection]:
    """Every correction a firm ever made, the latest first."""
    c = table_correction.c
    query = (
        select(table_correction, person.c.name)
        .join(person, person.c.id == c.author_id)
        .where(c.firm_id == firm_id)
        .order_by(c.made_at.desc(), c.id.desc())
    )
    return [
        KeptCorrection(
            row.id,
            Correction(row.table_name, row.row_key, row.column_name, row.value, row.why),
            row.printed,
            row.name,
            row.made_at,
            row.withdrawn_at,
        )
        for row in connection.execute(query)
    ]


def in_force(connection: Connection, firm_id: str) -> list[Correction]:
    """The corrections that new inspections of a firm begin with, in the order in which they were made."""
    kept = corrections(connection, firm_id)
    return [correction.correction for correction in reversed(kept) if correction.withdrawn_at is None]


def correct(connection: Connection, firm_id: str, author_id: str, correction: Correction) -> str:
    """Keep a correction that was checked before; one of the same cell is withdrawn. Returns its id."""
    c = table_correction.c
    same = (c.table_name == correction.table, c.row_key == correction.row, c.column_name == correction.column)
    connection.execute(
        update(table_correction)
        .where(c.firm_id == firm_id, c.withdrawn_at.is_(None), *same)
        .values(withdrawn_at=now(), withdrawn_by=author_id)
    )
    row = next(r for r in printed(correction.table) if row_key(correction.table, r) == correction.row)
    identity = new_id()
    connection.execute(
        insert(table_correction).values(
            id=identity,
            firm_id=firm_id,
            table_name=correction.table,
            row_key=correction.row,
            column_name=correction.column,
            printed=row[correction.column],
            value=correction.value,
            why=correction.why,
            author_id=author_id,
            made_at=now(),
        )
    )
    return identity


def withdraw(connection: Connection, firm_id: str, author_id: str, identity: str) -> bool:
    """Withdraw a correction, so that the cell is read as printed again. False where the firm has none of that id."""
    if not is_id(identity):
        return False
    c = table_correction.c
    withdrawn = connection.execute(
        update(table_correction)
        .where(c.id == identity, c.firm_id == firm_id, c.withdrawn_at.is_(None))
        .values(withdrawn_at=now(), withdrawn_by=author_id)
    )
    return bool(withdrawn.rowcount)
