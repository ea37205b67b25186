"""Serving the application: the database first, then one process or several, each made by `application`."""

import contextlib
import logging
import multiprocessing
import os
import signal
import socket
import subprocess
import sys
import threading
from collections.abc import Iterator
from pathlib import Path
from typing import TYPE_CHECKING

from dorrik.store.mariadb import PrivateMariaDB

# The process that starts the others loads no more than it needs: they are ready the sooner.
if TYPE_CHECKING:
    from aiosmtpd.controller import Controller
    from fastapi import FastAPI

HOME = Path(os.environ.get("DORRIK_HOME", Path(__file__).parents[1] / "var"))


def _interrupt(*_: object) -> None:
    """A stop from outside is taken like Ctrl-C: the database is stopped in order either way."""
    raise KeyboardInterrupt


@contextlib.contextmanager
def database() -> Iterator[str]:
    """The address of the database: the one that is set, or the private one, watched while the block lasts."""
    given = os.environ.get("DORRIK_DATABASE_URL")
    if given:
        yield given
        return
    private = PrivateMariaDB(HOME / "mariadb")
    stopped = threading.Event()
    watcher: threading.Thread | None = None
    try:
        private.start()
        watcher = threading.Thread(target=private.watch, args=(stopped,), daemon=True)
        watcher.start()
        yield private.url
    finally:
        stopped.set()
        if watcher is not None:
            watcher.join(5)
        private.stop()


@contextlib.contextmanager
def prepared() -> Iterator[str]:
    """The same with the schema up to date and everything findable."""
    from dorrik.store import migrate, reindex
    from dorrik.store.engine import make_engine

    with database() as url:
        migrate.upgrade(url)
        engine = make_engine(url)
        reindex.inspections(engine)
        engine.dispose()
        yield url


def photos() -> str:
    """Where photos are kept."""
    return os.environ.get("DORRIK_PHOTOS") or str(HOME / "photos")


def _end_with_parent() -> None:
    """A process that serves ends when the one that made it is gone, however that came about."""
    parent = multiprocessing.parent_process()
    if parent is not None:
        parent.join()
        os.kill(os.getpid(), signal.SIGTERM)


def application() -> "FastAPI":
    """The application as each process makes it, from what the environment says."""
    from dorrik.api.app import create_app
    from dorrik.store.engine import make_engine

    if os.environ.get("DORRIK_ACCESS_LOG"):
        access = logging.getLogger("dorrik.access")
        access.addHandler(logging.StreamHandler(sys.stdout))
        access.setLevel(logging.INFO)
        access.propagate = False
    # Where somebody's long reckoning runs in a thread, everybody else waits for it so long at a time (s).
    sys.setswitchinterval(0.001)
    threading.Thread(target=_end_with_parent, daemon=True).start()
    engine = make_engine(os.environ["DORRIK_DATABASE_URL"])
    app = create_app(engine, photos=photos())
    threading.Thread(target=_finish_erasures, args=(app,), daemon=True).start()
    return app


def _finish_erasures(app: "FastAPI") -> None:
    """Photos that an erasure named and did not get to, and what an earlier version did not write down; then, as long as
    the process lives, forget what others erase."""
    from sqlalchemy.exc import SQLAlchemyError

    from dorrik.office import after_report
    from dorrik.store import erasing, forgetting

    # Where the database or the store does not answer, the next start or the next erasure ends it.
    with contextlib.suppress(SQLAlchemyError, OSError):
        erasing.remove_photos(app.state.engine, app.state.photos)
    with contextlib.suppress(SQLAlchemyError):
        after_report.remember_all(app.state.engine)
    forgetting.watch(app.state.engine, app.state.remembered, threading.Event())


def free_port(host: str, port: int) -> int:
    """The port asked for, or another one where something has it already."""
    for wanted in (port, 0):
        with socket.socket() as probe, contextlib.suppress(OSError):
            probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            probe.bind((host, wanted))
            if wanted != port:
                print(f"Port {port} is taken.", file=sys.stderr)
            return int(probe.getsockname()[1])
    return port


def serve(host: str, port: int, workers: int, *, demo: bool) -> int:
    """Serve until stopped; returns the exit code."""
    from dorrik.api import WEB
    from dorrik.store.mariadb import MariaDBError

    signal.signal(signal.SIGTERM, _interrupt)
    catcher = None
    try:
        with prepared() as url:
            port = free_port(host, port)
            os.environ["DORRIK_DATABASE_URL"] = url
            os.environ.setdefault("DORRIK_URL", f"http://{host}:{port}")
            if demo:
                catcher = _demo(url, host)
            else:
                _first_link(url)
            if not (WEB / "index.html").exists():
                print("The front end is not built; run `make setup`. Only the API answers.", file=sys.stderr)
            stopped = _backups(url)
            _mail(url, stopped)
            meter = _meter(host) if demo else None
            print(f"\nOpen {os.environ['DORRIK_URL']}   (Ctrl-C stops the server and its database)\n", flush=True)
            from dorrik import processes

            try:
                processes.run("dorrik.serving:application", host, port, workers)
            finally:
                stopped.set()
                if meter is not None:
                    meter.terminate()
    except KeyboardInterrupt:
        pass
    except MariaDBError as error:
        print(error, file=sys.stderr)
        return 1
    finally:
        if catcher is not None:
            catcher.stop()
    return 0


def _backups(url: str) -> threading.Event:
    """Backups by themselves, where DORRIK_BACKUP says where to; ended by setting what is returned."""
    from datetime import timedelta

    from dorrik.store import backup_schedule

    stopped = threading.Event()
    if folder := os.environ.get("DORRIK_BACKUP"):
        every = timedelta(hours=float(os.environ.get("DORRIK_BACKUP_HOURS", "24")))
        schedule = backup_schedule.Schedule(folder, every, max(1, int(os.environ.get("DORRIK_BACKUP_KEEP", "14"))))
        arguments = (url, photos(), schedule, stopped)
        threading.Thread(target=backup_schedule.keep_going, args=arguments, daemon=True).start()
    return stopped


def _mail(url: str, stopped: threading.Event) -> None:
    """Letters that could not leave at once leave when their time comes, and clients are reminded; ended by setting
    `stopped`."""
    if os.environ.get("DORRIK_DELIVERY") == "off":
        return
    from dorrik.office import reminders
    from dorrik.office.mail_delivery import Delivery
    from dorrik.store.engine import make_engine, now

    engine = make_engine(url)

    def remind() -> None:
        reminders.remind(engine, now().date(), os.environ["DORRIK_URL"])

    threading.Thread(target=Delivery(engine).keep_going, args=(stopped, remind), daemon=True).start()


def _meter(host: str) -> "subprocess.Popen[bytes]":
    """The simulated instrument of the demo, in a process of its own; it says where it is and its pairing code."""
    from dorrik.demo.bench_home import NAME

    port = free_port(host, 8787)
    command = [sys.executable, "-m", "dorrik", "meter", NAME, "--host", host, "--port", str(port)]
    return subprocess.Popen(command, env=os.environ | {"DORRIK_METER_WITH_PARENT": "1"})


def _demo(url: str, host: str) -> "Controller | None":
    from dorrik.demo import load, mail_catcher, people
    from dorrik.store.engine import make_engine
    from dorrik.store.photos import PhotoStore

    engine = make_engine(url)
    load.load(engine, PhotoStore(photos()))
    loaded = load.open_doors(engine)
    engine.dispose()
    catcher = None
    if "DORRIK_SMTP" not in os.environ:
        catcher = mail_catcher.catch(HOME / "mail", mail_port := free_port(host, 8025), HOME / "bounces")
        os.environ["DORRIK_SMTP"] = f"127.0.0.1:{mail_port}"
        os.environ["DORRIK_INBOX"], os.environ["DORRIK_BOUNCES"] = str(HOME / "mail"), str(HOME / "bounces")
        print(f"\nMail is caught: read it at {os.environ['DORRIK_URL']}/inbox. Nothing leaves this machine.")
    if not loaded:
        print("\nThis folder has firms of its own: the demo was not loaded into it.")
        return catcher
    print("\nDorrik demo. Sign in with one of these (password for all: " + people.PASSWORD + "):")
    for person in people.PEOPLE:
        print(f"  {person.email:32} {person.name}, {person.role}, {person.firm}")
    return catcher


def _first_link(url: str) -> None:
    """Where there is no firm yet: the link with which one is set up. What a demo published is good no longer."""
    from dorrik.store import household
    from dorrik.store.engine import make_engine

    engine = make_engine(url)
    household.close_demo(engine)
    link = household.first_link(engine)
    engine.dispose()
    if link is not None:
        print("\nThere is no firm here yet. Set yours up with this link; it is good once, for two days:")
        print(f"\n  {os.environ['DORRIK_URL']}{link}", flush=True)
