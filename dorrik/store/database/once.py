"""Asked twice, done once: what was asked for under a key, and what came of it, kept with a uniqueness that the database
holds, so that of two who ask at once one does it and both get the same answer.

The key is the asker's own (a device that sends again after a broken line), or made of what is asked for, and then good
for a short while only: two tablets that press the same button mean one thing, an hour later it is meant anew.
"""

import hashlib
import json
from datetime import timedelta
from typing import Any

from sqlalchemy import Connection, Engine, delete, insert, select, update
from sqlalchemy.exc import IntegrityError

from dorrik.store.database.engine import now
from dorrik.store.database.tables import once

#: How long a key of the asker's own is remembered, and one that was made of what was asked.
REMEMBERED = timedelta(days=7)
MEANT_ONCE = timedelta(minutes=2)
#: Whoever began and did not end within this time has broken down.
BROKEN_DOWN = timedelta(minutes=2)


class Busy(Exception):
    """Somebody is doing it at this moment."""


class OtherContent(Exception):
    """The key was used for something else."""


class RequestKey:
    """One thing asked for. given: the asker's own key, or None; asked: everything that says what is to be done."""

    def __init__(self, firm_id: str, action: str, given: str | None, *asked: object) -> None:
        self.digest = hashlib.sha256(json.dumps(asked, sort_keys=True, default=str).encode()).hexdigest()
        self.where = {
            "firm_id": firm_id, "action": action, "request_key": given[:80] if given else f"={self.digest}"
        }  # fmt: skip
        self.lasts = REMEMBERED if given else MEANT_ONCE


def begin(engine: Engine, key: RequestKey) -> Any:
    """Claim it: None where it is to be done now, else the answer that was given. Raises Busy or OtherContent."""
    c = once.c
    here = [c[name] == value for name, value in key.where.items()]
    for _ in range(2):
        with engine.begin() as connection:
            connection.execute(delete(once).where(c.at < now() - REMEMBERED))
            row = connection.execute(select(once).where(*here).with_for_update()).one_or_none()
            age = now() - row.at if row is not None else None
            if row is not None and age is not None:
                if row.state == "done" and age < key.lasts:
                    if row.asked != key.digest:
                        raise OtherContent
                    return row.answer
                if row.state == "begun" and age < BROKEN_DOWN:
                    raise Busy
                connection.execute(
                    update(once).where(*here).values(asked=key.digest, state="begun", answer=None, at=now())
                )
                return None
            try:
                with connection.begin_nested():
                    connection.execute(insert(once).values(**key.where, asked=key.digest, state="begun", at=now()))
                return None
            except IntegrityError:
                # Somebody else came first between our looking and our writing: look again.
                continue
    raise Busy


def done(connection: Connection, key: RequestKey, answer: Any) -> None:
    """It was done; the answer is given again to whoever asks again. In the transaction of what was done."""
    here = [once.c[name] == value for name, value in key.where.items()]
    connection.execute(update(once).where(*here).values(state="done", answer=answer, at=now()))


def failed(engine: Engine, key: RequestKey) -> None:
    """It was not done: it may be asked for again at once."""
    with engine.begin() as connection:
        connection.execute(delete(once).where(*[once.c[name] == value for name, value in key.where.items()]))
