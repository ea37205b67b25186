"""Calendars that other programs read by an address: whose, until they are ended. Of the token only a digest is kept."""

import secrets
from dataclasses import dataclass
from datetime import datetime
from typing import Any, Literal

from sqlalchemy import Connection, insert, select, update

from dorrik.core.basics.identifiers import is_id
from dorrik.store.database.engine import new_id, now
from dorrik.store.database.planning_tables import calendar_feed
from dorrik.store.people.sessions import digest

Whose = Literal["firm", "inspector", "client"]


@dataclass(frozen=True, slots=True)
class Feed:
    """A calendar's address as the firm sees it. of_id: of the inspector's week or the client; reads: how often some
    program has asked."""

    id: str
    firm_id: str
    whose: Whose
    of_id: str | None
    name: str
    made_at: datetime
    revoked_at: datetime | None
    last_read_at: datetime | None
    reads: int


def make(
    connection: Connection, firm_id: str, person_id: str, whose: Whose, of_id: str | None, name: str
) -> tuple[str, str]:
    """Make a feed; returns its id and its token, which is told once."""
    token, feed_id = secrets.token_urlsafe(32), new_id()
    connection.execute(
        insert(calendar_feed).values(
            id=feed_id, firm_id=firm_id, token_hash=digest(token), whose=whose, of_id=of_id, name=name[:120],
            made_at=now().replace(microsecond=0), made_by=person_id, reads=0,
        )
    )  # fmt: skip
    return feed_id, token


def of_firm(connection: Connection, firm_id: str) -> list[Feed]:
    """Every feed that has not ended, the latest first."""
    c = calendar_feed.c
    query = _query().where(c.firm_id == firm_id, c.revoked_at.is_(None)).order_by(c.made_at.desc(), c.id.desc())
    return [Feed(**row._mapping) for row in connection.execute(query)]


def by_token(connection: Connection, token: str) -> Feed | None:
    """The feed of a token that has not ended; None else."""
    c = calendar_feed.c
    query = _query().where(c.token_hash == digest(token), c.revoked_at.is_(None))
    row = connection.execute(query).one_or_none()
    return Feed(**row._mapping) if row is not None else None


def read(connection: Connection, feed_id: str) -> None:
    """Some program has asked for it."""
    c, at = calendar_feed.c, now().replace(microsecond=0)
    connection.execute(update(calendar_feed).where(c.id == feed_id).values(reads=c.reads + 1, last_read_at=at))


def revoke(connection: Connection, firm_id: str, feed_id: str) -> bool:
    """End a feed; False where the firm has none of that id."""
    c = calendar_feed.c
    if not is_id(feed_id):
        return False
    here = (c.id == feed_id, c.firm_id == firm_id, c.revoked_at.is_(None))
    values = {"revoked_at": now().replace(microsecond=0)}
    return connection.execute(update(calendar_feed).where(*here).values(**values)).rowcount == 1


def _query() -> Any:
    return select(*(calendar_feed.c[name] for name in Feed.__dataclass_fields__))
