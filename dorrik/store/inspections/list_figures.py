"""What lists show of inspections, kept a moment after they were judged: nobody waits for that at every keystroke.

What is not kept yet, or was lost with a process, is judged by whoever asks for the list (`listing.page`).
"""

import threading

from sqlalchemy import Engine
from sqlalchemy.exc import SQLAlchemyError

from dorrik.core.judging.judgement import Judgement
from dorrik.store.inspections import listing

#: So long figures wait at most (s).
WAITS_S = 2.0


class ListFigures:
    """The figures of this process that wait. A thread writes them while there are any."""

    def __init__(self, engine: Engine, waits_s: float = WAITS_S) -> None:
        self._engine = engine
        self._waits_s = waits_s
        self._waiting: dict[str, tuple[int, int, int]] = {}
        self._lock = threading.Lock()
        self._running = False

    def put(self, inspection_id: str, seq: int, judgement: Judgement) -> None:
        """Keep soon what is shown of an inspection, as it is at a sequence number."""
        with self._lock:
            self._waiting[inspection_id] = (seq, *listing.figures(judgement))
            if self._running:
                return
            self._running = True
        threading.Thread(target=self._write_later, name="list-figures", daemon=True).start()

    def write(self) -> None:
        """Keep now what waits: a list is about to be read."""
        with self._lock:
            waiting, self._waiting = self._waiting, {}
        if not waiting:
            return
        try:
            with self._engine.begin() as connection:
                # In one order, by every process.
                for inspection_id, (seq, left, failing) in sorted(waiting.items()):
                    listing.keep(connection, inspection_id, seq, left, failing)
        except SQLAlchemyError:
            # The database is away, or somebody holds a row: whoever reads the list judges what is not kept.
            return

    def _write_later(self) -> None:
        wait = threading.Event().wait
        while True:
            wait(self._waits_s)
            self.write()
            with self._lock:
                if not self._waiting:
                    self._running = False
                    return
