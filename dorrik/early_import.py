"""What is begun before all else when the server starts: importing what serves, beside the start of the database."""

import contextlib
import multiprocessing
import os
import shutil
import tempfile
from collections.abc import Iterator
from multiprocessing import forkserver
from pathlib import Path

_COUNTS = "dorrik-counts-"
#: Pools of memory that the C library keeps for the threads of one process. By itself it makes eight for each processor,
#: and a large answer built in one after another leaves its room in all of them.
_ARENAS = "2"


@contextlib.contextmanager
def loading(workers: int) -> Iterator[None]:
    """Begin to import what serves in a process of its own, from which all that serve are forked (`processes`); it ends
    with this one. Nothing is begun where one process does everything itself."""
    # Whatever is written from here on is for this user alone.
    os.umask(0o077)
    if workers <= 1:
        yield
        return
    os.environ.setdefault("MALLOC_ARENA_MAX", _ARENAS)
    with _counted():
        multiprocessing.set_forkserver_preload(["dorrik.preloaded"])
        forkserver.ensure_running()
        yield


@contextlib.contextmanager
def _counted() -> Iterator[None]:
    """Where several processes put their counts while the block lasts, so that each can tell those of all.

    In memory where there is a place for that: they are files that the processes have mapped, and whoever writes to one
    for which a full disk has no room is ended by the system. What one that was killed has left goes.
    """
    memory = Path("/dev/shm")
    place = memory if memory.is_dir() else Path(tempfile.gettempdir())
    for left in place.glob(f"{_COUNTS}*"):
        if not Path("/proc", left.name.removeprefix(_COUNTS)).exists():
            shutil.rmtree(left, ignore_errors=True)
    folder = place / f"{_COUNTS}{os.getpid()}"
    shutil.rmtree(folder, ignore_errors=True)
    folder.mkdir(mode=0o700)
    os.environ["PROMETHEUS_MULTIPROC_DIR"] = str(folder)
    try:
        yield
    finally:
        shutil.rmtree(folder, ignore_errors=True)
