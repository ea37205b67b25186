"""Tries to prove who one is, counted by the account tried and by where from, so that guessing slows down and the owner
gets in.

A try is written down before it is looked at and taken back when it was right: tries at once count together, and nothing
else that a request carries changes what it counts for. Passwords have three counts, each with a delay that doubles: one
account from one source (a person who has forgotten), one source (somebody who tries many accounts), and one account
from everywhere (many machines that try one). Codes of the second factor have a count of their own by account, which no
right password resets. Whoever comes from a device on which the owner signed in before is counted by that device alone:
what others do to the account does not lock the owner out.
"""

import hashlib
import ipaddress
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any

from sqlalchemy import ColumnElement, Engine, delete, func, insert, select

from dorrik.store.database.account_tables import sign_in_failure
from dorrik.store.database.engine import now
from dorrik.store.people.people import address_key

#: After which time failures are deleted: none is counted for longer.
KEPT = timedelta(days=1)


@dataclass(frozen=True, slots=True)
class Limit:
    """How many failures within the window are free, and the delay after the next one (seconds), doubling from there up
    to the longest."""

    free: int
    first_s: float
    window: timedelta = timedelta(minutes=15)
    longest: timedelta = timedelta(minutes=15)


PAIR = Limit(5, 2.0)
SOURCE = Limit(40, 10.0)
ACCOUNT = Limit(30, 10.0)
#: Of a million codes three are good at a time: some forty tries a day are one chance in eight thousand.
CODE = Limit(6, 30.0, window=timedelta(days=1), longest=timedelta(hours=1))
#: Slips of the hand with a code of twelve digits.
CHECK = Limit(20, 10.0)


class Wait(Exception):
    """Too many tries; `seconds` says after how long the next one is looked at."""

    def __init__(self, seconds: float) -> None:
        super().__init__(f"Wait {seconds:.0f} seconds.")
        self.seconds = seconds


@dataclass(frozen=True, slots=True)
class Try:
    """One try as it was written down: its number, and what it counts for."""

    number: int
    account: bytes
    source: bytes


def source_of(host: str) -> str:
    """Where a request comes from, as it is counted: an address, of IPv6 the network that one customer has (/64)."""
    try:
        ip = ipaddress.ip_address(host)
    except ValueError:
        return host[:60]
    if isinstance(ip, ipaddress.IPv6Address):
        return str(ip.ipv4_mapped or ipaddress.ip_network((ip, 64), strict=False))
    return str(ip)


def _digest(text: bytes) -> bytes:
    return hashlib.sha256(text).digest()


def _source_key(source: str, device: str | None) -> bytes:
    return _digest(source.encode() if device is None else f"device {device}".encode())


def delay_s(failures: int, limit: Limit) -> float:
    """How long after the last of so many failures the next try is looked at (s)."""
    over = failures - limit.free
    if over < 0:
        return 0.0
    return min(limit.first_s * 2.0 ** min(over, 20), limit.longest.total_seconds())


def begin(engine: Engine, email: str, source: str, device: str | None = None) -> Try:
    """Write a try of a password down, before it is looked at. Raises Wait, and then it does not count.

    device: the device or session that is known to be this account's, where the try comes from one.
    """
    c = sign_in_failure.c
    account, where = _digest(address_key(email)), _source_key(source, device)
    counted: list[tuple[Limit, tuple[ColumnElement[bool], ...]]] = [
        (PAIR, (c.email_hash == account, c.source_hash == where))
    ]
    if device is None:
        counted += [(SOURCE, (c.source_hash == where,)), (ACCOUNT, (c.email_hash == account,))]
    return _begin(engine, account, where, counted)


def begin_code(engine: Engine, email: str, source: str, device: str | None = None) -> Try:
    """The same for a code of the second factor, which is counted apart from passwords."""
    c = sign_in_failure.c
    account, where = _digest(b"code " + address_key(email)), _source_key(source, device)
    which = (c.email_hash == account,) if device is None else (c.email_hash == account, c.source_hash == where)
    return _begin(engine, account, where, [(CODE, which)])


def begin_check(engine: Engine, source: str) -> Try:
    """A try to name the check code of a paper, which is counted apart from everything and by its source alone."""
    return _begin_apart(engine, "check", source)


def begin_link(engine: Engine, source: str) -> Try:
    """A try with a client's link that is not good, counted in the same way."""
    return _begin_apart(engine, "link", source)


def _begin_apart(engine: Engine, what: str, source: str) -> Try:
    c = sign_in_failure.c
    where = _source_key(f"{what} {source}", None)
    return _begin(engine, _digest(what.encode()), where, [(CHECK, (c.source_hash == where,))])


def _begin(
    engine: Engine, account: bytes, source: bytes, counted: list[tuple[Limit, tuple[ColumnElement[bool], ...]]]
) -> Try:
    c = sign_in_failure.c
    at = now()
    with engine.begin() as connection:
        connection.execute(delete(sign_in_failure).where(c.at < at - KEPT))
        made: Any = connection.execute(
            insert(sign_in_failure).values(email_hash=account, source_hash=source, at=at)
        )  # fmt: skip
        number = int(made.inserted_primary_key[0])
    with engine.begin() as connection:
        wait = 0.0
        for limit, which in counted:
            query = select(func.count(), func.max(c.at)).where(*which, c.id != number, c.at > at - limit.window)
            failures, last = connection.execute(query).one()
            wait = max(wait, _left(delay_s(failures, limit), last, at))
        if wait > 0:
            connection.execute(delete(sign_in_failure).where(c.id == number))
    if wait > 0:
        raise Wait(wait)
    return Try(number, account, source)


def _left(delay: float, last: datetime | None, at: datetime) -> float:
    if last is None or not delay:
        return 0.0
    return delay - (at - last).total_seconds()


def right(engine: Engine, made: Try) -> None:
    """The try was right: it is no failure, nor are those of its kind that led to it from the same place."""
    c = sign_in_failure.c
    same_place = (c.email_hash == made.account) & (c.source_hash == made.source)
    with engine.begin() as connection:
        connection.execute(delete(sign_in_failure).where((c.id == made.number) | same_place))


def withdraw(engine: Engine, made: Try) -> None:
    """One try is taken back: it was right, and something else is still asked for. Those before it stand."""
    with engine.begin() as connection:
        connection.execute(delete(sign_in_failure).where(sign_in_failure.c.id == made.number))


def forget(engine: Engine, email: str) -> None:
    """Every wrong password at an account is forgotten: its owner came by a mailed link. Codes that were wrong stand."""
    with engine.begin() as connection:
        connection.execute(delete(sign_in_failure).where(sign_in_failure.c.email_hash == _digest(address_key(email))))
