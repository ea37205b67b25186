"""A mail server for the demo: takes every mail on loopback and writes it into a folder. Nothing leaves the machine.

As the world does, it does not take everything: nobody lives at `refused.example`, `later.example` is busy, and what it
takes for `gone.example` comes back.
"""

from pathlib import Path
from typing import Any

from aiosmtpd.controller import Controller

from dorrik.report import bounces
from dorrik.store.database.engine import new_id

REFUSED, LATER, GONE = "@refused.example", "@later.example", "@gone.example"


class _Folder:
    def __init__(self, folder: Path, returned: Path) -> None:
        self._folder = folder
        self._returned = returned

    async def handle_RCPT(self, server: Any, session: Any, envelope: Any, address: str, options: Any) -> str:
        if address.endswith(REFUSED):
            return "550 5.1.1 nobody has this address"
        if address.endswith(LATER):
            return "451 4.2.1 the mailbox is busy"
        envelope.rcpt_tos.append(address)
        return "250 OK"

    async def handle_DATA(self, server: Any, session: Any, envelope: Any) -> str:
        content = envelope.original_content
        if any(address.endswith(GONE) for address in envelope.rcpt_tos):
            self._returned.mkdir(parents=True, exist_ok=True)
            (self._returned / f"{new_id()}.eml").write_bytes(bounces.example(content, "550 the mailbox is gone"))
        self._folder.mkdir(parents=True, exist_ok=True)
        (self._folder / f"{new_id()}.eml").write_bytes(content)
        return "250 kept"


def catch(folder: Path, port: int, returned: Path | None = None) -> Controller:
    """Start catching on that port of loopback; `stop()` ends it. returned: where mails that come back are put, a folder
    beside the first one where none is given."""
    controller = Controller(
        _Folder(folder, returned or folder.with_name("bounces")), hostname="127.0.0.1", port=port, enable_SMTPUTF8=True
    )
    controller.start()
    return controller
