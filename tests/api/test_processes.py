"""Several processes serve: one that ends is replaced, and all of them end with the one that made them."""

import contextlib
import os
import re
import signal
import subprocess
import sys
import time
from pathlib import Path

import httpx
import pytest

from tests.serving import ask, free_port

PATIENCE_S = 120


class Served:
    def __init__(self, url, folder):
        self.port = free_port()
        given = {"DORRIK_DATABASE_URL": url, "DORRIK_PHOTOS": str(folder), "DORRIK_HOME": str(folder)}
        command = [sys.executable, "-m", "dorrik", "serve", "--port", str(self.port), "--workers", "2"]
        self.process = subprocess.Popen(command, env=os.environ | given, stdout=subprocess.DEVNULL)
        self.until(lambda: self.get("/api/health"))

    def get(self, path):
        with contextlib.suppress(httpx.HTTPError):
            answer = ask(f"http://127.0.0.1:{self.port}{path}")
            return answer.text if answer.status_code == 200 else None
        return None

    def until(self, there):
        end = time.monotonic() + PATIENCE_S
        while not (found := there()):
            assert time.monotonic() < end
            time.sleep(0.1)
        return found

    def below(self):
        """Every process that it has made, by its command."""
        found, waiting = {}, [self.process.pid]
        while waiting:
            for task in Path(f"/proc/{waiting.pop()}/task").glob("*/children"):
                with contextlib.suppress(OSError):
                    for pid in map(int, task.read_text().split()):
                        found[pid] = Path(f"/proc/{pid}/cmdline").read_text().replace("\0", " ")
                        waiting.append(pid)
        return found

    def serving(self):
        """The processes that hold the port open and serve: each counts what it does in a file of its own."""
        return {int(pid) for one in Path(self.counts()).iterdir() for pid in re.findall(r"counter_(\d+)\.db", one.name)
                if _lives(int(pid)) and _has_port(int(pid), self.port)}  # fmt: skip

    def counts(self):
        for pid in [*self.below(), self.process.pid]:
            found = re.search(r"PROMETHEUS_MULTIPROC_DIR=([^\0]+)", _environment(pid))
            if found:
                return found[1]
        raise AssertionError("Nothing counts.")


def _environment(pid):
    with contextlib.suppress(OSError):
        return Path(f"/proc/{pid}/environ").read_text()
    return ""


def _lives(pid):
    with contextlib.suppress(OSError):
        return Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()[0] != "Z"
    return False


def _has_port(pid, port):
    wanted = f":{port:04X} "
    with contextlib.suppress(OSError):
        inodes = {line.split()[9] for line in Path("/proc/net/tcp").read_text().splitlines() if wanted in line}
        links = {str(one.readlink()) for one in Path(f"/proc/{pid}/fd").iterdir()}
        return any(f"socket:[{inode}]" in links for inode in inodes)
    return False


@pytest.fixture
def served(mariadb, tmp_path):
    found = Served(mariadb.url, tmp_path)
    yield found
    if found.process.poll() is None:
        found.process.kill()
        found.process.wait()


def test_a_process_that_is_killed_is_replaced(served):
    # Asked until both have counted something.
    before = served.until(lambda: served.get("/api/health") and len(served.serving()) == 2 and served.serving())
    os.kill(min(before), signal.SIGKILL)
    after = served.until(
        lambda: served.get("/api/health") and len(served.serving()) == 2 and min(before) not in served.serving()
    )
    assert after and served.process.poll() is None
    # What all of them counted is told together.
    assert served.until(lambda: "dorrik" in (served.get("/metrics") or ""))


@pytest.mark.parametrize("how", [signal.SIGTERM, signal.SIGKILL])
def test_all_of_them_end_with_the_one_that_made_them(served, how, mariadb, tmp_path):
    made = served.below()
    counts = served.counts()
    assert len(made) >= 2
    served.process.send_signal(how)
    served.process.wait(PATIENCE_S)
    served.until(lambda: not [pid for pid in made if _lives(pid)])
    if how == signal.SIGKILL:
        # What it left behind in memory goes with the next one that starts.
        Served(mariadb.url, tmp_path).process.terminate()
    served.until(lambda: not Path(counts).exists())
