"""Forgetting what a process remembers of those whose data were erased: inspections in hand, and every small memory that
a function has of texts it was given (`functools.lru_cache`)."""

import functools
import gc
import threading

from sqlalchemy import Engine, func, select
from sqlalchemy.exc import SQLAlchemyError

from dorrik.store.database.tables import inspection
from dorrik.store.inspections.inspection_cache import Remembered

#: How often a process looks whether another one has erased something (s).
LOOK_EVERY_S = 60.0


def forget(remembered: Remembered) -> None:
    """Forget everything that can be had again."""
    remembered.forget()
    # What was imported before the process was forked is set aside from the collector, which then does not name it.
    gc.unfreeze()
    for memory in gc.get_objects():
        if isinstance(memory, functools._lru_cache_wrapper) and memory.__module__.startswith("dorrik."):
            memory.cache_clear()
    gc.collect()


def watch(engine: Engine, remembered: Remembered, stopped: threading.Event) -> None:
    """Forget whenever some process has erased data; ends when `stopped` is set."""
    latest = select(func.max(inspection.c.erased_at))
    seen = None
    while not stopped.wait(LOOK_EVERY_S):
        try:
            with engine.connect() as connection:
                erased_at = connection.execute(latest).scalar()
        except SQLAlchemyError:
            # The database is away for a moment: looked at again.
            continue
        if erased_at != seen:
            seen = erased_at
            forget(remembered)
