"""The application in a process of its own, as `python -m dorrik serve` starts it."""

import os
import signal
import socket
import subprocess
import sys
import tempfile
import time

import httpx


def free_port():
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return probe.getsockname()[1]


class Server:
    """The application in a process of its own."""

    def __init__(self, url, port, what="serve"):
        self.port = port
        self.base = f"http://127.0.0.1:{port}"
        self.photos = tempfile.TemporaryDirectory(prefix="dorrik-photos-")
        given = {"DORRIK_DATABASE_URL": url, "DORRIK_PHOTOS": self.photos.name}
        command = [sys.executable, "-m", "dorrik", what, "--port", str(port), "--workers", "1"]
        self.process = subprocess.Popen(
            command,
            env=os.environ | given,
            stdout=subprocess.DEVNULL,
        )
        end = time.monotonic() + 30
        while time.monotonic() < end:
            try:
                if httpx.get(f"{self.base}/api/health").status_code == 200:
                    return
            except httpx.HTTPError:
                time.sleep(0.05)
        raise AssertionError("The server did not start.")

    def kill(self):
        self.process.send_signal(signal.SIGKILL)
        self.process.wait()
        self.photos.cleanup()
