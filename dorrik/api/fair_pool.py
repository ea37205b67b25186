"""Heavy work done by a few threads of its own, fair between people: nobody waits behind all that somebody else sent.

Who waits takes no thread: the others of the server answer everybody meanwhile.
"""

import asyncio
from collections import Counter, deque
from collections.abc import Callable
from concurrent.futures import Future, ThreadPoolExecutor
from threading import Lock
from typing import Any, TypeVar

from dorrik.api.problems import ProblemError

T = TypeVar("T")


class FairPool:
    """at_once: how much is done at a time; most_each: how much of one person may wait; message: what whoever has more
    waiting is told (429); each: how much of one person is done at a time, where it is less than all."""

    def __init__(self, at_once: int, most_each: int, message: str, *, each: int | None = None) -> None:
        self._threads = ThreadPoolExecutor(at_once, thread_name_prefix="fair")
        self._lock = Lock()
        self._free = at_once
        self._most_each = most_each
        self._message = message
        self._each = at_once if each is None else each
        #: How much is being done, by person.
        self._busy: Counter[str] = Counter()
        #: What waits, by person; the person whose turn is next stands first.
        self._waiting: dict[str, deque[tuple[Callable[[], Any], Future[Any]]]] = {}

    async def run(self, who: str, do: Callable[[], T]) -> T:
        """Do it when its turn comes. Raises ProblemError (429) where too much of this person waits."""
        done: Future[T] = Future()
        with self._lock:
            if len(self._waiting.get(who, ())) >= self._most_each:
                raise ProblemError(429, "busy", self._message, wait_s=5)
            self._waiting.setdefault(who, deque()).append((do, done))
        self._begin()
        return await asyncio.wrap_future(done)

    def _begin(self) -> None:
        """Give what waits to the threads that are free."""
        while (next_one := self._take()) is not None:
            self._threads.submit(self._work, *next_one)

    def _take(self) -> tuple[str, Callable[[], Any], Future[Any]] | None:
        """The next thing of the person whose turn it is, who then stands last; what nobody waits for is passed over."""
        with self._lock:
            while self._free:
                who = next((waiting for waiting in self._waiting if self._busy[waiting] < self._each), None)
                if who is None:
                    return None
                mine = self._waiting.pop(who)
                do, done = mine.popleft()
                if mine:
                    self._waiting[who] = mine
                if done.set_running_or_notify_cancel():
                    self._free -= 1
                    self._busy[who] += 1
                    return who, do, done
            return None

    def _work(self, who: str, do: Callable[[], Any], done: Future[Any]) -> None:
        try:
            result = do()
        except BaseException as error:
            done.set_exception(error)
        else:
            done.set_result(result)
        finally:
            with self._lock:
                self._free += 1
                self._busy[who] -= 1
                if not self._busy[who]:
                    del self._busy[who]
            self._begin()
