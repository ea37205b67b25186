"""Heavy work done by a few threads of its own, fair between people: nobody waits behind all that somebody else sent.

Who waits takes no thread: the others of the server answer everybody meanwhile.
"""

import asyncio
from collections import deque
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from typing import Any, TypeVar

from dorrik.api.problems import ProblemError

T = TypeVar("T")


class FairPool:
    """at_once: how much is done at a time; most_each: how much of one person may wait; told: what whoever has more
    waiting is told (429). Belongs to the event loop that runs it."""

    def __init__(self, at_once: int, most_each: int, told: str) -> None:
        self._threads = ThreadPoolExecutor(at_once, thread_name_prefix="fair")
        self._free = at_once
        self._most_each = most_each
        self._told = told
        #: What waits, by person; the person whose turn is next stands first.
        self._waiting: dict[str, deque[tuple[Callable[[], Any], asyncio.Future[Any]]]] = {}

    async def run(self, who: str, do: Callable[[], T]) -> T:
        """Do it when its turn comes. Raises ProblemError (429) where too much of this person waits."""
        mine = self._waiting.setdefault(who, deque())
        if len(mine) >= self._most_each:
            raise ProblemError(429, "busy", self._told, wait_s=5)
        done: asyncio.Future[T] = asyncio.get_running_loop().create_future()
        mine.append((do, done))
        self._begin()
        return await done

    def _begin(self) -> None:
        while self._free and (next_one := self._take()) is not None:
            self._free -= 1
            do, done = next_one
            work = asyncio.get_running_loop().run_in_executor(self._threads, do)
            work.add_done_callback(lambda work, done=done: self._ended(work, done))  # type: ignore[misc]

    def _take(self) -> tuple[Callable[[], Any], asyncio.Future[Any]] | None:
        """The next thing of the person whose turn it is, who then stands last; what nobody waits for is passed over."""
        while self._waiting:
            who, mine = next(iter(self._waiting.items()))
            del self._waiting[who]
            while mine:
                do, done = mine.popleft()
                if not done.done():
                    if mine:
                        self._waiting[who] = mine
                    return do, done
        return None

    def _ended(self, work: asyncio.Future[Any], done: asyncio.Future[Any]) -> None:
        self._free += 1
        if not done.done():
            if (error := work.exception()) is not None:
                done.set_exception(error)
            else:
                done.set_result(work.result())
        self._begin()
