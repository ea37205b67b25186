"""What all workers of a run share: one database, one server, and a migrated data folder to copy.

Whoever comes first makes a thing, alone under a lock; the others use it. A database is stopped by the last that
leaves it (`PrivateMariaDB` counts leases), the server at the end of the run.
"""

import contextlib
import fcntl
import json
import os
import shutil
import signal
from collections.abc import Iterator
from pathlib import Path

from dorrik.store.database import migrate
from dorrik.store.database.mariadb import PrivateMariaDB
from tests.serving import Server, free_port


def folder_of_the_run(base: Path) -> Path:
    """The folder of a run, from the temporary folder of one of its workers or of a run without any."""
    return base.parent if os.environ.get("PYTEST_XDIST_WORKER") else base


@contextlib.contextmanager
def alone(folder: Path, name: str) -> Iterator[None]:
    """Alone among the workers of a run, for the thing of this name."""
    with (folder / f"{name}.lock").open("ab") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        yield


def _template(folder: Path) -> Path:
    """A stopped database with the schema in place."""
    template, made = folder / "migrated", folder / "migrated.made"
    with alone(folder, "migrated"):
        if not made.exists():
            with PrivateMariaDB(template) as server:
                migrate.upgrade(server.url)
            made.touch()
    return template


def migrated_copy(folder: Path, to: Path) -> Path:
    """A copy of the migrated data folder: a server starts on it with the schema in place."""
    shutil.copytree(_template(folder), to, ignore=shutil.ignore_patterns("lease", "turn", "socket", "pid", "port"))
    return to


def database(folder: Path) -> PrivateMariaDB:
    """The database of the run, not started by this worker yet."""
    own = folder / "mariadb"
    with alone(folder, "mariadb"):
        if not own.exists():
            migrated_copy(folder, own)
    return PrivateMariaDB(own)


def server(folder: Path, url: str) -> Server:
    """The server of the run."""
    told = folder / "server.json"
    with alone(folder, "server"):
        if not told.exists():
            started = Server(url, free_port())
            told.write_text(json.dumps({"port": started.port, "pid": started.process.pid, "photos": started.photos}))
            return started
    known = json.loads(told.read_text())
    return Server.running(known["port"], known["photos"])


def end(folder: Path) -> None:
    """End the server of the run, where one was started."""
    told = folder / "server.json"
    if told.exists():
        known = json.loads(told.read_text())
        with contextlib.suppress(ProcessLookupError):
            os.kill(known["pid"], signal.SIGKILL)
        shutil.rmtree(known["photos"], ignore_errors=True)
