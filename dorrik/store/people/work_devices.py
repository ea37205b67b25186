"""Devices that somebody works on: known by a key that was told once, ended when they are lost, and what waited there.

A device says of itself which it is, and is believed only in what it signed. Ending one ends its sessions and its key;
what it signs from then on is not taken.
"""

import hashlib
import hmac
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy import Connection, delete, insert, select, update

from dorrik.core.basics.identifiers import is_id
from dorrik.store.database.account_tables import person, session, work_device
from dorrik.store.database.engine import now
from dorrik.store.database.tables import change as journal
from dorrik.store.database.tables import uploaded_photo

#: Length of the key by which a device signs.
KEY_BYTES = 32


@dataclass(frozen=True, slots=True)
class WorkDevice:
    """A device as one person works on it. waiting: what had not arrived when it last said so: entries (`id`,
    `inspection_id`, `entity`, `entity_id`, `field`, `made_at`) and photos (`sha256`, `inspection_id`)."""

    id: str
    person_id: str
    person: str
    name: str
    made_at: datetime
    heard_at: datetime
    waiting: Mapping[str, Any] | None
    ended_at: datetime | None


class EndedError(Exception):
    """The device was ended: it needs another key, after signing in again."""


def on(connection: Connection, session_id: str, person_id: str) -> str | None:
    """The device that a session was on until now, as that said of itself."""
    here = (session.c.id == session_id, session.c.person_id == person_id)
    return connection.execute(select(session.c.device_id).where(*here)).scalar()


def know(connection: Connection, device_id: str, person_id: str, session_id: str, name: str, key: bytes) -> bool:
    """From now on this device is somebody's, and that session is on it; False where it was known before, with a key
    that is replaced now: the device has lost it. Raises EndedError where it comes with the key with which it was
    ended."""
    at = now()
    c = work_device.c
    here = (c.id == device_id, c.person_id == person_id)
    row = connection.execute(select(c.signing_key, c.ended_at).where(*here).with_for_update()).one_or_none()
    if row is None:
        connection.execute(
            insert(work_device).values(
                id=device_id, person_id=person_id, name=name, signing_key=key, made_at=at, heard_at=at
            )
        )
    else:
        if row.ended_at is not None and hmac.compare_digest(row.signing_key, key):
            raise EndedError
        values = {"name": name, "signing_key": key, "heard_at": at, "ended_at": None, "ended_by": None}
        connection.execute(update(work_device).where(*here).values(values))
    _on(connection, session_id, person_id, device_id)
    return row is None


def hear(connection: Connection, device_id: str, person_id: str, session_id: str, waiting: Mapping[str, Any]) -> bool:
    """What waits on a device, as it says itself; False where it is not known as this person's."""
    c = work_device.c
    here = (c.id == device_id, c.person_id == person_id, c.ended_at.is_(None))
    row = connection.execute(select(c.id).where(*here).with_for_update()).first()
    if row is None:
        return False
    connection.execute(update(work_device).where(*here).values(waiting=dict(waiting), heard_at=now()))
    _on(connection, session_id, person_id, device_id)
    return True


def _on(connection: Connection, session_id: str, person_id: str, device_id: str) -> None:
    here = (session.c.id == session_id, session.c.person_id == person_id)
    connection.execute(update(session).where(*here).values(device_id=device_id))


def of_firm(connection: Connection, firm_id: str, person_id: str | None = None) -> list[WorkDevice]:
    """Devices of a firm's people, or of one of them, the one heard of last first."""
    c = work_device.c
    query = (
        select(c.id, c.person_id, person.c.name.label("person"), c.name, c.made_at, c.heard_at, c.waiting, c.ended_at)
        .join(person, person.c.id == c.person_id)
        .where(person.c.firm_id == firm_id)
    )
    if person_id is not None:
        query = query.where(c.person_id == person_id)
    rows: Any = connection.execute(query.order_by(c.heard_at.desc(), c.id))
    return [WorkDevice(**row) for row in rows.mappings()]


def end(connection: Connection, device_id: str, person_id: str, by: str) -> bool:
    """End a device of somebody: its sessions, and its key; False where there is none that goes on."""
    c = work_device.c
    here = (c.id == device_id, c.person_id == person_id, c.ended_at.is_(None))
    if not connection.execute(update(work_device).where(*here).values(ended_at=now(), ended_by=by)).rowcount:
        return False
    connection.execute(delete(session).where(session.c.person_id == person_id, session.c.device_id == device_id))
    return True


def has_signed(connection: Connection, device_id: str, person_id: str, message: bytes, signature: bytes) -> bool:
    """Did this device sign that for this person? Never where it was ended, or is not known."""
    if not is_id(device_id) or not is_id(person_id):
        return False
    c = work_device.c
    row = connection.execute(
        select(c.signing_key).where(c.id == device_id, c.person_id == person_id, c.ended_at.is_(None))
    ).one_or_none()
    if row is None:
        return False
    return hmac.compare_digest(hmac.new(row.signing_key, message, hashlib.sha256).digest(), signature)


def arrived(connection: Connection, entries: Iterable[Mapping[str, Any]]) -> frozenset[str]:
    """Ids of the entries that are in the journal by now, from whichever device they came."""
    of_inspection: dict[str, list[str]] = {}
    for entry in entries:
        of_inspection.setdefault(str(entry["inspection_id"]), []).append(str(entry["id"]))
    digests: set[str] = set()
    for inspection_id, ids in of_inspection.items():
        c = journal.c
        query = select(c.change_id).where(c.inspection_id == inspection_id, c.change_id.in_(ids))
        digests.update(connection.execute(query).scalars())
    return frozenset(digests)


def arrived_photos(connection: Connection, firm_id: str, digests: Sequence[str]) -> frozenset[str]:
    """Those of the photos that the firm has by now."""
    c = uploaded_photo.c
    query = select(c.sha256).where(c.firm_id == firm_id, c.sha256.in_(digests))
    return frozenset(connection.execute(query).scalars()) if digests else frozenset()
