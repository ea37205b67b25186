"""Inspections that were worked on last, as they are kept, in this process: the next change need not load them again.

What is remembered is taken out to be worked on and put back once that was committed, so that no two requests hold it.
It counts only while the row of the inspection says the same sequence number and time: whatever another process has
written in between makes it void.
"""

from collections import OrderedDict
from dataclasses import dataclass
from threading import Lock
from typing import Any

from dorrik.store.inspections.inspections import KeptInspection

#: Entries of inspections that are remembered at most; a home has some hundred.
MOST = 40_000


@dataclass(slots=True)
class Memory:
    """An inspection in hand, its judgement as plain data, and the sequence number that the judgement is of."""

    kept: KeptInspection
    judgement: dict[str, Any]
    judged_seq: int


class Remembered:
    """The last ones, up to so many entries of all of them."""

    def __init__(self, most: int = MOST) -> None:
        self._most = most
        self._held: OrderedDict[str, Memory] = OrderedDict()
        self._entries = 0
        self._lock = Lock()

    def take(self, inspection_id: str) -> Memory | None:
        """Take one out; None where it is not remembered, or somebody else has it."""
        with self._lock:
            memory = self._held.pop(inspection_id, None)
            if memory is not None:
                self._entries -= len(memory.kept.entities)
            return memory

    def forget(self) -> None:
        """Nothing is remembered any more. What a request has in hand at this moment is void by its row."""
        with self._lock:
            self._held.clear()
            self._entries = 0

    def put(self, memory: Memory) -> None:
        """Put one back after it was committed; the oldest are forgotten where there are too many."""
        with self._lock:
            old = self._held.pop(memory.kept.id, None)
            if old is not None:
                self._entries -= len(old.kept.entities)
            self._held[memory.kept.id] = memory
            self._entries += len(memory.kept.entities)
            while self._entries > self._most and len(self._held) > 1:
                _, gone = self._held.popitem(last=False)
                self._entries -= len(gone.kept.entities)
