"""Somebody else who asks a server again and again, in a process of their own, and how long each answer took."""

import contextlib
import multiprocessing
import os
import time
from pathlib import Path

import httpx


@contextlib.contextmanager
def somebody_else(port, pid):
    """A line to them: what is sent begins (true) or ends (false) their asking; at the end their waits come (ms).

    pid: of the server's process. Begun, None comes once they ask.
    """
    ours, theirs = multiprocessing.Pipe()
    # Begun anew: a copy of this process would hold what its other threads held.
    other = multiprocessing.get_context("spawn").Process(target=_ask, args=(theirs, port, pid), daemon=True)
    other.start()
    try:
        yield ours
    finally:
        other.kill()
        other.join()


def _ask(line, port, pid):
    # From another place: what one place may ask at once is its own affair.
    elsewhere = httpx.HTTPTransport(local_address="127.0.0.2")
    both = [Path(f"/proc/{one}/schedstat") for one in (os.getpid(), pid)]
    with httpx.Client(base_url=f"http://127.0.0.1:{port}", transport=elsewhere, timeout=60) as http:
        while line.recv():
            _wait_ms(http, both)
            line.send(None)
            waits = [0.0]
            while not line.poll():
                waits.append(_wait_ms(http, both))
            line.recv()
            line.send(waits)


def _wait_ms(http, both):
    """How long an answer took, without what either of the two stood in line for a processor that others had."""
    lined_up, began = _lined_up_ms(both), time.perf_counter()
    assert http.get("/api/health").status_code == 200
    return (time.perf_counter() - began) * 1e3 - (_lined_up_ms(both) - lined_up)


def _lined_up_ms(both):
    return sum(int(one.read_text().split()[1]) for one in both) / 1e6
