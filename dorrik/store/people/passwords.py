"""Passwords: kept as argon2id hashes, checked at the same cost whether or not somebody has the address."""

import base64
import secrets

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerificationError

from dorrik.store.people.people import Unfit

#: Length alone is asked for (characters); rules about kinds of letters make passwords worse.
SHORTEST, LONGEST = 10, 200

_hasher = PasswordHasher()


def _of_no_password() -> str:
    """A hash as ours are, of no password at all: made in no time, and checked in the time that any takes."""
    costs = f"m={_hasher.memory_cost},t={_hasher.time_cost},p={_hasher.parallelism}"
    salt, digest = (
        base64.b64encode(secrets.token_bytes(size)).rstrip(b"=").decode()
        for size in (_hasher.salt_len, _hasher.hash_len)
    )
    return f"$argon2id$v=19${costs}${salt}${digest}"


#: Verified against when the address is unknown, so that both answers take the same time.
_nobody = _of_no_password()


def hash_password(password: str) -> str:
    """The argon2 hash of a password, as it is kept. Slow on purpose."""
    return _hasher.hash(password.encode("utf-8", "replace"))


def fit(password: str, *others: str) -> str:
    """A new password, if it can be one. others: name and address, which it may not be. Raises Unfit."""
    if len(password) < SHORTEST:
        raise Unfit("password", f"A password has at least {SHORTEST} characters; four or five words make a good one.")
    if len(password) > LONGEST:
        raise Unfit("password", f"A password has at most {LONGEST} characters.")
    if password.strip().casefold() in {other.strip().casefold() for other in others} or len(set(password)) < 4:
        raise Unfit("password", "That password is the first that somebody would try.")
    return password


def matches(password_hash: str | None, password: str) -> bool:
    """Does a password belong to a hash? Takes as long where there is none."""
    try:
        _hasher.verify(password_hash or _nobody, password.encode("utf-8", "replace"))
    except (VerificationError, InvalidHashError):
        return False
    return password_hash is not None
