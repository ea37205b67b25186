"""A private MariaDB on loopback: made in a folder of ours, started, watched, stopped with the last program that asked.

The folder holds the data, a generated password (readable by the owner only) and the log. The usual port is
taken if it is free, else another. A start that was killed is picked up at the next: a server that still
runs on the folder is used again, and InnoDB repairs what a killed server left.
"""

import contextlib
import fcntl
import os
import secrets
import shutil
import signal
import socket
import subprocess
import threading
import time
from collections.abc import Iterator
from pathlib import Path
from typing import IO

import pymysql

from dorrik.store.database.engine import DRIVER, SQL_MODE

USUAL_PORT = 3306
START_SECONDS = 60.0
#: How often it is looked whether the server lives (s).
WATCH_S = 0.5
#: What it needs of the disk to repair itself and start (bytes): its place for temporary tables, and some.
ROOM_TO_START = 24 * 1024 * 1024
DATABASE = "dorrik"
USER = "dorrik"


class MariaDBError(RuntimeError):
    """The server cannot be started; the message says what to do."""


class PortTaken(MariaDBError):
    """The port that the server was to listen on belongs to another one."""


class PrivateMariaDB:
    """A MariaDB server in a folder. Use as a context manager, or `start` and `stop`."""

    def __init__(self, folder: Path, port: int | None = None) -> None:
        self.folder = folder.resolve()
        self._wanted_port = port
        self.port = 0
        self._process: subprocess.Popen[bytes] | None = None
        self._lease: IO[bytes] | None = None

    def __enter__(self) -> "PrivateMariaDB":
        self.start()
        return self

    def __exit__(self, *_: object) -> None:
        self.stop()

    @property
    def url(self) -> str:
        """SQLAlchemy URL of the database, password included."""
        return f"{DRIVER}://{USER}:{self._password()}@127.0.0.1:{self.port}/{DATABASE}"

    @property
    def pid(self) -> int | None:
        """Process id of the running server, or None."""
        try:
            pid = int((self.folder / "pid").read_text())
            os.kill(pid, 0)
        except (OSError, ValueError):
            return None
        # A number may have been given to another program since; only a mariadbd of this folder counts.
        command = Path(f"/proc/{pid}/cmdline")
        with contextlib.suppress(OSError):
            if str(self.folder).encode() not in command.read_bytes():
                return None
        return pid

    def start(self) -> None:
        """Start the server, or use the one that runs on the folder, and wait until it answers. Raises MariaDBError.

        Whoever has started holds a lease on the folder; those who start at once take turns.
        """
        self._private()
        with self._turn():
            self._make()
            if self.pid is None or not self._adopt():
                self._start()
            if self._lease is None:
                self._lease = (self.folder / "lease").open("ab")
                fcntl.flock(self._lease, fcntl.LOCK_SH)

    def _start(self) -> None:
        for port in (USUAL_PORT, 0, 0):
            self.port = self._wanted_port or _free_port(port)
            try:
                return self._launch()
            except PortTaken:
                # Another server took it between our looking and its starting.
                if self._wanted_port:
                    raise
        raise MariaDBError("Every port was taken by another server as it was about to be used.")

    def _private(self) -> None:
        self.folder.mkdir(parents=True, exist_ok=True)
        self.folder.chmod(0o700)

    @contextlib.contextmanager
    def _turn(self) -> Iterator[None]:
        """Alone among all who start or stop a server on this folder, in whichever process."""
        with (self.folder / "turn").open("ab") as lock:
            fcntl.flock(lock, fcntl.LOCK_EX)
            yield

    def let_go(self) -> None:
        """Give the lease back without stopping anything, as a process that is killed does."""
        if self._lease is not None:
            self._lease.close()
            self._lease = None

    def watch(self, stopped: threading.Event) -> None:
        """Start the server again, on its port, whenever it has died; returns when `stopped` is set.

        It also dies of a full disk, and one that is started on a full disk waits a minute for room before it looks
        again: it is started as soon as there is some.
        """
        self._wanted_port = self.port
        while not stopped.wait(WATCH_S):
            if self.pid is not None or not self._has_room():
                continue
            # The disk may fill up again at any moment: tried until it lives.
            with contextlib.suppress(MariaDBError, OSError), self._turn():
                # Another process on this folder may have been quicker.
                if self.pid is None and not stopped.is_set():
                    self._launch()

    def _has_room(self) -> bool:
        """Is there room on the disk to start in?"""
        try:
            return shutil.disk_usage(self.folder).free >= ROOM_TO_START
        except OSError:
            return False

    def _launch(self) -> None:
        (self.folder / "port").write_text(str(self.port))
        init = self.folder / "init.sql"
        init.write_text(
            f"ALTER USER root@localhost IDENTIFIED BY '{self._password()}';\n"
            f"CREATE DATABASE IF NOT EXISTS {DATABASE} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;\n"
            f"CREATE USER IF NOT EXISTS {USER}@127.0.0.1;\n"
            f"ALTER USER {USER}@127.0.0.1 IDENTIFIED BY '{self._password()}';\n"
            f"GRANT ALL ON {DATABASE}.* TO {USER}@127.0.0.1;\n"
        )
        init.chmod(0o600)
        with (self.folder / "log").open("ab") as log:
            self._process = subprocess.Popen(
                [
                    program("mariadbd", "mysqld"),
                    "--no-defaults",
                    f"--datadir={self.folder / 'data'}",
                    f"--pid-file={self.folder / 'pid'}",
                    f"--socket={self._socket()}",
                    f"--port={self.port}",
                    "--bind-address=127.0.0.1",
                    f"--init-file={init}",
                    f"--sql-mode={SQL_MODE}",
                    "--character-set-server=utf8mb4",
                    "--collation-server=utf8mb4_unicode_ci",
                    "--transaction-isolation=READ-COMMITTED",
                    "--innodb-flush-log-at-trx-commit=1",
                    "--innodb-buffer-pool-size=128M",
                    "--max-allowed-packet=64M",
                    "--skip-name-resolve",
                    *(["--user=root"] if os.getuid() == 0 else []),
                ],
                stdin=subprocess.DEVNULL,
                stdout=log,
                stderr=log,
                env=self._environment(),
                # Its own group, so that Ctrl-C reaches us first and we stop it in order.
                start_new_session=True,
            )
        self._wait()

    def stop(self) -> None:
        """Stop the server in order, if nobody else has a lease on it; does nothing where none runs."""
        if not self.folder.exists():
            return
        with self._turn():
            self.let_go()
            with (self.folder / "lease").open("ab") as others:
                try:
                    fcntl.flock(others, fcntl.LOCK_EX | fcntl.LOCK_NB)
                except BlockingIOError:
                    return
                self._stop()

    def _stop(self) -> None:
        pid = self.pid
        if pid is None:
            return
        os.kill(pid, signal.SIGTERM)
        self._gone(pid, 30.0)
        if self._process is not None:
            self._process.wait(30)
            self._process = None
        self._socket().unlink(missing_ok=True)

    def kill(self) -> None:
        """End the server at once, as a power cut would; for tests of what survives."""
        if (pid := self.pid) is not None:
            os.kill(pid, signal.SIGKILL)
            if self._process is not None:
                self._process.wait(10)
            self._gone(pid, 10.0)

    def _gone(self, pid: int, seconds: float) -> None:
        end = time.monotonic() + seconds
        while time.monotonic() < end:
            # A child of ours stays in the process table until it is waited for.
            with contextlib.suppress(ChildProcessError):
                os.waitpid(pid, os.WNOHANG)
            try:
                os.kill(pid, 0)
            except ProcessLookupError:
                return
            if _is_zombie(pid):
                # Ended, and waited for by nobody: where nothing reaps what was left behind it stays so.
                return
            time.sleep(0.05)

    def _make(self) -> None:
        """Make the data folder where there is none, or where an earlier making was cut short."""
        data = self.folder / "data"
        made = self.folder / "made"
        if made.exists() and data.exists():
            return
        if data.exists():
            shutil.rmtree(data)
        password = self.folder / "password"
        if not password.exists():
            password.touch(0o600)
            password.write_text(secrets.token_urlsafe(24))
        result = subprocess.run(
            [
                program("mariadb-install-db", "mysql_install_db"),
                "--no-defaults",
                f"--datadir={data}",
                "--auth-root-authentication-method=normal",
                "--skip-test-db",
                *(["--user=root"] if os.getuid() == 0 else []),
            ],
            capture_output=True,
            text=True,
            check=False,
            env=self._environment(),
        )
        if result.returncode:
            raise MariaDBError(f"mariadb-install-db failed: {(result.stderr or result.stdout).strip()[-400:]}")
        made.touch()

    def _environment(self) -> dict[str, str]:
        """Its own place for temporary tables: two servers that are made at once take each other's away in /tmp."""
        temporary = self.folder / "tmp"
        temporary.mkdir(exist_ok=True)
        return os.environ | {"TMPDIR": str(temporary)}

    def _adopt(self) -> bool:
        """Use the server that an earlier, killed start left running on this folder."""
        with contextlib.suppress(OSError, ValueError, pymysql.Error):
            self.port = int((self.folder / "port").read_text())
            self._connect()
            return True
        self._stop()
        return False

    def _password(self) -> str:
        return (self.folder / "password").read_text().strip()

    def _socket(self) -> Path:
        """Socket paths have a length limit of about a hundred characters, so a long folder goes by /tmp."""
        beside = self.folder / "socket"
        if len(str(beside)) < 100:
            return beside
        return Path(f"/tmp/dorrik-{self.port}.sock")

    def _connect(self) -> None:
        pymysql.connect(
            host="127.0.0.1",
            port=self.port,
            user=USER,
            password=self._password(),
            database=DATABASE,
            connect_timeout=2,
            ssl_disabled=True,
        ).close()

    def _wait(self) -> None:
        end = time.monotonic() + START_SECONDS
        while time.monotonic() < end:
            with contextlib.suppress(pymysql.Error):
                self._connect()
                return
            if self._process is not None and self._process.poll() is not None:
                break
            time.sleep(0.05)
        tail = (self.folder / "log").read_text(errors="replace")[-800:]
        kind = PortTaken if "Address already in use" in tail else MariaDBError
        raise kind(f"MariaDB did not start; the end of {self.folder / 'log'} says:\n{tail}")


def _is_zombie(pid: int) -> bool:
    with contextlib.suppress(OSError):
        return Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()[0] == "Z"
    return False


def program(*names: str) -> str:
    """The path of one of Debian's programs, the first that is there. Raises MariaDBError."""
    for name in names:
        path = shutil.which(name) or shutil.which(name, path="/usr/sbin:/usr/local/sbin:/usr/bin")
        if path:
            return path
    raise MariaDBError("MariaDB is not installed: apt-get install mariadb-server")


def _free_port(first: int) -> int:
    """That port if nothing has it, else one that the system gives."""
    for port in (first, 0):
        with socket.socket() as probe, contextlib.suppress(OSError):
            probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            probe.bind(("127.0.0.1", port))
            return int(probe.getsockname()[1])
    raise MariaDBError("No free port on loopback.")
