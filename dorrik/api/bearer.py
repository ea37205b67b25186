"""The token of a client's link, which goes along as a header: no address, log or proxy on the way gets to see it."""

import re

from starlette.datastructures import Headers

_BEARER = re.compile(r"Bearer ([A-Za-z0-9_-]{20,64})")


def bearer(headers: Headers) -> str | None:
    """The token that comes with a request (RFC 6750); None where none does."""
    match = _BEARER.fullmatch(headers.get("authorization", ""))
    return match[1] if match is not None else None
