"""The instrument's side of the link: who may listen, and what is told (docs/instrument-link.md).

One tablet listens at a time. It is paired by a code that stands on the instrument's own screen; what it gets then lets
it come back after a drop-out without the code.
"""

import hmac
import json
import secrets
from dataclasses import asdict
from typing import Any, Protocol

from dorrik.meter.bench import Shown

VERSION = 1
#: A message is no longer than this (bytes).
MOST_BYTES = 4096
#: So many wrong codes, and another one stands on the screen.
WRONG_CODES = 5


class Listener(Protocol):
    """A connection to a tablet."""

    async def send(self, message: str) -> None:
        """Tell it something."""

    async def close(self, code: int = 1000, reason: str = "") -> None:
        """End it."""


class MeterLink:
    """Who is paired, and what is in focus there."""

    def __init__(self, instrument: dict[str, str]) -> None:
        self.instrument = instrument
        self.code = ""
        self.focus: dict[str, str] | None = None
        self.listener: Listener | None = None
        self._token: str | None = None
        self._wrong = 0
        self._new_code()

    def _new_code(self) -> None:
        self.code = f"{secrets.randbelow(1_000_000):06d}"
        self._wrong = 0

    async def pair(self, listener: Listener, message: dict[str, Any]) -> bool:
        """Let a tablet listen that knows the code on the screen, or what it got when it was paired. False: refused."""
        if message.get("version") != VERSION:
            await _tell(listener, type="refused", says=f"This instrument speaks version {VERSION} of the link.")
            return False
        code = "".join(c for c in str(message.get("code", ""))[:40] if c in "0123456789")
        token = message.get("token")
        known = isinstance(token, str) and self._token is not None and hmac.compare_digest(
            token.encode("utf-8", "replace"), self._token.encode()
        )  # fmt: skip
        if not known and not hmac.compare_digest(code, self.code):
            self._wrong += 1
            if self._wrong >= WRONG_CODES:
                self._new_code()
            says = (
                "The pairing has ended: use the code on the instrument's screen."
                if token
                else "Not the code on the screen."
            )
            await _tell(listener, type="refused", says=says)
            return False
        before, self.listener = self.listener, listener
        if before is not None and before is not listener:
            await _tell(before, type="refused", says="Another tablet was paired with this instrument.")
            await before.close()
        if not known:
            self._token = secrets.token_urlsafe(24)
            self._new_code()
        await _tell(listener, type="paired", version=VERSION, token=self._token, instrument=self.instrument)
        return True

    def left(self, listener: Listener) -> None:
        """A connection has ended."""
        if self.listener is listener:
            self.listener, self.focus = None, None

    def hear(self, message: dict[str, Any]) -> None:
        """What the tablet tells: which figure waits for a reading."""
        if message.get("type") == "focus":
            says, function = message.get("says"), message.get("function")
            self.focus = (
                {"says": says[:200], "function": str(function)[:40]} if isinstance(says, str) and says else None
            )

    async def reading(self, shown: Shown) -> None:
        """Tell what the display shows."""
        await self.tell(type="reading", **{k: v for k, v in asdict(shown).items() if v is not None})

    async def tell(self, **message: Any) -> None:
        """Tell the tablet that listens, if there is one."""
        if self.listener is not None:
            await _tell(self.listener, **message)


async def _tell(listener: Listener, **message: Any) -> None:
    await listener.send(json.dumps(message, ensure_ascii=False))
