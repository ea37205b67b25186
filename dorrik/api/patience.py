"""How long and how large the head of a request may be: a connection that does not get to the point is closed."""

import asyncio
from typing import Any

from uvicorn.protocols.http.httptools_impl import HttpToolsProtocol

#: From the first byte (or the opening of the connection) to the end of the head (s), and its size (bytes).
HEAD_S = 15.0
LARGEST_HEAD = 65_536


class Patient(HttpToolsProtocol):
    """HTTP as uvicorn speaks it, with an end to waiting for a head."""

    _waiting: asyncio.TimerHandle | None = None
    _head = 0

    def connection_made(self, transport: asyncio.Transport) -> None:  # type: ignore[override]
        """A head is expected from now on."""
        super().connection_made(transport)
        self._expect()

    def connection_lost(self, exc: Exception | None) -> None:
        """Nothing is expected any more."""
        self._got()
        super().connection_lost(exc)

    def data_received(self, data: bytes) -> None:
        """Part of a head, or of a body that comes after one."""
        within = self.cycle is not None and not self.cycle.response_complete
        if not within:
            if self._waiting is None:
                # The next request of a connection that was kept alive.
                self._expect()
            self._head += len(data)
            if self._head > LARGEST_HEAD and self._waiting is not None and len(data) < LARGEST_HEAD:
                self._close()
                return
        super().data_received(data)

    def on_headers_complete(self) -> None:
        """The head is there."""
        self._got()
        super().on_headers_complete()

    def on_header(self, name: bytes, value: bytes) -> None:
        """One field of the head."""
        self._fields = getattr(self, "_fields", 0) + len(name) + len(value)
        if self._fields > LARGEST_HEAD:
            self._close()
            return
        super().on_header(name, value)

    def on_message_begin(self) -> None:
        """A request begins."""
        self._fields = 0
        super().on_message_begin()

    def _expect(self) -> None:
        self._head = 0
        self._waiting = asyncio.get_running_loop().call_later(HEAD_S, self._close)

    def _got(self) -> None:
        self._head = 0
        if self._waiting is not None:
            self._waiting.cancel()
            self._waiting = None

    def _close(self) -> None:
        self._got()
        transport: Any = self.transport
        if transport is not None and not transport.is_closing():
            transport.abort()
