"""What stands before every request: where it comes from, how large, how slow and how many at once; and what goes with
every answer."""

import asyncio
import hashlib
import re
from collections import Counter
from collections.abc import Awaitable, Callable

from starlette.concurrency import run_in_threadpool
from starlette.datastructures import Headers, MutableHeaders
from starlette.exceptions import HTTPException
from starlette.responses import JSONResponse, Response
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from dorrik.api import cookies
from dorrik.api.bearer import bearer
from dorrik.api.request_head import LARGEST_HEAD
from dorrik.api.rules_edition import edition
from dorrik.api.work import SIGNED_OUT
from dorrik.store.people import sessions
from dorrik.store.people.attempts import source_of
from dorrik.store.planning import visit_links
from dorrik.store.reports import client_links

#: What a target may hold (bytes), and how many values its query.
LONGEST_PATH, LONGEST_QUERY, MOST_VALUES = 1_024, 4_096, 64
HOST = re.compile(r"[A-Za-z0-9._-]{1,253}(:[0-9]{1,5})?|\[[0-9A-Fa-f:.]{2,45}\](:[0-9]{1,5})?")

LARGEST_BODY = 2_000_000
#: What is taken of somebody who is not known: more than signing in or setting a firm up needs.
LARGEST_OF_STRANGERS = 16_384
#: Files may be larger where files are taken.
LARGEST_FILE = 20_000_000
FILES = re.compile(
    r"/api/(papers|import|firm/logo|shared/homes/[0-9a-f-]{36}/files"
    r"|portfolio/[0-9a-f-]{36}/table|planner/weeks/travel|visits/[0-9a-f-]{36}/steps/[0-9a-f-]{36}/photos"
    r"|inspections/[0-9a-f-]{36}/(photos/[0-9a-f]{64}|stored-readings|after/files))"
)

#: How long a sender may be silent in the middle of a body (s), and how slow it may be on the whole (bytes a second).
SILENCE_S = 20.0
START_S = 30.0
SLOWEST_BYTES_S = 5_000

#: Streams wait for news and do no work: they are counted for themselves (`streams`).
STREAMS = re.compile(r"/api/inspections/[0-9a-f-]{36}/stream")

#: Requests at once: of one session, of one address without a session, and of one address altogether (an office's).
AT_ONCE = {"session": 16, "stranger": 16, "address": 64}

SECURITY = {
    # Compiled code comes from here alone, as scripts do: the rules, for a device that judges by itself.
    "Content-Security-Policy": "default-src 'self'; script-src 'self' 'wasm-unsafe-eval'; img-src 'self' data: blob:; "
    "style-src 'self' 'unsafe-inline'; "
    # An instrument that is linked speaks from this very device (docs/instrument-link.md).
    "connect-src 'self' ws://127.0.0.1:* ws://localhost:*; "
    "frame-ancestors 'none'; base-uri 'none'; form-action 'self'",
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "same-origin",
    "Cross-Origin-Opener-Policy": "same-origin",
    "Cross-Origin-Resource-Policy": "same-origin",
    "Permissions-Policy": "geolocation=(), microphone=(), camera=(self)",
}
#: A year; only over TLS, where browsers heed it.
STRICT_TRANSPORT = "max-age=31536000"


class Guard:
    """Refuses what another site's page sends, and what is too large, too slow or too much at once.

    A body larger than signing in needs is read only of somebody whose session was looked up before.

    Browsers name the sender of every cross-site write in Sec-Fetch-Site or Origin; a program that is no
    browser sends neither and carries no cookie that it was not given.
    """

    def __init__(self, app: ASGIApp) -> None:
        self.app = app
        #: Requests being answered, by session and by address.
        self._busy: Counter[str] = Counter()

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] == "websocket":
            # There is none; a browser's request for one would carry the cookie from any site.
            await send({"type": "websocket.close", "code": 1008})
            return
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        headers = Headers(scope=scope)
        head = scope["method"] == "HEAD"
        if (unfit := _unfit_head(scope, headers)) is not None:
            await unfit(scope, receive, send)
            return
        scope["headers"] = _understood(headers)
        headers = Headers(scope=scope)
        if head:
            scope = {**scope, "method": "GET"}
        largest = LARGEST_FILE if FILES.fullmatch(scope["path"]) else LARGEST_BODY
        counts = scope["path"].startswith("/api/") and not STREAMS.fullmatch(scope["path"])
        keys = _keys(scope, headers) if counts else {}
        refused: Response | None = None
        if scope["method"] not in ("GET", "OPTIONS") and _from_elsewhere(headers):
            refused = problem(403, "cross-site", "Another site sent this; it was not accepted.")
        elif (claimed := _claimed(headers)) is None:
            refused = problem(400, "length", "The length of the request cannot be read.")
        elif claimed > largest:
            refused = _too_large(largest)
        elif any(self._busy[key] >= AT_ONCE[kind] for kind, key in keys.items()):
            refused = problem(429, "busy", "Too many requests at once; try again in a moment.", {"Retry-After": "1"})

        async def answered(message: Message) -> None:
            if message["type"] == "http.response.start":
                _secure(message, scope)
            elif head and message["type"] == "http.response.body":
                message = {**message, "body": b""}
            await send(message)

        if refused is not None:
            await refused(scope, receive, answered)
            return
        self._busy.update(keys.values())
        try:
            await self.app(scope, _bounded(receive, largest, lambda: _is_known(scope, headers)), answered)
        finally:
            for key in keys.values():
                self._busy[key] -= 1
                if self._busy[key] <= 0:
                    del self._busy[key]


def _unfit_head(scope: Scope, headers: Headers) -> Response | None:
    """The answer to a head that is larger than ours ever are, before anything of it is taken apart."""
    fields, path, query = scope["headers"], scope.get("raw_path") or b"", scope["query_string"]
    if sum(len(name) + len(value) for name, value in fields) > LARGEST_HEAD:
        return problem(431, "head-too-large", "The head of the request is too large.", {"Connection": "close"})
    if len(path) > LONGEST_PATH or len(query) > LONGEST_QUERY or query.count(b"&") >= MOST_VALUES:
        return problem(414, "address-too-long", "There is no address as long as that.", {"Connection": "close"})
    if not HOST.fullmatch(headers.get("host", "localhost")):
        return problem(400, "host", "The name of the server cannot be read.", {"Connection": "close"})
    return None


def _understood(headers: Headers) -> list[tuple[bytes, bytes]]:
    """The fields of a head that are worked on: of cookies ours alone, since the framework takes every cookie apart,
    and no ranges, since nothing here is served in parts."""
    kept = [field for field in headers.raw if field[0] not in (b"cookie", b"range")]
    ours = [(name, cookies.read(headers, name)) for name in (cookies.SESSION, cookies.DEVICE)]
    if sent := "; ".join(f"{name}={token}" for name, token in ours if token is not None):
        kept.append((b"cookie", sent.encode()))
    return kept


async def _is_known(scope: Scope, headers: Headers) -> bool:
    """Does the request come with a session that has not ended, or with a client's link that is good?"""
    token, link = cookies.read(headers, cookies.SESSION), bearer(headers)
    if token is None and link is None:
        return False

    def look_up() -> bool:
        with scope["app"].state.engine.begin() as connection:
            if token is not None and sessions.who(connection, token) is not None:
                return True
            if link is None:
                return False
            known = (client_links.by_token(connection, link), visit_links.by_token(connection, link))
            return any(one is not None for one in known)

    return await run_in_threadpool(look_up)


def _bounded(receive: Receive, largest: int, is_known: Callable[[], Awaitable[bool]]) -> Receive:
    """The body as it comes in, ended at its limit whatever length it claimed, and where it comes in too slowly."""
    taken = 0
    whole = known = False
    began: float | None = None

    async def take() -> Message:
        nonlocal taken, whole, known, began
        if whole:
            return await receive()
        clock = asyncio.get_running_loop().time
        began = clock() if began is None else began
        left = began + START_S + taken / SLOWEST_BYTES_S - clock()
        try:
            message = await asyncio.wait_for(receive(), min(SILENCE_S, max(left, 0.01)))
        except TimeoutError:
            close = {"Connection": "close"}
            raise HTTPException(408, "The request came in too slowly; try again.", headers=close) from None
        if message["type"] == "http.request":
            taken += len(message.get("body", b""))
            whole = not message.get("more_body", False)
            if taken > largest:
                whole = True
                raise HTTPException(413, _told(largest), headers={"Connection": "close"})
            if taken > LARGEST_OF_STRANGERS and not known:
                known = await is_known()
                if not known:
                    whole = True
                    raise HTTPException(401, SIGNED_OUT, headers={"Connection": "close"})
        else:
            whole = True
        return message

    return take


def _keys(scope: Scope, headers: Headers) -> dict[str, str]:
    """What a request counts for, by kind of limit."""
    client = scope.get("client")
    address = source_of(client[0]) if client else "unknown"
    keys = {"address": f"address {address}"}
    if token := cookies.read(headers, cookies.SESSION):
        keys["session"] = "session " + hashlib.sha256(token.encode()).hexdigest()
    else:
        keys["stranger"] = f"stranger {address}"
    return keys


def _claimed(headers: Headers) -> int | None:
    """The length that a request claims; 0 where it claims none, None where it cannot be read."""
    given = headers.get("content-length", "0")
    return int(given) if given.isascii() and given.isdecimal() and len(given) < 16 else None


def _secure(message: Message, scope: Scope) -> None:
    out = MutableHeaders(scope=message)
    for name, value in SECURITY.items():
        out.setdefault(name, value)
    if scope.get("scheme") == "https":
        out.setdefault("Strict-Transport-Security", STRICT_TRANSPORT)
    if scope["path"].startswith("/api/"):
        out.setdefault("Cache-Control", "no-store")
        # A device that judges by itself knows by this whether it does so by the same rules.
        out.setdefault("Dorrik-Rules", edition())


def _from_elsewhere(headers: Headers) -> bool:
    site = headers.get("sec-fetch-site")
    if site is not None:
        return site not in ("same-origin", "none")
    origin = headers.get("origin")
    return origin is not None and origin.partition("://")[2] != headers.get("host")


def _told(largest: int) -> str:
    if largest == LARGEST_FILE:
        return f"Files of at most {LARGEST_FILE // 1_000_000} MB are taken."
    return "That is more than can be taken at once; send it in parts."


def _too_large(largest: int) -> Response:
    return problem(413, "too-large", _told(largest), {"Connection": "close"})


def problem(status: int, code: str, message: str, headers: dict[str, str] | None = None) -> Response:
    """An answer in the shape of every error."""
    return JSONResponse({"code": code, "message": message, "fields": []}, status, headers)
