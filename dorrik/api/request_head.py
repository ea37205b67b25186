"""The head of a request is bounded in time, bytes and fields before anything of it is worked on."""

import asyncio
import logging
from typing import Any

from uvicorn.protocols.http.httptools_impl import HttpToolsProtocol, RequestResponseCycle

#: From the first byte (or the opening of the connection) to the end of the head (s).
HEAD_S = 15.0
#: The whole head: target and fields (bytes), and how many fields.
LARGEST_HEAD = 16_384
MOST_FIELDS = 100
#: Requests of one connection that wait for the one before them. Browsers send none.
MOST_WAITING = 8

_TOO_LARGE = b'{"code":"head-too-large","message":"The head of the request is too large.","fields":[]}'
_REFUSAL = (
    b"HTTP/1.1 431 Request Header Fields Too Large\r\ncontent-type: application/json\r\n"
    b"content-length: %d\r\nconnection: close\r\n\r\n%s" % (len(_TOO_LARGE), _TOO_LARGE)
)


def _is_worth_a_line(record: logging.LogRecord) -> bool:
    return not record.getMessage().startswith(("Invalid HTTP request", "Unsupported upgrade", "No supported WebSocket"))


# Strangers cause as many of these as they like, and would fill the log with them.
logging.getLogger("uvicorn.error").addFilter(_is_worth_a_line)


class _HeadTooLargeError(Exception):
    """Raised into the parser, which then reads no further."""


class BoundedHead(HttpToolsProtocol):
    """HTTP as uvicorn speaks it; answers a head over its limits with 431 and closes a connection whose head is late."""

    _timeout: asyncio.TimerHandle | None = None
    _answering: RequestResponseCycle | None = None
    _in_head = False
    _head_bytes = 0
    _unfinished_bytes = 0
    _fields = 0
    _refused = False

    def connection_made(self, transport: asyncio.Transport) -> None:  # type: ignore[override]
        """Start the time limit of the first head."""
        super().connection_made(transport)
        self._start_timeout()

    def connection_lost(self, exc: Exception | None) -> None:
        """Stop the time limit."""
        self._stop_timeout()
        super().connection_lost(exc)

    def data_received(self, data: bytes) -> None:
        """Parse what came in; refuse a head that is over its limit although its end has not come yet."""
        if self._refused:
            return
        answering = self.cycle is not None and not self.cycle.response_complete
        if not answering and self._timeout is None:
            # The next request of a connection that was kept alive.
            self._start_timeout()
        began_in_head = self._in_head
        super().data_received(data)
        if began_in_head and self._in_head:
            # A field that has not ended: the parser keeps what came of it and has not told us yet.
            self._unfinished_bytes += len(data)
            if self._unfinished_bytes > LARGEST_HEAD:
                self._refuse()

    def send_400_response(self, msg: str) -> None:
        """Answer what the parser could not read, or was stopped from reading."""
        if self._refused or self.transport.is_closing():
            return
        if self._head_bytes > LARGEST_HEAD or self._fields > MOST_FIELDS:
            self._refuse()
        else:
            self._drop_requests()
            super().send_400_response(msg)

    def on_message_begin(self) -> None:
        """A head begins."""
        self._in_head = True
        self._head_bytes = self._fields = self._unfinished_bytes = 0
        if len(self.pipeline) >= MOST_WAITING:
            raise _HeadTooLargeError
        super().on_message_begin()

    def on_url(self, url: bytes) -> None:
        """Part of the target."""
        self._count(len(url))
        super().on_url(url)

    def on_header(self, name: bytes, value: bytes) -> None:
        """One field of the head."""
        self._fields += 1
        self._count(len(name) + len(value))
        super().on_header(name, value)

    def on_headers_complete(self) -> None:
        """The head is whole and within its limits."""
        self._in_head = False
        self._stop_timeout()
        super().on_headers_complete()

    def _count(self, size: int) -> None:
        self._head_bytes += size
        if self._head_bytes > LARGEST_HEAD or self._fields > MOST_FIELDS:
            raise _HeadTooLargeError

    def _refuse(self) -> None:
        self._refused = True
        self._stop_timeout()
        self._drop_requests()
        transport: Any = self.transport
        if not transport.is_closing():
            transport.write(_REFUSAL)
            transport.close()

    def _drop_requests(self) -> None:
        """What is being answered on this connection is not written to it any more: it closes."""
        if self._answering is not None:
            self._answering.disconnected = True
        self.pipeline.clear()

    def _start_asgi_task(self, cycle: RequestResponseCycle, app: Any) -> None:
        self._answering = cycle
        super()._start_asgi_task(cycle, app)

    def _start_timeout(self) -> None:
        self._timeout = asyncio.get_running_loop().call_later(HEAD_S, self._abort)

    def _stop_timeout(self) -> None:
        if self._timeout is not None:
            self._timeout.cancel()
            self._timeout = None

    def _abort(self) -> None:
        self._stop_timeout()
        transport: Any = self.transport
        if transport is not None and not transport.is_closing():
            transport.abort()
