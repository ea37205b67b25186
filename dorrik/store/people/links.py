"""Links that are good once: to set a firm up, to join one, to choose a new password. Only a digest of each is kept."""

import secrets
from datetime import timedelta
from typing import Any, Literal

from sqlalchemy import Connection, delete, insert, select

from dorrik.store.database.account_tables import one_time_link, person
from dorrik.store.database.engine import now
from dorrik.store.people.sessions import digest

Purpose = Literal["set-up", "invite", "reset"]
#: How long each is good.
LASTS: dict[Purpose, timedelta] = {
    "set-up": timedelta(days=2),
    "invite": timedelta(days=7),
    "reset": timedelta(hours=2),
}
#: The page that opens it; the token stands after the '#', which no server or proxy gets to see or to log.
PAGE = "/welcome"


def make(
    connection: Connection, purpose: Purpose, person_id: str | None = None, made_by: str | None = None, *,
    beside_others: bool = False,
) -> str:  # fmt: skip
    """Make a link and end earlier ones of the same purpose for the same person; returns its token.

    beside_others: earlier ones stay good. What a stranger can ask for must not end what the owner has in hand.
    """
    c = one_time_link.c
    connection.execute(delete(one_time_link).where(c.expires_at < now()))
    if person_id is not None and not beside_others:
        connection.execute(delete(one_time_link).where(c.person_id == person_id, c.purpose == purpose))
    token = secrets.token_urlsafe(24)
    at = now()
    connection.execute(
        insert(one_time_link).values(
            token_hash=digest(token), purpose=purpose, person_id=person_id, made_by=made_by, made_at=at,
            expires_at=at + LASTS[purpose],
        )
    )  # fmt: skip
    return token


def path(token: str) -> str:
    """The address of a link, below the server's own."""
    return f"{PAGE}#{token}"


def look(connection: Connection, token: str, *, lock: bool = False) -> Any:
    """Purpose, person_id and, of a person, name and mail address; None where the link is not good (any more)."""
    c = one_time_link.c
    query = (
        select(c.purpose, c.person_id, person.c.name, person.c.email, person.c.firm_id, person.c.ended_at)
        .outerjoin(person, person.c.id == c.person_id)
        .where(c.token_hash == digest(token), c.expires_at > now())
    )
    row = connection.execute(query.with_for_update() if lock else query).one_or_none()
    return None if row is None or row.ended_at is not None else row


def spend(connection: Connection, token: str) -> Any:
    """The same as `look`, and the link is good no longer. Of two at once one gets it."""
    row = look(connection, token, lock=True)
    if row is not None:
        c = one_time_link.c
        # Several links to set the first firm up can be about, from servers that started at once: one is good.
        which = c.purpose == "set-up" if row.purpose == "set-up" else c.token_hash == digest(token)
        if not connection.execute(delete(one_time_link).where(which)).rowcount:
            return None
    return row


def end_all(connection: Connection, person_id: str) -> None:
    """Links of somebody are good no longer."""
    connection.execute(delete(one_time_link).where(one_time_link.c.person_id == person_id))
