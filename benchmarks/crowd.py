"""A server with people who are signed in, for measurements of many at once: devices that type, and what waits."""

import asyncio
import contextlib
import http.client
import io
import json
import os
import random
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from argon2 import PasswordHasher
from PIL import Image

from benchmarks.round_trip import _change, _changes
from dorrik.store.database import migrate
from dorrik.store.database.engine import make_engine, new_id
from dorrik.store.database.mariadb import PrivateMariaDB
from dorrik.store.people import people

PORT = 18093
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
        """Connect."""
        self.reader, self.writer = await asyncio.open_connection("127.0.0.1", PORT)

    async def ask(self, method: str, path: str, raw: bytes = b"", kind: str = "application/json") -> tuple[int, bytes]:
        """Status and body of an answer."""
        head = {
            "Host": f"127.0.0.1:{PORT}",
            "Content-Type": kind,
            "X-Forwarded-For": self.address,
            "Cookie": f"dorrik_session={self.cookie}",
            "Content-Length": len(raw),
        }
        lines = "".join(f"{name}: {value}\r\n" for name, value in head.items())
        self.writer.write(f"{method} {path} HTTP/1.1\r\n{lines}\r\n".encode() + raw)
        answer = await self.reader.readuntil(b"\r\n\r\n")
        fields = [line for line in answer.lower().split(b"\r\n") if line.startswith(b"content-length:")]
        if b"transfer-encoding: chunked" in answer.lower():
            return int(answer[9:12]), await self._chunks()
        return int(answer[9:12]), await self.reader.readexactly(int(fields[0][15:]) if fields else 0)

    async def _chunks(self) -> bytes:
        """What comes in parts is looked at and let go: it may be large. Returns the last of it."""
        part = last = b""
        while size := int(await self.reader.readuntil(b"\r\n"), 16):
            last, part = part, await self.reader.readexactly(size + 2)
        await self.reader.readexactly(2)
        return last + part

    async def post(self, path: str, body: Any) -> tuple[int, bytes]:
        """The same with data."""
        return await self.ask("POST", path, json.dumps(body).encode())

    async def begin(self) -> None:
        """Enter an inspection of 12 circuits."""
        changes = _changes(self.inspection, self.firm)
        self.circuits = [c["entity_id"] for c in changes if c["entity"] == "circuit" and c["field"] == "board"]
        status, data = await self.post(f"/api/inspections/{self.inspection}/changes", {"changes": changes})
        assert status == 200, data
        self.seq = json.loads(data)["seq"]

    async def change(self, value: str) -> None:
        """Type a reading, as a device does that says of which state its judgement is."""
        began = time.perf_counter()
        change = _change("circuit", random.choice(self.circuits), "zs_ohm", value, self.seq)
        body = {"changes": [change], "judged": self.seq}
        status, data = await self.post(f"/api/inspections/{self.inspection}/changes", body)
        self.waits.append(time.perf_counter() - began)
        self.bytes += len(data)
        if status == 200:
            self.seq += 1
        else:
            self.failed += 1

    async def type(self, until: float, start: float, counted_from: float = 0.0) -> None:
        """Type once a second over one connection. What is answered before `counted_from` is not counted."""
        await self.open()
        await asyncio.sleep(start)
        n = 0
        while (began := time.perf_counter()) < until:
            n += 1
            await self.change(f"0.{30 + n % 60}")
            if began < counted_from:
                self.waits.clear()
                self.bytes = 0
            await asyncio.sleep(max(0.0, 1.0 - (time.perf_counter() - began)))
        self.writer.close()


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


def _answers() -> bool:
    try:
        line = http.client.HTTPConnection("127.0.0.1", PORT, timeout=1)
        line.request("GET", "/api/health")
        return line.getresponse().status == 200
    except OSError:
        return False


def photos(count: int) -> Iterator[bytes]:
    """Photos of 12 million px, none like another."""
    image = Image.effect_noise((1000, 750), 24).convert("RGB").resize((4000, 3000))
    for number in range(count):
        image.paste((number % 256, number // 256, 0), (0, 0, 64, 64))
        out = io.BytesIO()
        image.save(out, "JPEG", quality=60)
        yield out.getvalue()


class Served:
    """What runs while a crowd is measured: the server's process, and its devices."""

    def __init__(self, process: "subprocess.Popen[bytes]", devices: list[Device], url: str) -> None:
        self.process, self.devices, self.url = process, devices, url

    def memory_mb(self) -> tuple[float, float]:
        """Memory of the server's processes, and of its typesetters, which come and go; shared pages count once."""
        held = {False: 0, True: 0}
        for pid in _tree(self.process.pid):
            held[_typesets(pid)] += _memory(pid)
        return held[False] / 1e6, held[True] / 1e6


def _memory(pid: int) -> int:
    with contextlib.suppress(OSError):
        for line in Path(f"/proc/{pid}/smaps_rollup").read_text().splitlines():
            if line.startswith("Pss:"):
                return int(line.split()[1]) * 1024
    return 0


def _typesets(pid: int) -> bool:
    with contextlib.suppress(OSError):
        return b"dorrik.report.typesetter" in Path(f"/proc/{pid}/cmdline").read_bytes()
    return False


def _tree(root: int) -> list[int]:
    processes = [root]
    for pid in processes:
        with contextlib.suppress(OSError):
            for task in Path(f"/proc/{pid}/task").iterdir():
                processes += [int(child) for child in (task / "children").read_text().split()]
    return processes


@contextlib.contextmanager
def served(count: int, workers: int) -> Iterator[Served]:
    """A server with so many processes, and so many people of one firm with a device each and an inspection begun; the
    first of them is its supervisor."""
    with tempfile.TemporaryDirectory() as folder, PrivateMariaDB(Path(folder) / "db") as server:
        migrate.upgrade(server.url)
        engine = make_engine(server.url)
        cheap = PasswordHasher(time_cost=1, memory_cost=8, parallelism=1).hash(PASSWORD)
        emails = [f"load{n}@test.example" for n in range(count)]
        with engine.begin() as connection:
            firm = people.add_firm(connection, "Load", "", "")
            for n, email in enumerate(emails):
                people.add_person(connection, firm, f"Person {n}", email, "inspector" if n else "supervisor", cheap)
        engine.dispose()
        given = {
            "DORRIK_DATABASE_URL": server.url, "DORRIK_PHOTOS": f"{folder}/photos", "DORRIK_DRAFTS": f"{folder}/drafts",
        }  # fmt: skip
        command = [sys.executable, "-m", "dorrik", "serve", "--port", str(PORT), "--workers", str(workers)]
        process = subprocess.Popen(command, env=os.environ | given, stdout=subprocess.DEVNULL)
        try:
            end = time.monotonic() + 60
            while not _answers() and time.monotonic() < end:
                time.sleep(0.1)
            devices = _signed_in(emails, firm)
            asyncio.run(_begin(devices))
            yield Served(process, devices, server.url)
        finally:
            process.terminate()
            process.wait(30)


async def _begin(devices: list[Device]) -> None:
    for device in devices:
        await device.open()
        await device.begin()
        device.writer.close()
