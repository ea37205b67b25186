"""Having a report or a letter typeset in another process: bounded in time and memory, kept warm for the next one.

Letters have a process of their own: the notice of a danger waits for nobody's report.
"""

import json
import os
import select
import signal
import subprocess
import sys
import time
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import date, datetime
from pathlib import Path
from queue import LifoQueue
from typing import Any

from dorrik.report.typesetter import CLOCK_S

#: Reports that are typeset at a time in one process of the server; more wait.
AT_ONCE = 2
#: What is taken of an answer at a time (bytes).
_PART = 1 << 20


class TypesettingTooLarge(Exception):
    """It takes longer or more memory to typeset than any report does."""

    def __init__(self) -> None:
        super().__init__(
            "The report takes longer or more memory to typeset than any report does. Print fewer photos, or make two "
            "reports of it. Everything that was entered is saved."
        )


class TypesettingLate(Exception):
    """The machine has so much to do that it was not typeset in time; nothing is wrong with it."""

    def __init__(self) -> None:
        super().__init__(
            "The server has very much to do at this moment and did not get to typeset this in time. Ask again in a "
            "minute. Everything that was entered is saved."
        )


class _Ended(Exception):
    """The process has ended in order, and has not taken what it was given."""


class _Typesetter:
    """A process that typesets; started when it is first needed, and again where it has ended."""

    def __init__(self) -> None:
        self._process: subprocess.Popen[bytes] | None = None

    def do(self, job: dict[str, Any]) -> tuple[dict[str, Any], bytes]:
        """What is told of a job, and its document. Raises TypesettingTooLarge, TypesettingLate, and OSError where
        the disk has no room."""
        line = json.dumps(job, ensure_ascii=False).encode() + b"\n"
        try:
            answer, made = self._asked(line)
        except BaseException:
            self.end()
            raise
        if "errno" in answer:
            raise OSError(answer["errno"], os.strerror(answer["errno"]))
        if "error" in answer:
            raise RuntimeError(answer["error"])
        return answer, made

    def _asked(self, line: bytes) -> tuple[dict[str, Any], bytes]:
        # One that is idle or has grown ends in order at the moment of its choice, with or without a job in its pipe:
        # what it has not taken is given to the next one.
        for _ in range(3):
            try:
                return self._answer(self._sent(line))
            except _Ended:
                self.end()
        raise OSError("The typesetter ends as soon as it is started.")

    def _sent(self, line: bytes) -> "subprocess.Popen[bytes]":
        process = self._running()
        if process.stdin is None:
            raise OSError("The typesetter takes nothing.")
        try:
            process.stdin.write(line)
            process.stdin.flush()
        except BrokenPipeError:
            raise _Ended from None
        return process

    def _running(self) -> "subprocess.Popen[bytes]":
        if self._process is None or self._process.poll() is not None:
            self.end()
            self._process = subprocess.Popen(
                [sys.executable, "-m", "dorrik.report.typesetter"],
                stdin=subprocess.PIPE, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL,
            )  # fmt: skip
        return self._process

    def _answer(self, process: "subprocess.Popen[bytes]") -> tuple[dict[str, Any], bytes]:
        end = time.monotonic() + CLOCK_S + 5
        content = bytearray()
        while (head := content.find(b"\n")) < 0:
            content += _read(process, end)
        answer: dict[str, Any] = json.loads(content[:head])
        del content[: head + 1]
        while len(content) < answer.get("length", 0):
            content += _read(process, end)
        if answer.get("too_much"):
            raise TypesettingTooLarge
        return answer, bytes(content)

    def end(self) -> None:
        """End the process, if there is one."""
        process, self._process = self._process, None
        if process is not None:
            process.kill()
            for pipe in (process.stdin, process.stdout):
                if pipe is not None:
                    try:
                        pipe.close()
                    except BrokenPipeError:
                        continue
            process.wait()


def _read(process: "subprocess.Popen[bytes]", end: float) -> bytes:
    """What the process has said since. Raises TypesettingLate where its time on the clock is over, TypesettingTooLarge
    where it has ended at another limit, and _Ended where it ended in order."""
    if process.stdout is None or not select.select([process.stdout], [], [], max(0.0, end - time.monotonic()))[0]:
        raise TypesettingLate
    part = os.read(process.stdout.fileno(), _PART)
    if not part:
        ended = process.wait()
        raise _Ended if ended == 0 else TypesettingLate if ended == -signal.SIGALRM else TypesettingTooLarge
    return part


class _Press:
    """A few typesetters; the one that was used last is the first to be used again, the others may end meanwhile."""

    def __init__(self, at_once: int) -> None:
        self._free: LifoQueue[_Typesetter] = LifoQueue()
        for _ in range(at_once):
            self._free.put(_Typesetter())

    @contextmanager
    def one(self) -> Iterator[_Typesetter]:
        """A typesetter that nobody else uses; waits for one."""
        taken = self._free.get()
        try:
            yield taken
        finally:
            self._free.put(taken)


_reports, _letters = _Press(AT_ONCE), _Press(1)


def pdf(content: dict[str, Any], document: dict[str, Any], at: datetime) -> bytes:
    """A report as PDF, as `report.pdf.pdf` makes it.

    Raises TypesettingTooLarge or TypesettingLate.
    """
    with _reports.one() as typesetter:
        return typesetter.do({"what": "report", "content": content, "document": document, "at": at.isoformat()})[1]


def pages(content: dict[str, Any], folder: Path) -> list[tuple[float, float]]:
    """A report's pages as packed drawings in that folder, as `report.pdf.pages` makes them. Raises TypesettingTooLarge
    or TypesettingLate."""
    with _reports.one() as typesetter:
        answer, _ = typesetter.do({"what": "pages", "content": content, "folder": str(folder)})
    return [(width, height) for width, height in answer["pages"]]


def certificate(content: dict[str, Any], document: dict[str, Any], at: datetime, name: str = "minor_works") -> bytes:
    """A certificate or confirmation as PDF, as `report.pdf.certificate` makes it.

    Raises TypesettingTooLarge or TypesettingLate.
    """
    job = {"what": "certificate", "content": content, "document": document, "at": at.isoformat(), "name": name}
    with _letters.one() as typesetter:
        return typesetter.do(job)[1]


def letter(name: str, content: dict[str, Any], on: date) -> bytes:
    """A letter as PDF, as `report.pdf.letter` makes it.

    Raises TypesettingTooLarge or TypesettingLate.
    """
    with _letters.one() as typesetter:
        return typesetter.do({"what": "letter", "name": name, "content": content, "on": on.isoformat()})[1]


def facts_letter(content: dict[str, Any], on: date) -> bytes:
    """A letter of facts (`report.letters`) as PDF. Raises TypesettingTooLarge or TypesettingLate."""
    return letter("facts_letter", content, on)
