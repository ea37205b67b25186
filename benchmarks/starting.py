"""How long the core takes to start, in a fresh interpreter whose byte code is there (aim: 60 ms), and the server."""

import http.client
import os
import signal
import statistics
import subprocess
import sys
import tempfile
import time
from pathlib import Path

from benchmarks import machine

PORT = 18094

SCRIPT = "import time; t = time.perf_counter(); import dorrik.core; print((time.perf_counter() - t) * 1000)"


def run() -> None:
    """Print the median and the least of several starts."""
    with tempfile.TemporaryDirectory() as folder:
        # Byte code is written on the first start, as an installed package has it.
        environment = os.environ | {"PYTHONDONTWRITEBYTECODE": "", "PYTHONPYCACHEPREFIX": folder}
        taken = []
        for _ in range(16):
            done = subprocess.run([sys.executable, "-c", SCRIPT], env=environment, capture_output=True, check=True)
            taken.append(float(done.stdout))
    print(f"core starts in {statistics.median(taken[1:]):.0f} ms (least {min(taken):.0f} ms of {len(taken)})")
    _ready_after_a_kill()


def _ready_after_a_kill() -> None:
    """How long a server with two processes takes from its start to its first answer, after it was killed with its
    database. Aim: 3 s of the usual machine."""
    taken = []
    with tempfile.TemporaryDirectory() as folder:
        for number in range(5):
            speed = machine.loop_ms()
            began = time.perf_counter()
            process = _started(folder)
            if number:
                taken.append((time.perf_counter() - began) * machine.USUAL_MS / speed)
            _kill(process, Path(folder))
    print(f"ready after a kill: {statistics.median(taken):.1f} s of the usual machine (longest {max(taken):.1f})")


def _started(folder: str) -> "subprocess.Popen[bytes]":
    environment = os.environ | {"DORRIK_HOME": folder, "PYTHONDONTWRITEBYTECODE": ""}
    command = [sys.executable, "-m", "dorrik", "serve", "--port", str(PORT), "--workers", "2"]
    process = subprocess.Popen(command, env=environment, stdout=subprocess.DEVNULL, start_new_session=True)
    while True:
        try:
            line = http.client.HTTPConnection("127.0.0.1", PORT, timeout=5)
            line.request("GET", "/api/ready")
            if line.getresponse().status == 200:
                return process
        except OSError:
            time.sleep(0.05)


def _kill(process: "subprocess.Popen[bytes]", folder: Path) -> None:
    os.killpg(process.pid, signal.SIGKILL)
    process.wait()
    os.kill(int((folder / "mariadb" / "pid").read_text()), signal.SIGKILL)
    time.sleep(1)
