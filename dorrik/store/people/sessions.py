"""Signed-in sessions: opened with a token of which only the digest is kept, listed and ended by their owner."""

import hashlib
import secrets
from dataclasses import dataclass
from datetime import datetime, timedelta

from sqlalchemy import Connection, bindparam, delete, insert, select, update

from dorrik.core.basics.identifiers import is_id
from dorrik.store.database.account_tables import firm, person, session
from dorrik.store.database.engine import new_id, now
from dorrik.store.people.people import Person

#: How long a session lasts.
LASTS = timedelta(days=14)
#: When it was last used is kept this exactly: not at every keystroke.
SEEN_EVERY = timedelta(minutes=5)


@dataclass(frozen=True, slots=True)
class Session:
    """One session of somebody: which program opened it, from where, when, and when it was last used."""

    id: str
    agent: str
    source: str
    made_at: datetime
    seen_at: datetime


def digest(token: str) -> bytes:
    """What of a token is kept."""
    return hashlib.sha256(token.encode("utf-8", "replace")).digest()


def open_one(connection: Connection, person_id: str, agent: str, source: str) -> str:
    """Open a session; returns its token."""
    token = secrets.token_urlsafe(32)
    at = now()
    connection.execute(delete(session).where(session.c.expires_at < at))
    connection.execute(
        insert(session).values(
            token_hash=digest(token), id=new_id(), person_id=person_id, made_at=at, seen_at=at, agent=agent[:200],
            source=source[:60], expires_at=at + LASTS,
        )
    )  # fmt: skip
    return token


_WHO = (
    select(
        person.c.id, person.c.firm_id, firm.c.name.label("firm_name"), person.c.name, person.c.email, person.c.role,
        session.c.id, session.c.seen_at,
    )
    .join_from(session, person)
    .join(firm)
    .where(
        session.c.token_hash == bindparam("token_hash"), session.c.expires_at > bindparam("now"),
        person.c.ended_at.is_(None),
    )
)  # fmt: skip


def who(connection: Connection, token: str) -> Person | None:
    """Who a session's token belongs to, or None where it has ended."""
    at = now()
    row = connection.execute(_WHO, {"token_hash": digest(token), "now": at}).one_or_none()
    if row is None:
        return None
    *known, seen_at = row
    if at - seen_at > SEEN_EVERY:
        connection.execute(update(session).where(session.c.token_hash == digest(token)).values(seen_at=at))
    return Person(*known)


def of(connection: Connection, person_id: str) -> list[Session]:
    """Somebody's sessions, the one used last first."""
    c = session.c
    query = select(c.id, c.agent, c.source, c.made_at, c.seen_at).where(c.person_id == person_id, c.expires_at > now())
    return [Session(*row) for row in connection.execute(query.order_by(c.seen_at.desc(), c.id))]


def sign_out(connection: Connection, token: str) -> None:
    """End the session of a token."""
    connection.execute(delete(session).where(session.c.token_hash == digest(token)))


def end(connection: Connection, person_id: str, session_id: str) -> bool:
    """End one session of somebody; False where they have none of that id."""
    c = session.c
    here = (c.person_id == person_id, c.id == session_id)
    return is_id(session_id) and bool(connection.execute(delete(session).where(*here)).rowcount)


def end_all(connection: Connection, person_id: str) -> int:
    """End every session of somebody; returns how many there were."""
    return connection.execute(delete(session).where(session.c.person_id == person_id)).rowcount
