"""How long a change takes while many inspectors type at once, each on an inspection of 12 circuits and once a second.

The inspectors are simulated on the same machine, over one kept connection each and from an address each, as behind a
proxy: what is measured is what one of them waits for on a machine that is busy with both. Aim: at 100 inspectors 95 of
100 changes within 100 ms on two cores. LOAD_CROWDS, LOAD_SECONDS and LOAD_WORKERS change what is run.
"""

import asyncio
import http.client
import json
import os
import random
import statistics
import subprocess
import sys
import tempfile
import time
from pathlib import Path
from typing import Any

from argon2 import PasswordHasher

from benchmarks.round_trip import _change, _changes
from dorrik.store import migrate, people
from dorrik.store.engine import make_engine, new_id
from dorrik.store.mariadb import PrivateMariaDB

PORT = 18093
SECONDS = float(os.environ.get("LOAD_SECONDS", "12"))
CROWDS = tuple(int(n) for n in os.environ.get("LOAD_CROWDS", "10,50,100,200").split(","))
WORKERS = os.environ.get("LOAD_WORKERS", str(os.cpu_count() or 1))
PASSWORD = "a long test password"


class Device:
    """One inspector's device: one connection, one inspection."""

    def __init__(self, cookie: str, firm: str) -> None:
        self.cookie, self.firm = cookie, firm
        self.address = f"10.{random.randrange(256)}.{random.randrange(256)}.{random.randrange(1, 255)}"
        self.inspection = new_id()
        self.circuits: list[str] = []
        self.seq = 0
        self.waits: list[float] = []
        self.failed = self.bytes = 0

    async def open(self) -> None:
        self.reader, self.writer = await asyncio.open_connection("127.0.0.1", PORT)

    async def post(self, path: str, body: Any) -> tuple[int, bytes]:
        raw = json.dumps(body).encode()
        head = {
            "Host": f"127.0.0.1:{PORT}",
            "Content-Type": "application/json",
            "X-Forwarded-For": self.address,
            "Cookie": f"dorrik_session={self.cookie}",
            "Content-Length": len(raw),
        }
        lines = "".join(f"{name}: {value}\r\n" for name, value in head.items())
        self.writer.write(f"POST {path} HTTP/1.1\r\n{lines}\r\n".encode() + raw)
        answer = await self.reader.readuntil(b"\r\n\r\n")
        length = next(int(x[15:]) for x in answer.lower().split(b"\r\n") if x.startswith(b"content-length:"))
        return int(answer[9:12]), await self.reader.readexactly(length)

    async def begin(self) -> None:
        changes = _changes(self.inspection, self.firm)
        self.circuits = [c["entity_id"] for c in changes if c["entity"] == "circuit" and c["field"] == "board"]
        status, data = await self.post(f"/api/inspections/{self.inspection}/changes", {"changes": changes})
        assert status == 200, data
        self.seq = json.loads(data)["seq"]

    async def type(self, until: float, start: float) -> None:
        """Type once a second, as a device does that says of which state its judgement is."""
        await self.open()
        await asyncio.sleep(start)
        n = 0
        while (began := time.perf_counter()) < until:
            n += 1
            change = _change("circuit", random.choice(self.circuits), "zs_ohm", f"0.{30 + n % 60}", self.seq)
            body = {"changes": [change], "judged": self.seq}
            status, data = await self.post(f"/api/inspections/{self.inspection}/changes", body)
            self.waits.append(time.perf_counter() - began)
            self.bytes += len(data)
            if status == 200:
                self.seq += 1
            else:
                self.failed += 1
            await asyncio.sleep(max(0.0, 1.0 - (time.perf_counter() - began)))


async def _crowd(devices: list[Device]) -> str:
    until = time.perf_counter() + SECONDS
    for device in devices:
        device.waits.clear()
        device.failed = device.bytes = 0
    await asyncio.gather(*(device.type(until, random.random()) for device in devices))
    waits = sorted(w * 1000 for device in devices for w in device.waits)
    cut = statistics.quantiles(waits, n=100)
    return (
        f"load                {len(devices):4} inspectors: {len(waits) / SECONDS:6.1f} changes a second, median "
        f"{cut[49]:7.1f} ms, 95 of 100 within {cut[94]:7.1f} ms, longest {waits[-1]:7.1f} ms, "
        f"{sum(d.bytes for d in devices) / len(waits) / 1000:.1f} kB an answer, {sum(d.failed for d in devices)} failed"
    )


def _signed_in(emails: list[str], firm: str) -> list[Device]:
    devices = []
    for email in emails:
        line = http.client.HTTPConnection("127.0.0.1", PORT)
        body = json.dumps({"email": email, "password": PASSWORD})
        line.request("POST", "/api/session", body, {"Content-Type": "application/json"})
        answer = line.getresponse()
        answer.read()
        cookie = (answer.getheader("Set-Cookie") or "").split(";")[0].partition("=")[2]
        devices.append(Device(cookie, firm))
    return devices


async def _all(emails: list[str], firm: str) -> None:
    devices = _signed_in(emails, firm)
    for device in devices:
        await device.open()
        await device.begin()
        device.writer.close()
    for size in CROWDS:
        print(await _crowd(devices[:size]), flush=True)


def _answers() -> bool:
    try:
        line = http.client.HTTPConnection("127.0.0.1", PORT, timeout=1)
        line.request("GET", "/api/health")
        return line.getresponse().status == 200
    except OSError:
        return False


def run() -> None:
    """Print a line for each size of the crowd."""
    with tempfile.TemporaryDirectory() as folder, PrivateMariaDB(Path(folder) / "db") as server:
        migrate.upgrade(server.url)
        engine = make_engine(server.url)
        cheap = PasswordHasher(time_cost=1, memory_cost=8, parallelism=1).hash(PASSWORD)
        emails = [f"load{n}@test.example" for n in range(max(CROWDS))]
        with engine.begin() as connection:
            firm = people.add_firm(connection, "Load", "", "")
            for n, email in enumerate(emails):
                people.add_person(connection, firm, f"Inspector {n}", email, "inspector", cheap)
        given = {"DORRIK_DATABASE_URL": server.url, "DORRIK_PHOTOS": folder}
        command = [sys.executable, "-m", "dorrik", "serve", "--port", str(PORT), "--workers", WORKERS]
        process = subprocess.Popen(command, env=os.environ | given, stdout=subprocess.DEVNULL)
        try:
            end = time.monotonic() + 30
            while not _answers() and time.monotonic() < end:
                time.sleep(0.1)
            asyncio.run(_all(emails, firm))
        finally:
            process.terminate()
            process.wait(20)
