"""Serving the bench's page, its commands and the link, on one port of this machine."""

import asyncio
import contextlib
import json
import mimetypes
import os
from http import HTTPStatus
from pathlib import Path
from typing import Any
from urllib.parse import urlsplit

from websockets.asyncio.server import ServerConnection, serve
from websockets.datastructures import Headers
from websockets.exceptions import ConnectionClosed
from websockets.http11 import Request, Response

from dorrik.meter.bench import BenchError, MeterBench
from dorrik.meter.link import MOST_BYTES, MeterLink
from dorrik.settings import settings

PAGE = Path(__file__).parent / "page"
FILES = {"/": "meter.html", "/meter.js": "meter.js", "/meter.css": "meter.css"}
#: How often the tablet hears that the instrument is there (s).
ALIVE_S = 2.0
#: How long a wrong code keeps its sender waiting (s).
WRONG_CODE_S = 0.5
INSTRUMENT = {"name": "MeterBench instrument", "kind": "simulated", "serial": "SIM-0001"}
_HEADERS = {
    "Content-Security-Policy": "default-src 'self'; connect-src 'self' ws:; frame-ancestors 'none'",
    "X-Content-Type-Options": "nosniff",
    "Cache-Control": "no-cache",
}


class MeterServer:
    """The bench, everybody who looks at its page, and the tablet that listens."""

    def __init__(self, bench: MeterBench) -> None:
        self.bench = bench
        self.link = MeterLink(INSTRUMENT)
        self._pages: set[ServerConnection] = set()

    async def run(self, host: str, port: int, ready: "asyncio.Future[int] | None" = None) -> None:
        """Serve until cancelled. ready: gets the port."""
        async with serve(
            self._handle, host, port, process_request=self._page, max_size=MOST_BYTES, server_header=None
        ) as server:
            if ready is not None:
                ready.set_result(next(iter(server.sockets)).getsockname()[1])
            # Started by the demo it ends with it, however that came about.
            parent = os.getppid() if settings().meter_with_parent else None
            while parent is None or os.getppid() == parent:
                await asyncio.sleep(ALIVE_S)
                with contextlib.suppress(ConnectionClosed):
                    await self.link.tell(type="alive")

    def _page(self, connection: ServerConnection, request: Request) -> Response | None:
        path = urlsplit(request.path).path
        if path == "/link":
            return None
        if path == "/bench":
            # A page of somebody else could otherwise work the bench.
            origin, host = request.headers.get("Origin"), request.headers.get("Host")
            if origin is None or urlsplit(origin).netloc == host:
                return None
            return connection.respond(HTTPStatus.FORBIDDEN, "The bench is worked from its own page.\n")
        name = FILES.get(path)
        if name is None:
            return connection.respond(HTTPStatus.NOT_FOUND, "There is nothing here.\n")
        body = (PAGE / name).read_bytes()
        kind = mimetypes.guess_type(name)[0] or "text/plain"
        headers = Headers({"Content-Type": f"{kind}; charset=utf-8", "Content-Length": str(len(body)), **_HEADERS})
        return Response(200, "OK", headers, body)

    async def _handle(self, connection: ServerConnection) -> None:
        path = urlsplit(connection.request.path).path if connection.request else ""
        with contextlib.suppress(ConnectionClosed):
            await (self._of_page(connection) if path == "/bench" else self._of_tablet(connection))

    async def _of_page(self, connection: ServerConnection) -> None:
        self._pages.add(connection)
        try:
            await connection.send(self._state())
            async for message in connection:
                await self._command(connection, _read(message))
        finally:
            self._pages.discard(connection)

    async def _command(self, connection: ServerConnection, command: dict[str, Any]) -> None:
        if command.get("do") == "next":
            return await self.link.tell(type="next")
        number = command.get("n")
        if self.bench.measures(command):
            await self.link.tell(type="measuring", function=self.bench.function)
        try:
            shown = self.bench.do(command)
        except BenchError as refused:
            await self.link.tell(type="nothing", says=str(refused))
            await connection.send(json.dumps({"refused": str(refused), "n": number}, ensure_ascii=False))
        else:
            if shown is not None:
                await self.link.reading(shown)
            if number is not None:
                # Who numbers its commands hears of each what came of it, among all that is told meanwhile.
                await connection.send(self._state(n=number))
        await self._tell_pages()
        return None

    async def _of_tablet(self, connection: ServerConnection) -> None:
        first = _read(await connection.recv())
        if first.get("type") != "pair" or not await self.link.pair(connection, first):
            await asyncio.sleep(WRONG_CODE_S)
            await self._tell_pages()
            return
        await self._tell_pages()
        try:
            async for message in connection:
                self.link.hear(_read(message))
                await self._tell_pages()
        finally:
            self.link.left(connection)
            await self._tell_pages()

    async def _tell_pages(self) -> None:
        state = self._state()
        for page in tuple(self._pages):
            with contextlib.suppress(ConnectionClosed):
                await page.send(state)

    def _state(self, **more: Any) -> str:
        link = {
            "code": self.link.code,
            "linked": self.link.listener is not None,
            "focus": self.link.focus,
            "instrument": self.link.instrument,
        }
        return json.dumps({"bench": self.bench.state(), "link": link, **more}, ensure_ascii=False)


def _read(message: str | bytes) -> dict[str, Any]:
    """A message as it was sent; nothing where it is none."""
    try:
        request = json.loads(message)
    except (ValueError, RecursionError):
        return {}
    return request if isinstance(request, dict) else {}
