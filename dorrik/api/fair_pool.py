"""Heavy work done by a few threads of its own, fair between people: nobody waits behind all that somebody else sent.

Who waits takes no thread: the others of the server answer everybody meanwhile.
"""

import asyncio
from collections import deque
from collections.abc import Callable
from concurrent.futures import Future, ThreadPoolExecutor
from threading import Lock
from typing import Any, TypeVar

from dorrik.api.problems import ProblemError

T = TypeVar("T")


class FairPool:
    """at_once: how much is done at a time; most_each: how much of one person may wait; told: what whoever has more
    waiting is told (429)."""

    def __init__(self, at_once: int, most_each: int, told: str) -> None:
        self._threads = ThreadPoolExecutor(at_once, thread_name_prefix="fair")
        self._lock = Lock()
        self._free = at_once
        self._most_each = most_each
        self._told = told
        #: What waits, by person; the person whose turn is next stands first.
        self._waiting: dict[str, deque[tuple[Callable[[], Any], Future[Any]]]] = {}

    async def run(self, who: str, do: Callable[[], T]) -> T:
        """Do it when its turn comes. Raises ProblemError (429) where too much of this person waits."""
        done: Future[T] = Future()
        with self._lock:
            if len(self._waiting.get(who, ())) >= self._most_each:
                raise ProblemError(429, "busy", self._told, wait_s=5)
            self._waiting.setdefault(who, deque()).append((do, done))
        self._begin()
        return await asyncio.wrap_future(done)

    def _begin(self) -> None:
        """Give what waits to the threads that are free."""
        while (next_one := self._take()) is not None:
            self._threads.submit(self._work, *next_one)

    def _take(self) -> tuple[Callable[[], Any], Future[Any]] | None:
        """The next thing of the person whose turn it is, who then stands last; what nobody waits for is passed over."""
        with self._lock:
            while self._free and self._waiting:
                who, mine = next(iter(self._waiting.items()))
                del self._waiting[who]
                do, done = mine.popleft()
                if mine:
                    self._waiting[who] = mine
                if done.set_running_or_notify_cancel():
                    self._free -= 1
                    return do, done
            return None

    def _work(self, do: Callable[[], Any], done: Future[Any]) -> None:
        try:
            result = do()
        except BaseException as error:
            done.set_exception(error)
        else:
            done.set_result(result)
        finally:
            with self._lock:
                self._free += 1
            self._begin()
