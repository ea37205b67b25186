"""Who waits for news of which inspection in this process: told at once of what was kept here, and within a second of
what another process has kept. One question a second for all of them, and none while nobody waits."""

import asyncio
import threading
from collections import Counter
from collections.abc import Iterator, Mapping
from contextlib import contextmanager

#: How often the database is asked what other processes have kept (s).
ASKS_EVERY_S = 1.0
#: Streams of one session at once: a tablet and a few tabs; of one process at once.
MOST_OF_A_SESSION, MOST = 6, 2_000


class TooManyStreams(Exception):
    """One session, or this process, has as many streams as it may."""


class StreamListener:
    """One who waits, in the event loop that serves it. seq: the last sequence number that was told."""

    def __init__(self, seq: int) -> None:
        self.seq = seq
        self.ended = False
        self._loop = asyncio.get_running_loop()
        self._news = asyncio.Event()

    async def wait(self, seconds: float) -> bool:
        """Wait for something to tell, or for the end; False where neither came in that time."""
        try:
            await asyncio.wait_for(self._news.wait(), seconds)
        except TimeoutError:
            return False
        self._news.clear()
        return True

    def tell(self, seq: int | None) -> None:
        """From any thread: a later sequence number, or None for the end."""

        def heard() -> None:
            self.ended = self.ended or seq is None
            self.seq = max(self.seq, seq or 0)
            self._news.set()

        if seq is None or seq > self.seq:
            self._loop.call_soon_threadsafe(heard)


class Streams:
    """All who wait in this process, by the inspection that they wait for."""

    def __init__(self) -> None:
        self._waiting: dict[str, set[StreamListener]] = {}
        self._of_session: Counter[str] = Counter()
        self._lock = threading.Lock()
        self._closed = False

    @contextmanager
    def listening(self, inspection_id: str, session: str, seq: int) -> Iterator[StreamListener]:
        """Wait for news while the block lasts. Raises TooManyStreams."""
        listener = StreamListener(seq)
        with self._lock:
            if self._of_session[session] >= MOST_OF_A_SESSION or self._of_session.total() >= MOST:
                raise TooManyStreams
            listener.ended = self._closed
            self._of_session[session] += 1
            self._waiting.setdefault(inspection_id, set()).add(listener)
        try:
            yield listener
        finally:
            with self._lock:
                self._of_session[session] -= 1
                self._of_session += Counter()
                here = self._waiting[inspection_id]
                here.discard(listener)
                if not here:
                    del self._waiting[inspection_id]

    def wanted(self) -> tuple[str, ...]:
        """Ids of the inspections that somebody waits for."""
        with self._lock:
            return tuple(self._waiting)

    def tell(self, kept: Mapping[str, int]) -> None:
        """Sequence numbers by inspection: whoever has heard of an earlier one hears of it."""
        with self._lock:
            listeners = [(listener, seq) for one, seq in kept.items() for listener in self._waiting.get(one, ())]
        for listener, seq in listeners:
            listener.tell(seq)

    def close(self) -> None:
        """The process ends: nobody waits any more, now or later."""
        with self._lock:
            self._closed = True
            listeners = [listener for here in self._waiting.values() for listener in here]
        for listener in listeners:
            listener.tell(None)
