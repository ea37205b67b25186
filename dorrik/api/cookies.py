"""The cookies that Dorrik gives a browser, read by their name and their length alone.

The standard library's reader takes time that grows with the square of what it is sent; nothing here does.
"""

import re

from fastapi import Response
from starlette.datastructures import Headers

#: The session, and the browser in which somebody signed in before.
SESSION = "dorrik_session"
DEVICE = "dorrik_device"

#: Begins with the name, which is searched for as quickly as a word in a text.
_TOKEN = {name: re.compile(rf"{name}=([A-Za-z0-9_-]{{20,64}})(?=;|\Z)") for name in (SESSION, DEVICE)}


def read(headers: Headers, name: str) -> str | None:
    """The token that a browser sends in a cookie of ours; None where it sends none, or something else in it."""
    token = None
    for field in headers.getlist("cookie"):
        for match in _TOKEN[name].finditer(field):
            if field[max(0, match.start() - 2) : match.start()] in ("", "; ") or field[match.start() - 1] == ";":
                # Of two the one that was set last, which browsers send last.
                token = match.group(1)
    return token


def give(response: Response, name: str, token: str, *, seconds: float, secure: bool) -> None:
    """Give a browser a token that its scripts cannot read and other sites' pages do not send. secure: over TLS only."""
    response.set_cookie(
        name, token, max_age=int(seconds), httponly=True, samesite="strict", secure=secure, path="/"
    )  # fmt: skip


def take_back(response: Response, name: str) -> None:
    """Have a browser forget a cookie of ours."""
    response.delete_cookie(name, path="/", httponly=True, samesite="strict")
