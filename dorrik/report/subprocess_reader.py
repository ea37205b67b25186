"""Having a file from outside read in a process of its own: bounded, a few at a time, ended when nobody waits."""

import asyncio
import json
import signal
import sys
from collections.abc import Awaitable, Callable
from typing import Any

from dorrik.core.basics.text import shown
from dorrik.core.inspection import document
from dorrik.report.papers import Paper, Table, UnreadablePaper
from dorrik.report.reader import CLOCK_S, PAGES

#: Files read at a time; more wait.
AT_ONCE = 2
#: How often it is looked whether somebody still waits (s).
LOOK_S = 0.25

_slots: dict[int, asyncio.Semaphore] = {}


class Gone(Exception):
    """Nobody waits for the answer any more."""


async def read(data: bytes, name: str, gone: Callable[[], Awaitable[bool]]) -> Paper:
    """What a file holds. gone: has whoever asked gone away? Raises UnreadablePaper or Gone."""
    # A semaphore belongs to the loop it was made in; tests have several.
    slots = _slots.setdefault(id(asyncio.get_running_loop()), asyncio.Semaphore(AT_ONCE))
    async with slots:
        if await gone():
            raise Gone
        return _paper(*await _run(data, name, gone))


async def pages(data: bytes, gone: Callable[[], Awaitable[bool]]) -> int:
    """How many pages a PDF has. Raises UnreadablePaper where it is none, or cannot be opened, or Gone."""
    slots = _slots.setdefault(id(asyncio.get_running_loop()), asyncio.Semaphore(AT_ONCE))
    async with slots:
        result = _answer(*await _run(data, PAGES, gone))
    return int(result["pages"])


async def _run(data: bytes, name: str, gone: Callable[[], Awaitable[bool]]) -> tuple[int, bytes]:
    """Exit code and output of the process."""
    process = await asyncio.create_subprocess_exec(
        sys.executable, "-m", "dorrik.report.reader", shown(name)[:200],
        stdin=asyncio.subprocess.PIPE, stdout=asyncio.subprocess.PIPE, stderr=asyncio.subprocess.DEVNULL,
    )  # fmt: skip
    work = asyncio.ensure_future(process.communicate(data))
    try:
        for _ in range(round((CLOCK_S + 5) / LOOK_S)):
            done, _ = await asyncio.wait({work}, timeout=LOOK_S)
            if done:
                out, _ = work.result()
                return process.returncode or 0, out
            if await gone():
                raise Gone
        raise UnreadablePaper(_TOO_LONG)
    finally:
        if process.returncode is None:
            process.kill()
            await process.wait()
        work.cancel()


_TOO_LONG = "The file takes too long to read: a chart or a report takes a second. Copy its table into a new file."
_TOO_MUCH = "The file takes far more memory than a chart or a report does; it was not read."


def _answer(code: int, out: bytes) -> dict[str, Any]:
    if code in (-signal.SIGXCPU, -signal.SIGALRM, -signal.SIGKILL):
        raise UnreadablePaper(_TOO_LONG)
    if code or not out:
        raise UnreadablePaper(_TOO_MUCH)
    result: dict[str, Any] = json.loads(out)
    if "unreadable" in result:
        raise UnreadablePaper(result["unreadable"])
    return result


def _paper(code: int, out: bytes) -> Paper:
    result = _answer(code, out)
    tables = tuple(Table(table["sheet"], tuple(tuple(row) for row in table["rows"])) for table in result["tables"])
    if result["document"] is None:
        return Paper(tables=tables)
    return Paper(document.parse(result["document"]), result["document"], tables)
