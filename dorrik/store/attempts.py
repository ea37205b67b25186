"""Tries to sign in, counted by the address tried and by where from, so that guessing slows down and the owner gets in.

A try is written down before the password is looked at and taken back when it was right: tries at once count together.
Three counts, each with a delay that doubles: one address from one source (a person who has forgotten), one source
(somebody who tries many addresses), and one address from everywhere (many machines that try one). The last stands far
above what one source reaches, so that an attacker at one place never locks the owner out at another; and it does not
stand in the way of whoever brings a code of the second factor or comes by a mailed link.
"""

import hashlib
import ipaddress
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any

from sqlalchemy import ColumnElement, Engine, delete, func, insert, select

from dorrik.store.account_tables import sign_in_failure
from dorrik.store.engine import now
from dorrik.store.people import address_key

#: How far back failures count, and after which time they are deleted.
WINDOW = timedelta(minutes=15)
KEPT = timedelta(days=1)
LONGEST_DELAY = timedelta(minutes=15)


@dataclass(frozen=True, slots=True)
class Limit:
    """How many failures within the window are free, and the delay after the next one (seconds), doubling from there."""

    free: int
    first_s: float


PAIR = Limit(5, 2.0)
SOURCE = Limit(40, 2.0)
ADDRESS = Limit(60, 2.0)


class Wait(Exception):
    """Too many tries; `seconds` says after how long the next one is looked at."""

    def __init__(self, seconds: float) -> None:
        super().__init__(f"Wait {seconds:.0f} seconds.")
        self.seconds = seconds


def source_of(host: str) -> str:
    """Where a request comes from, as it is counted: an address, of IPv6 the network that one customer has (/64)."""
    try:
        found = ipaddress.ip_address(host)
    except ValueError:
        return host[:60]
    if isinstance(found, ipaddress.IPv6Address):
        return str(found.ipv4_mapped or ipaddress.ip_network((found, 64), strict=False))
    return str(found)


def _digest(text: bytes) -> bytes:
    return hashlib.sha256(text).digest()


def delay_s(failures: int, limit: Limit) -> float:
    """How long after the last of so many failures the next try is looked at (s)."""
    over = failures - limit.free
    if over < 0:
        return 0.0
    return min(limit.first_s * 2.0 ** min(over, 20), LONGEST_DELAY.total_seconds())


def begin(engine: Engine, email: str, source: str, *, second_factor: bool) -> int:
    """Write a try down, before its password is looked at; returns its number. Raises Wait, and then it does not count.

    second_factor: a code comes with it, and one is asked of that person; it does not wait for what others do to the
    address from elsewhere.
    """
    c = sign_in_failure.c
    by_address, by_source = c.email_hash == _digest(address_key(email)), c.source_hash == _digest(source.encode())
    at = now()
    with engine.begin() as connection:
        connection.execute(delete(sign_in_failure).where(c.at < at - KEPT))
        made: Any = connection.execute(
            insert(sign_in_failure).values(
                email_hash=_digest(address_key(email)), source_hash=_digest(source.encode()), at=at
            )
        )
        number = int(made.inserted_primary_key[0])
    counted: list[tuple[Limit, tuple[ColumnElement[bool], ...]]] = [
        (PAIR, (by_address, by_source)),
        (SOURCE, (by_source,)),
    ]
    if not second_factor:
        counted.append((ADDRESS, (by_address,)))
    with engine.begin() as connection:
        wait = 0.0
        for limit, which in counted:
            query = select(func.count(), func.max(c.at)).where(*which, c.id != number, c.at > at - WINDOW)
            failures, last = connection.execute(query).one()
            wait = max(wait, _left(delay_s(failures, limit), last, at))
        if wait > 0:
            connection.execute(delete(sign_in_failure).where(c.id == number))
    if wait > 0:
        raise Wait(wait)
    return number


def _left(delay: float, last: datetime | None, at: datetime) -> float:
    if last is None or not delay:
        return 0.0
    return delay - (at - last).total_seconds()


def right(engine: Engine, number: int, email: str, source: str) -> None:
    """The try was right: it is no failure, nor are those that led to it from the same place."""
    c = sign_in_failure.c
    with engine.begin() as connection:
        connection.execute(
            delete(sign_in_failure).where(
                (c.id == number)
                | ((c.email_hash == _digest(address_key(email))) & (c.source_hash == _digest(source.encode())))
            )
        )


def withdraw(engine: Engine, number: int) -> None:
    """One try is taken back: its password was right, and a code is still asked for. Those before it stand."""
    with engine.begin() as connection:
        connection.execute(delete(sign_in_failure).where(sign_in_failure.c.id == number))


def forget(engine: Engine, email: str) -> None:
    """Every failure at an address is forgotten: its owner came by a mailed link."""
    with engine.begin() as connection:
        connection.execute(delete(sign_in_failure).where(sign_in_failure.c.email_hash == _digest(address_key(email))))
