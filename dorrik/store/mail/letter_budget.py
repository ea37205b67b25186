"""How many letters leave the house: one budget an hour for each recipient, session, firm and, of strangers, source,
whatever kind of letter. A letter is counted before it is sent, and given back where the mail server did not take it.
"""

import hashlib
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import timedelta
from typing import Any, Literal

from sqlalchemy import Connection, Engine, delete, func, insert, select

from dorrik.store.database.account_tables import letter
from dorrik.store.database.engine import now
from dorrik.store.people.people import address_key

Kind = Literal[
    "link", "confirmation", "danger notice", "set-aside letter", "offer", "report", "completion", "reminder",
    "trial letter", "visit times", "power-off notice", "visit reminder",
]  # fmt: skip

WINDOW = timedelta(hours=1)
#: Letters in that time. A busy office sends twenty; a stolen session would send thousands.
TO_ONE_RECIPIENT, OF_ONE_SESSION, OF_ONE_FIRM, OF_ONE_SOURCE = 12, 40, 60, 10
#: A link that was mailed within this time is not mailed again: it is good, and on its way.
LINK_AGAIN = timedelta(minutes=10)
PATIENCE_S = 10


class Often(Exception):
    """The budget is spent; `seconds` says when the next letter may leave, `whose` which budget it is."""

    def __init__(self, whose: str, seconds: float) -> None:
        super().__init__(f"{whose}: wait {seconds:.0f} seconds.")
        self.whose = whose
        self.seconds = seconds


class LinkUnderwayError(Exception):
    """A link was mailed to this recipient a moment ago; `seconds` says when another one may be."""

    def __init__(self, seconds: float) -> None:
        super().__init__(f"A link is under way: wait {seconds:.0f} seconds.")
        self.seconds = seconds


def spend(
    engine: Engine, kind: Kind, to: str, *, firm_id: str | None = None, session: str | None = None, source: str = ""
) -> int:
    """Write one letter down before it is sent; returns its number.

    firm_id, session: whose it is; source: where a stranger asks from. Raises Often, LinkUnderwayError.
    """
    recipient, at = recipient_key(to), now()
    c = letter.c
    budgets: list[tuple[str, int, Any]] = [("recipient", TO_ONE_RECIPIENT, c.recipient_hash == recipient)]
    if firm_id is not None:
        budgets += [("session", OF_ONE_SESSION, c.session_id == session), ("firm", OF_ONE_FIRM, c.firm_id == firm_id)]
        of_stranger = None
    else:
        of_stranger = hashlib.sha256(source.encode()).digest()
        budgets.append(("source", OF_ONE_SOURCE, c.source_hash == of_stranger))
    with _alone(engine) as connection:
        connection.execute(delete(letter).where(c.at < at - WINDOW))
        if kind == "link":
            query = select(func.max(c.at)).where(c.recipient_hash == recipient, c.kind == kind, c.at > at - LINK_AGAIN)
            if (last := connection.execute(query).scalar()) is not None:
                raise LinkUnderwayError((last + LINK_AGAIN - at).total_seconds())
        for whose, most, which in budgets:
            sent, first = connection.execute(
                select(func.count(), func.min(c.at)).where(which, c.at > at - WINDOW)
            ).one()  # fmt: skip
            if sent >= most:
                raise Often(whose, (first + WINDOW - at).total_seconds())
        made: Any = connection.execute(
            insert(letter).values(
                kind=kind, at=at, recipient_hash=recipient, firm_id=firm_id, session_id=session,
                source_hash=of_stranger,
            )
        )  # fmt: skip
        return int(made.inserted_primary_key[0])


def recipient_key(to: str) -> bytes:
    """What of a recipient's address is kept."""
    return hashlib.sha256(address_key(to)).digest()


def give_back(engine: Engine, number: int) -> None:
    """That letter did not leave."""
    with engine.begin() as connection:
        connection.execute(delete(letter).where(letter.c.id == number))


@contextmanager
def _alone(engine: Engine) -> Iterator[Connection]:
    """A transaction that nobody else is in at the same time: letters at once count together."""
    name = f"dorrik letters {engine.url.database}"[:64]
    with engine.connect() as connection:
        if connection.execute(select(func.get_lock(name, PATIENCE_S))).scalar() != 1:
            raise Often("server", PATIENCE_S)
        connection.commit()
        try:
            with connection.begin():
                yield connection
        finally:
            connection.execute(select(func.release_lock(name)))
