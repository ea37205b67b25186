"""How long a change takes while many inspectors type at once, each on an inspection of 12 circuits and once a second.

Run alone: `python -m benchmarks load`. The inspectors are simulated on the same machine over one kept connection each, so
that what is measured is what one of them would wait on a machine that is busy with both. Aim: at 100 inspectors 95 of 100
changes within 100 ms on two cores.
"""

import asyncio
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
PASSWORD = "a long test password"


class Device:
    """One inspector's device: one connection, one inspection."""

    def __init__(self, cookie: str, firm: str) -> None:
        self.cookie, self.firm = cookie, firm
        # Behind a proxy each comes from an address of its own.
        self.address = f"10.{random.randrange(256)}.{random.randrange(256)}.{random.randrange(1, 255)}"
        self.inspection = new_id()
        self.circuits: list[str] = []
        self.seq = 0
        self.waits: list[float] = []
        self.failed = 0

    async def open(self) -> None:
        self.reader, self.writer = await asyncio.open_connection("127.0.0.1", PORT)

    async def post(self, path: str, body: Any) -> Any:
        raw = json.dumps(body).encode()
        head = (
            f"POST {path} HTTP/1.1\r\nHost: 127.0.0.1:{PORT}\r\nContent-Type: application/json\r\n"
            f"X-Forwarded-For: {self.address}\r\nCookie: dorrik_session={self.cookie}\r\nContent-Length: {len(raw)}\r\n\r\n"
        )
        self.writer.write(head.encode() + raw)
        answer = await self.reader.readuntil(b"\r\n\r\n")
        status = int(answer[9:12])
        length = next(int(x[15:]) for x in answer.lower().split(b"\r\n") if x.startswith(b"content-length:"))
        data = await self.reader.readexactly(length)
        return status, data

    async def begin(self) -> None:
        changes = _changes(self.inspection, self.firm)
        self.circuits = [c["entity_id"] for c in changes if c["entity"] == "circuit" and c["field"] == "board"]
        status, data = await self.post(f"/api/inspections/{self.inspection}/changes", {"changes": changes})
        assert status == 200, data
        self.seq = json.loads(data)["seq"]

    async def type(self, until: float, start: float) -> None:
        await self.open()
        await asyncio.sleep(start)
        n = 0
        while time.perf_counter() < until:
            began = time.perf_counter()
            n += 1
            change = _change("circuit", random.choice(self.circuits), "zs_ohm", f"0.{30 + n % 60}")
            change["based_on"] = self.seq
            body = {"changes": [change]} | ({"judged": self.seq} if DELTAS else {})
            status, data = await self.post(f"/api/inspections/{self.inspection}/changes", body)
            self.waits.append(time.perf_counter() - began)
            if status == 200:
                self.seq += 1
            else:
                self.failed += 1
            await asyncio.sleep(max(0.0, 1.0 - (time.perf_counter() - began)))


DELTAS = bool(os.environ.get("LOAD_DELTAS", ""))


async def crowd(devices: list[Device]) -> str:
    until = time.perf_counter() + SECONDS
    for device in devices:
        device.waits.clear()
    await asyncio.gather(*(d.type(until, random.random()) for d in devices))
    waits = sorted(w * 1000 for d in devices for w in d.waits)
    p = statistics.quantiles(waits, n=100)
    failed = sum(d.failed for d in devices)
    return f"{len(devices):4} inspectors: {len(waits) / SECONDS:6.1f} changes a second, median {p[49]:7.1f} ms, 95 of 100 within {p[94]:7.1f} ms, longest {waits[-1]:7.1f} ms, failed {failed}"


async def _all(url: str) -> None:
    engine = make_engine(url)
    cheap = PasswordHasher(time_cost=1, memory_cost=8, parallelism=1).hash(PASSWORD)
    devices = []
    with engine.begin() as connection:
        firm = people.add_firm(connection, "Load", "", "")
        emails = [f"load{n}@test.example" for n in range(max(CROWDS))]
        for n, email in enumerate(emails):
            people.add_person(connection, firm, f"L {n}", email, "inspector", cheap)
    import http.client

    for email in emails:
        http_ = http.client.HTTPConnection("127.0.0.1", PORT)
        http_.request("POST", "/api/session", json.dumps({"email": email, "password": PASSWORD}), {"Content-Type": "application/json"})
        answer = http_.getresponse()
        answer.read()
        devices.append(Device(answer.getheader("Set-Cookie").split(";")[0].split("=", 1)[1], firm))
    for device in devices:
        await device.open()
        await device.begin()
    for size in CROWDS:
        print(await crowd(devices[:size]), flush=True)


def run() -> None:
    with tempfile.TemporaryDirectory() as folder, PrivateMariaDB(Path(folder) / "db") as server:
        migrate.upgrade(server.url)
        given = {"DORRIK_DATABASE_URL": server.url, "DORRIK_PHOTOS": folder}
        more = json.loads(os.environ.get("LOAD_ARGUMENTS", "[]"))
        process = subprocess.Popen(
            [sys.executable, "-m", "dorrik", "serve", "--port", str(PORT), *more],
            env=os.environ | given, stdout=subprocess.DEVNULL,
        )
        try:
            import urllib.request

            for _ in range(200):
                try:
                    urllib.request.urlopen(f"http://127.0.0.1:{PORT}/api/health", timeout=1)
                    break
                except OSError:
                    time.sleep(0.1)
            asyncio.run(_all(server.url))
        finally:
            process.terminate()
            process.wait(20)
