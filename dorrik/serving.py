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
from types import FrameType
from typing import TYPE_CHECKING

from dorrik.settings import for_a_program, hand_on, is_set, settings
from dorrik.store.database.mariadb import PrivateMariaDB

# The process that starts the others loads no more than it needs: they are ready the sooner.
if TYPE_CHECKING:
    from aiosmtpd.controller import Controller
    from fastapi import FastAPI


def _interrupt(*_: object) -> None:
    """A stop from outside is taken like Ctrl-C: the database is stopped in order either way."""
    raise KeyboardInterrupt


@contextlib.contextmanager
def database() -> Iterator[str]:
    """The address of the database: the one that is set, or the private one, watched while the block lasts."""
    given = settings().database_url
    if given:
        yield given
        return
    private = PrivateMariaDB(settings().home / "mariadb")
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
    from dorrik.store.database import migrate
    from dorrik.store.database.engine import make_engine
    from dorrik.store.register import reindex

    with database() as url:
        migrate.upgrade(url)
        engine = make_engine(url)
        reindex.inspections(engine)
        engine.dispose()
        yield url


def _end_with_parent() -> None:
    """A process that serves ends when the one that made it is gone, however that came about."""
    parent = multiprocessing.parent_process()
    if parent is not None:
        parent.join()
        os.kill(os.getpid(), signal.SIGTERM)


def application() -> "FastAPI":
    """The application as each process makes it, from what the environment says."""
    from dorrik.api import news_stream
    from dorrik.api.app import create_app
    from dorrik.store.database.engine import make_engine

    given = settings()
    if given.access_log:
        access = logging.getLogger("dorrik.access")
        access.addHandler(logging.StreamHandler(sys.stdout))
        access.setLevel(logging.INFO)
        access.propagate = False
    # Where somebody's long reckoning runs in a thread, everybody else waits for it so long at a time (s).
    sys.setswitchinterval(0.001)
    threading.Thread(target=_end_with_parent, daemon=True).start()
    if given.database_url is None:
        raise RuntimeError("No database was handed on to this process.")
    app = create_app(make_engine(given.database_url))
    threading.Thread(target=_finish_erasures, args=(app,), daemon=True).start()
    arguments = (app.state.engine, app.state.streams, threading.Event())
    threading.Thread(target=news_stream.watch, args=arguments, daemon=True).start()
    _close_streams_first(app)
    return app


def _close_streams_first(app: "FastAPI") -> None:
    """A server that stops waits for what is being answered; streams would be answered for minutes."""

    def close_first(number: int) -> None:
        former = signal.getsignal(number)

        def handle(number: int, frame: FrameType | None) -> None:
            app.state.streams.close()
            if callable(former):
                former(number, frame)

        signal.signal(number, handle)

    # Within a test's thread there are no signals to wait for.
    if threading.current_thread() is threading.main_thread():
        close_first(signal.SIGTERM)
        close_first(signal.SIGINT)


def _finish_erasures(app: "FastAPI") -> None:
    """Photos that an erasure named and did not get to, and what an earlier version did not write down; then, as long as
    the process lives, forget what others erase."""
    from sqlalchemy.exc import SQLAlchemyError

    from dorrik.office import after_report
    from dorrik.store.data_protection import erasing, forgetting

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
    from dorrik.store.database.mariadb import MariaDBError

    signal.signal(signal.SIGTERM, _interrupt)
    catcher = None
    try:
        with prepared() as url:
            port = free_port(host, port)
            hand_on(database_url=url)
            if not is_set("url"):
                hand_on(url=f"http://{host}:{port}")
            if demo:
                catcher = _demo(url, host)
            else:
                _first_link(url)
            if not (WEB / "index.html").exists():
                print("The front end is not built; run `make setup`. Only the API answers.", file=sys.stderr)
            stopped = _backups(url)
            _mail(url, stopped)
            meter = _meter(host) if demo else None
            print(f"\nOpen {settings().address}   (Ctrl-C stops the server and its database)\n", flush=True)
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

    from dorrik.store.files import backup_schedule

    stopped = threading.Event()
    given = settings()
    if given.backup is not None:
        every = timedelta(hours=given.backup_hours)
        schedule = backup_schedule.Schedule(given.backup, every, given.backup_keep)
        arguments = (url, given.photo_place, schedule, stopped)
        threading.Thread(target=backup_schedule.keep_going, args=arguments, daemon=True).start()
    return stopped


def _mail(url: str, stopped: threading.Event) -> None:
    """Letters that could not leave at once leave when their time comes, and clients are reminded; ended by setting
    `stopped`."""
    if settings().delivery == "off":
        return
    from dorrik.office import due_reminders, reminders, visit_reminders
    from dorrik.office.mail_delivery import Delivery
    from dorrik.store.database.engine import make_engine, now

    engine = make_engine(url)

    def remind() -> None:
        reminders.remind(engine, now().date(), settings().address)
        visit_reminders.remind(engine, now().date())
        due_reminders.remind(engine, now().date())

    threading.Thread(target=Delivery(engine).keep_going, args=(stopped, remind), daemon=True).start()


def _meter(host: str) -> "subprocess.Popen[bytes]":
    """The simulated instrument of the demo, in a process of its own; it says where it is and its pairing code."""
    from dorrik.demo.bench_home import NAME

    port = free_port(host, 8787)
    command = [sys.executable, "-m", "dorrik", "meter", NAME, "--host", host, "--port", str(port)]
    return subprocess.Popen(command, env=for_a_program(meter_with_parent=1))


def _demo(url: str, host: str) -> "Controller | None":
    from dorrik.demo import load, mail_catcher, people
    from dorrik.store.database.engine import make_engine
    from dorrik.store.files.photos import PhotoStore

    engine = make_engine(url)
    load.load(engine, PhotoStore(settings().photo_place))
    loaded = load.open_doors(engine)
    engine.dispose()
    catcher = None
    if not is_set("smtp"):
        home = settings().home
        catcher = mail_catcher.catch(home / "mail", mail_port := free_port(host, 8025), home / "bounces")
        hand_on(smtp=f"127.0.0.1:{mail_port}", inbox=home / "mail", bounces=home / "bounces")
        print(f"\nMail is caught: read it at {settings().address}/inbox. Nothing leaves this machine.")
    if not loaded:
        print("\nThis folder has firms of its own: the demo was not loaded into it.")
        return catcher
    print("\nDorrik demo. Sign in with one of these (password for all: " + people.PASSWORD + "):")
    for person in people.PEOPLE:
        print(f"  {person.email:32} {person.name}, {person.role}, {person.firm}")
    return catcher


def _first_link(url: str) -> None:
    """Where there is no firm yet: the link with which one is set up. What a demo published is good no longer."""
    from dorrik.store.database.engine import make_engine
    from dorrik.store.people import household

    engine = make_engine(url)
    household.close_demo(engine)
    link = household.first_link(engine)
    engine.dispose()
    if link is not None:
        print("\nThere is no firm here yet. Set yours up with this link; it is good once, for two days:")
        print(f"\n  {settings().address}{link}", flush=True)
