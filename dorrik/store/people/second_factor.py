"""The second factor: codes of thirty seconds from a device (TOTP, RFC 6238), and recovery codes, each good once."""

import hashlib
import hmac
import io
import secrets
import time
from typing import Any

import pyotp
import segno
from sqlalchemy import Connection, select, update

from dorrik.store.database.account_tables import person
from dorrik.store.database.engine import now

#: How many recovery codes there are, and the letters they are made of: none that is taken for another.
RECOVERY = 10
_LETTERS = "abcdefghjkmnpqrstuvwxyz23456789"
STEP_S = 30
ISSUER = "Dorrik"


def begin(connection: Connection, person_id: str) -> tuple[str, str]:
    """Make a secret that is not asked for yet; returns it (base32) and its address for a device (otpauth URI)."""
    secret = pyotp.random_base32()
    row = connection.execute(select(person.c.email).where(person.c.id == person_id)).one()
    connection.execute(
        update(person)
        .where(person.c.id == person_id)
        .values(totp_secret=secret.encode(), totp_since=None, totp_step=None, recovery=None)
    )
    return secret, pyotp.TOTP(secret).provisioning_uri(name=row.email, issuer_name=ISSUER)


def drawing(uri: str) -> str:
    """A QR code of the address, as SVG."""
    out = io.BytesIO()
    segno.make(uri, error="m").save(out, kind="svg", xmldecl=False, svgns=True, border=2, scale=5)
    return out.getvalue().decode()


def confirm(connection: Connection, person_id: str, code: str) -> list[str] | None:
    """From now on a code is asked for, if this one is right; returns the recovery codes, which are shown once."""
    row = _row(connection, person_id)
    if row.totp_secret is None or row.totp_since is not None or (step := _step(row, code)) is None:
        return None
    codes = [_recovery_code() for _ in range(RECOVERY)]
    connection.execute(
        update(person)
        .where(person.c.id == person_id)
        .values(totp_since=now(), totp_step=step, recovery=[_hash(code) for code in codes])
    )
    return codes


def stop(connection: Connection, person_id: str) -> None:
    """No code is asked for any more."""
    connection.execute(
        update(person)
        .where(person.c.id == person_id)
        .values(totp_secret=None, totp_since=None, totp_step=None, recovery=None)
    )


def is_asked(row: Any) -> bool:
    """Is a code asked of this person?"""
    return row.totp_since is not None


def left(connection: Connection, person_id: str) -> int:
    """How many recovery codes are left."""
    return len(_row(connection, person_id).recovery or ())


def check(connection: Connection, person_id: str, code: str) -> bool:
    """Is that a code of the device, not used before, or one of the recovery codes, which is then spent?"""
    row = _row(connection, person_id)
    step = _step(row, code)
    if step is not None:
        connection.execute(update(person).where(person.c.id == person_id).values(totp_step=step))
        return True
    kept = row.recovery or []
    given = _hash(code.strip().lower().replace(" ", "").replace("-", ""))
    rest = [code_hash for code_hash in kept if not hmac.compare_digest(code_hash, given)]
    if len(rest) == len(kept):
        return False
    connection.execute(update(person).where(person.c.id == person_id).values(recovery=rest))
    return True


def _row(connection: Connection, person_id: str) -> Any:
    """Held, so that of two tries with one code one is right."""
    return connection.execute(select(person).where(person.c.id == person_id).with_for_update()).one()


def _step(row: Any, code: str) -> int | None:
    """Which thirty seconds a code is of: these, those before or those after; none at or before the last one used."""
    digits = code.strip().replace(" ", "")
    if row.totp_secret is None or len(digits) != 6 or not digits.isascii() or not digits.isdecimal():
        return None
    device = pyotp.TOTP(row.totp_secret.decode())
    present = int(time.time()) // STEP_S
    for step in (present, present - 1, present + 1):
        if hmac.compare_digest(device.generate_otp(step), digits):
            return step if row.totp_step is None or step > row.totp_step else None
    return None


def _recovery_code() -> str:
    return "".join(secrets.choice(_LETTERS) for _ in range(10))


def _hash(code: str) -> str:
    """Recovery codes are random and long: a plain digest keeps them."""
    return hashlib.sha256(code.encode("utf-8", "replace")).hexdigest()
