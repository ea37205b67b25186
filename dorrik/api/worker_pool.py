"""A pool of threads for expensive work: a few run at a time, some wait, and the rest is refused with 429."""

import asyncio
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from typing import TypeVar

from dorrik.api.problems import ProblemError

T = TypeVar("T")


class WorkerPool:
    """A few threads of their own; others are served meanwhile.

    at_once: how many do such work at a time (a password takes 64 MB and some 50 ms); queue: how many may wait; message:
    what whoever comes after them is told.
    """

    def __init__(self, at_once: int = 2, queue: int = 24, message: str = "Try again in a few seconds.") -> None:
        self._threads = ThreadPoolExecutor(at_once, thread_name_prefix="worker")
        self._most = at_once + queue
        self._message = message
        self._in = 0

    async def run(self, do: Callable[[], T]) -> T:
        """Do it as soon as its turn comes. Raises ProblemError (429) where too many wait."""
        if self._in >= self._most:
            raise ProblemError(429, "busy", self._message)
        self._in += 1
        try:
            return await asyncio.get_running_loop().run_in_executor(self._threads, do)
        finally:
            self._in -= 1
