"""The database engine, and the times and identifiers that the store writes."""

import os
import re
import time
import uuid
from datetime import UTC, datetime

from sqlalchemy import Engine, create_engine

#: Strict: nothing is cut short or bent to fit without an error.
SQL_MODE = "STRICT_ALL_TABLES,NO_ZERO_DATE,NO_ZERO_IN_DATE,ERROR_FOR_DIVISION_BY_ZERO,NO_ENGINE_SUBSTITUTION"


def make_engine(url: str) -> Engine:
    """An engine on MariaDB. READ COMMITTED, since a writer reads on after waiting for another's lock."""
    return create_engine(
        url,
        pool_size=10,
        max_overflow=20,
        pool_recycle=1800,
        isolation_level="READ COMMITTED",
        connect_args={"charset": "utf8mb4", "sql_mode": SQL_MODE, "connect_timeout": 5},
    )


def now() -> datetime:
    """The present moment in universal time, to the millisecond, without a zone, as the tables keep it."""
    moment = datetime.now(UTC).replace(tzinfo=None)
    return moment.replace(microsecond=moment.microsecond // 1000 * 1000)


_IDENTIFIER = re.compile(r"[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}")


def is_id(text: str) -> bool:
    """Is that a UUID as the tables keep it? Nothing else is looked up: its columns hold no other letters."""
    return _IDENTIFIER.fullmatch(text) is not None


def new_id() -> str:
    """A new UUIDv7 (RFC 9562): milliseconds since 1970, then random, so that ids sort by when they were made."""
    milliseconds = time.time_ns() // 1_000_000
    random = int.from_bytes(os.urandom(10), "big")
    value = milliseconds << 80 | random
    value = value & ~(0xF << 76) | 0x7 << 76
    value = value & ~(0x3 << 62) | 0x2 << 62
    return str(uuid.UUID(int=value))
