"""The database engine, and the times and identifiers that the store writes."""

import os
import random
import time
import uuid
from collections.abc import Callable
from datetime import UTC, datetime
from typing import TypeVar

from sqlalchemy import Engine, create_engine
from sqlalchemy.engine import make_url
from sqlalchemy.exc import OperationalError

T = TypeVar("T")

#: Pure Python and free to ship (docs/licences.md); measured beside one in C, a change takes the same time.
DRIVER = "mysql+pymysql"
#: Strict: nothing is cut short or bent to fit without an error.
SQL_MODE = "STRICT_ALL_TABLES,NO_ZERO_DATE,NO_ZERO_IN_DATE,ERROR_FOR_DIVISION_BY_ZERO,NO_ENGINE_SUBSTITUTION"


_HERE = ("127.0.0.1", "localhost", "::1")


def make_engine(url: str) -> Engine:
    """An engine on MariaDB, whichever driver its address names. READ COMMITTED, since a writer reads on after waiting
    for another's lock."""
    address = make_url(url).set(drivername=DRIVER)
    return create_engine(
        address,
        pool_size=10,
        max_overflow=20,
        pool_recycle=1800,
        isolation_level="READ COMMITTED",
        connect_args={
            "charset": "utf8mb4",
            "sql_mode": SQL_MODE,
            "connect_timeout": 5,
            # On this machine nothing is encrypted, and what that would take is not read for each connection.
            "ssl_disabled": address.host in _HERE,
        },
    )


def snapshots(engine: Engine) -> Engine:
    """The same engine for who only reads: everything read in one transaction is of one moment.

    An inspection is read table by table, and judged with what the journal says: nothing that is committed meanwhile may
    come into a part of it.
    """
    return engine.execution_options(isolation_level="REPEATABLE READ")


#: Another transaction had what this one needs, and the server ended this one: nothing of it was kept.
_ENDED = frozenset((1020, 1205, 1213))
TRIES = 5


def again_after_deadlock(do: Callable[[], T]) -> T:
    """What `do` returns; done again, whole, where its transaction was ended in favour of another's."""
    for left in reversed(range(TRIES)):
        try:
            return do()
        except OperationalError as error:
            number = getattr(error.orig, "args", (None,))[0]
            if number not in _ENDED or not left:
                raise
            time.sleep(random.uniform(0.005, 0.03))
    raise AssertionError


def now() -> datetime:
    """The present moment in universal time, to the millisecond, without a zone, as the tables keep it."""
    moment = datetime.now(UTC).replace(tzinfo=None)
    return moment.replace(microsecond=moment.microsecond // 1000 * 1000)


def new_id() -> str:
    """A new UUIDv7 (RFC 9562): milliseconds since 1970, then random, so that ids sort by when they were made."""
    milliseconds = time.time_ns() // 1_000_000
    noise = int.from_bytes(os.urandom(10), "big")
    value = milliseconds << 80 | noise
    value = value & ~(0xF << 76) | 0x7 << 76
    value = value & ~(0x3 << 62) | 0x2 << 62
    return str(uuid.UUID(int=value))
