"""Devices on which somebody signed in before: their owner gets in there whatever others do to the account.

A device is a token in a cookie, of which only the digest is kept. It opens nothing: a try from a known device is only
counted by that device instead of with everybody's.
"""

import secrets
from datetime import timedelta

from sqlalchemy import Connection, delete, insert, select, update

from dorrik.store.database.account_tables import known_device
from dorrik.store.database.engine import now
from dorrik.store.people.sessions import digest

#: How long a device is known after it was last used (browsers keep a cookie no longer), and how many a person has.
LASTS = timedelta(days=400)
MOST = 20


def find(connection: Connection, token: str | None, person_id: str) -> str | None:
    """The name under which tries from this device are counted; None where it is not known to be this person's."""
    if token is None:
        return None
    c = known_device.c
    query = select(c.token_hash).where(
        c.token_hash == digest(token), c.person_id == person_id, c.seen_at > now() - LASTS
    )  # fmt: skip
    row = connection.execute(query).one_or_none()
    return None if row is None else f"{person_id} {row.token_hash.hex()}"


def know(connection: Connection, token: str | None, person_id: str) -> str:
    """From now on this device is known to be this person's; returns its token, a new one where it had none."""
    at = now()
    c = known_device.c
    if token is not None:
        here = (c.token_hash == digest(token), c.person_id == person_id)
        if connection.execute(update(known_device).where(*here).values(seen_at=at)).rowcount:
            return token
    # A token that we did not make is never taken over: somebody may have planted it.
    made = secrets.token_urlsafe(32) if token is None or not _is_ours(connection, token) else token
    connection.execute(insert(known_device).values(token_hash=digest(made), person_id=person_id, seen_at=at))
    kept = select(c.token_hash).where(c.person_id == person_id).order_by(c.seen_at.desc(), c.token_hash)
    for old in connection.execute(kept).scalars().all()[MOST:]:
        connection.execute(delete(known_device).where(c.person_id == person_id, c.token_hash == old))
    return made


def forget(connection: Connection, person_id: str) -> None:
    """No device is known to be this person's any more."""
    connection.execute(delete(known_device).where(known_device.c.person_id == person_id))


def _is_ours(connection: Connection, token: str) -> bool:
    """Was somebody's device known by this token already (a tablet that several people share)?"""
    query = select(known_device.c.token_hash).where(known_device.c.token_hash == digest(token)).limit(1)
    return connection.execute(query).first() is not None
