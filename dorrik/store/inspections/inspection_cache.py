"""Inspections that were worked on last, as they are kept, in this process: the next change need not load them again.

What is remembered is taken out to be worked on and put back once that was committed, so that no two requests hold it.
It counts only while the row of the inspection says the same sequence number and time: whatever another process has
written in between makes it void.
"""

from collections import OrderedDict
from dataclasses import dataclass
from threading import Lock
from typing import Any

from dorrik.core.inspection.kept_inspection import KeptInspection
from dorrik.core.judging.lasting_judge import LastingJudge

#: Entries of inspections that are remembered at most; a home has some hundred.
MOST = 40_000
#: Entries of inspections whose judge is remembered with them. A judge weighs some 30 kB an entry: 120 MB at most.
MOST_JUDGED = 4_000


@dataclass(slots=True)
class Memory:
    """An inspection in hand, its judgement as plain data, and the sequence number that the judgement is of.

    lasting: the judge that knows it from the change before.
    """

    kept: KeptInspection
    judgement: dict[str, Any]
    judged_seq: int
    lasting: LastingJudge | None = None

    @property
    def size(self) -> int:
        """How many entries it has."""
        return len(self.kept.entities)


class Remembered:
    """The last ones, up to so many entries of all of them, and the judges of the last of those."""

    def __init__(self, most: int = MOST, most_judged: int = MOST_JUDGED) -> None:
        self._most = most
        self._most_judged = most_judged
        self._held: OrderedDict[str, Memory] = OrderedDict()
        self._entries = 0
        #: Those with their judge, the oldest first.
        self._judged: OrderedDict[str, Memory] = OrderedDict()
        self._entries_judged = 0
        self._lock = Lock()

    def take(self, inspection_id: str) -> Memory | None:
        """Take one out; None where it is not remembered, or somebody else has it."""
        with self._lock:
            return self._out(inspection_id)

    def forget(self) -> None:
        """Nothing is remembered any more. What a request has in hand at this moment is void by its row."""
        with self._lock:
            for memory in self._judged.values():
                _let_go(memory)
            self._held.clear()
            self._judged.clear()
            self._entries = self._entries_judged = 0

    def put(self, memory: Memory) -> None:
        """Put one back after it was committed; the oldest are forgotten where there are too many. Of two that were in
        hand at once the later one stays."""
        with self._lock:
            there = self._held.get(memory.kept.id)
            if there is not None and there.judged_seq > memory.judged_seq:
                _let_go(memory, there)
                return
            gone = self._out(memory.kept.id)
            if gone is not None:
                _let_go(gone, memory)
            self._held[memory.kept.id] = memory
            self._entries += memory.size
            if memory.lasting is not None:
                self._judged[memory.kept.id] = memory
                self._entries_judged += memory.size
            while self._entries > self._most and len(self._held) > 1:
                oldest = self._out(next(iter(self._held)))
                if oldest is not None:
                    _let_go(oldest)
            while self._entries_judged > self._most_judged and len(self._judged) > 1:
                _, oldest = self._judged.popitem(last=False)
                self._entries_judged -= oldest.size
                _let_go(oldest)

    def _out(self, inspection_id: str) -> Memory | None:
        memory = self._held.pop(inspection_id, None)
        if memory is not None:
            self._entries -= memory.size
            if self._judged.pop(inspection_id, None) is not None:
                self._entries_judged -= memory.size
        return memory


def _let_go(memory: Memory, stays: Memory | None = None) -> None:
    """Its judge is not asked any more, unless it is that of what stays."""
    if memory.lasting is not None and (stays is None or stays.lasting is not memory.lasting):
        memory.lasting.forget()
    memory.lasting = None
