"""Firms, people and their signed-in sessions. Passwords are kept as argon2 hashes, session tokens as SHA-256."""

import hashlib
import secrets
from dataclasses import dataclass
from datetime import timedelta
from typing import Any

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerificationError
from sqlalchemy import Connection, bindparam, delete, func, insert, select

from dorrik.store.engine import new_id, now
from dorrik.store.tables import firm, person, session, sign_in_failure

SESSION = timedelta(days=14)
#: After so many failures within the window an address must wait.
FAILURES = 10
FAILURE_WINDOW = timedelta(minutes=15)

_hasher = PasswordHasher()
#: Verified against when the address is unknown, so that both answers take the same time.
_nobody = _hasher.hash(secrets.token_urlsafe(16))


@dataclass(frozen=True, slots=True)
class Person:
    """Who is signed in."""

    id: str
    firm_id: str
    firm_name: str
    name: str
    email: str
    role: str


class TooManyFailures(Exception):
    """The address has failed too often of late."""


def add_firm(connection: Connection, name: str, address: str, phone: str, firm_id: str | None = None) -> str:
    """Add a firm; returns its id."""
    firm_id = firm_id or new_id()
    connection.execute(insert(firm).values(id=firm_id, name=name, address=address, phone=phone, house_rules={}))
    return firm_id


def hash_password(password: str) -> str:
    """The argon2 hash of a password, as it is kept. Slow on purpose."""
    return _hasher.hash(password)


def add_person(connection: Connection, firm_id: str, name: str, email: str, role: str, password_hash: str) -> str:
    """Add a person to a firm; returns the id. role: 'inspector', 'supervisor' or 'office'."""
    person_id = new_id()
    connection.execute(
        insert(person).values(
            id=person_id,
            firm_id=firm_id,
            name=name,
            email=email.strip().lower(),
            role=role,
            password_hash=password_hash,
        )
    )
    return person_id


def _digest(text: str) -> bytes:
    return hashlib.sha256(text.encode()).digest()


def sign_in(connection: Connection, email: str, password: str) -> str | None:
    """A new session's token, or None where address and password do not belong together. Raises TooManyFailures."""
    email = email.strip().lower()
    failed = sign_in_failure.c
    recent = select(func.count()).where(failed.email_hash == _digest(email), failed.at > now() - FAILURE_WINDOW)
    if connection.execute(recent).scalar_one() >= FAILURES:
        raise TooManyFailures
    row = connection.execute(select(person.c.id, person.c.password_hash).where(person.c.email == email)).one_or_none()
    try:
        _hasher.verify(row.password_hash if row else _nobody, password)
    except (VerificationError, InvalidHashError):
        row = None
    if row is None:
        connection.execute(insert(sign_in_failure).values(email_hash=_digest(email), at=now()))
        return None
    token = secrets.token_urlsafe(32)
    connection.execute(delete(session).where(session.c.expires_at < now()))
    connection.execute(insert(session).values(token_hash=_digest(token), person_id=row.id, expires_at=now() + SESSION))
    return token


def sign_out(connection: Connection, token: str) -> None:
    """End a session."""
    connection.execute(delete(session).where(session.c.token_hash == _digest(token)))


_WHO = (
    select(person.c.id, person.c.firm_id, firm.c.name.label("firm_name"), person.c.name, person.c.email, person.c.role)
    .join_from(session, person)
    .join(firm)
    .where(session.c.token_hash == bindparam("token_hash"), session.c.expires_at > bindparam("now"))
)


def who(connection: Connection, token: str) -> Person | None:
    """Who a session's token belongs to, or None where it has ended."""
    row = connection.execute(_WHO, {"token_hash": _digest(token), "now": now()}).one_or_none()
    return Person(*row) if row else None


def colleagues(connection: Connection, firm_id: str) -> dict[str, str]:
    """Names of a firm's people by id."""
    rows: Any = connection.execute(select(person.c.id, person.c.name).where(person.c.firm_id == firm_id))
    return {row.id: row.name for row in rows}


def firm_details(connection: Connection, firm_id: str) -> dict[str, Any]:
    """Name, address, phone and house rules of a firm."""
    row = connection.execute(select(firm).where(firm.c.id == firm_id)).one()
    return dict(row._mapping)
