"""The application in a process of its own, as `python -m dorrik serve` starts it."""

import os
import shutil
import signal
import socket
import subprocess
import sys
import tempfile
import time
from functools import partial
from pathlib import Path

import httpx

#: Without reading the certificates of all the world each time, which takes longer than the answer.
ask = partial(httpx.get, verify=False)


def free_port():
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return probe.getsockname()[1]


class Server:
    """The application in a process of its own."""

    def __init__(self, url, port, what="serve", web=None):
        """web: folder of another front end than the one that was built (tests/another_version.py)."""
        self.port = port
        self.base = f"http://127.0.0.1:{port}"
        self.photos = tempfile.mkdtemp(prefix="dorrik-photos-")
        # Tests of letters have them in the same database: nobody else takes them up.
        given = {"DORRIK_DATABASE_URL": url, "DORRIK_PHOTOS": self.photos, "DORRIK_DELIVERY": "off"}
        version = ["tests.another_version", str(web)] if web else ["dorrik"]
        command = [sys.executable, "-m", *version, what, "--port", str(port), "--workers", "1"]
        self.process = subprocess.Popen(
            command,
            env=os.environ | given,
            stdout=subprocess.DEVNULL,
        )
        # As long as it lives it may still come: a busy machine is no failure, and every test has its own end.
        while self.process.poll() is None:
            try:
                if ask(f"{self.base}/api/health").status_code == 200:
                    return
            except httpx.HTTPError:
                time.sleep(0.05)
        raise AssertionError(f"The server ended before it answered ({self.process.returncode}).")

    @classmethod
    def running(cls, port, photos):
        """One that another process of the tests has started."""
        found = cls.__new__(cls)
        found.port, found.base, found.photos, found.process = port, f"http://127.0.0.1:{port}", photos, None
        return found

    def kill(self):
        self.process.send_signal(signal.SIGKILL)
        self.process.wait()
        shutil.rmtree(self.photos, ignore_errors=True)


class Place:
    """One address whose server comes and goes."""

    def __init__(self, url: str) -> None:
        self._url, self.port = url, free_port()
        self.base = f"http://127.0.0.1:{self.port}"
        self._server: Server | None = None

    def up(self, web: Path | None = None) -> None:
        """web: folder of another front end, where it comes back in another version."""
        self._server = Server(self._url, self.port, web=web)

    def down(self) -> None:
        if self._server:
            self._server.kill()
        self._server = None
