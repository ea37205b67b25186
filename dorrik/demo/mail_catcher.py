"""A mail server for the demo: takes every mail on loopback and writes it into a folder. Nothing leaves the machine."""

from pathlib import Path
from typing import Any

from aiosmtpd.controller import Controller

from dorrik.store.engine import new_id


class _Folder:
    def __init__(self, folder: Path) -> None:
        self._folder = folder

    async def handle_DATA(self, server: Any, session: Any, envelope: Any) -> str:
        self._folder.mkdir(parents=True, exist_ok=True)
        (self._folder / f"{new_id()}.eml").write_bytes(envelope.original_content)
        return "250 kept"


def catch(folder: Path, port: int) -> Controller:
    """Start catching on that port of loopback; `stop()` ends it."""
    controller = Controller(_Folder(folder), hostname="127.0.0.1", port=port)
    controller.start()
    return controller
