"""What ten inspectors wait for while one person does what costs most, at the limit of what they may: drafts of 1,500
observations, photos sent to be decoded, everything of the firm taken along.

Each of the ten types once a second and looks at the home screen every other second. Aim: within twice of what they wait
for when nobody does any of it. BESIDE_SECONDS changes how long each is measured.
"""

import asyncio
import hashlib
import json
import os
import random
import statistics
import time
from collections.abc import Awaitable, Callable

from benchmarks import machine
from benchmarks.crowd import Device, photos, served
from benchmarks.round_trip import _change
from dorrik.store.database.engine import new_id

SECONDS = float(os.environ.get("BESIDE_SECONDS", "20"))
OTHERS, OBSERVATIONS, PINNED, SENT = 10, 1_500, 100, 250
WORDS = "The plate at the skirting is cracked and a finger reaches the line terminal. " * 6
#: Photos that have not been sent yet, and whose data are taken along.
to_send: list[bytes] = []
client = ""
Heavy = Callable[[Device], Awaitable[int]]


class Person(Device):
    """Somebody else, who types and looks at home."""

    homes: list[float]

    async def look(self, until: float) -> None:
        """Look at the home screen every other second, over a connection of its own."""
        line = Device(self.cookie, self.firm)
        await line.open()
        await asyncio.sleep(random.random() * 2)
        while (began := time.perf_counter()) < until:
            status, _ = await line.ask("GET", "/api/home")
            assert status == 200
            self.homes.append(time.perf_counter() - began)
            await asyncio.sleep(max(0.0, 2.0 - (time.perf_counter() - began)))
        line.writer.close()


async def _fill(device: Device) -> None:
    """An inspection with as many observations and pinned photos as nobody has."""
    ids = [new_id() for _ in range(OBSERVATIONS)]
    changes = []
    for one in ids:
        changes += [_change("observation", one, "inspection", device.inspection)]
        changes += [_change("observation", one, "text", WORDS), _change("observation", one, "code", "C2")]
    for content, one in zip(photos(PINNED), ids[:PINNED], strict=True):
        digest = hashlib.sha256(content).hexdigest()
        path = f"/api/inspections/{device.inspection}/photos/{digest}"
        status, answer = await device.ask("PUT", path, content, "application/octet-stream")
        assert status == 204, answer
        photo = new_id()
        changes += [_change("photo", photo, "inspection", device.inspection)]
        changes += [_change("photo", photo, name, value) for name, value in
                    (("sha256", digest), ("about_id", one), ("about_entity", "observation"))]  # fmt: skip
    for at in range(0, len(changes), 500):
        body = {"changes": changes[at : at + 500]}
        status, answer = await device.post(f"/api/inspections/{device.inspection}/changes", body)
        assert status == 200, answer


async def _draft(line: Device) -> int:
    status, body = await line.ask("GET", f"/api/inspections/{line.inspection}/preview")
    if status == 200:
        draft = json.loads(body)
        await line.ask("GET", f"/api/inspections/{line.inspection}/drafts/{draft['draft']}/{len(draft['pages'])}")
    return status


async def _decode(line: Device) -> int:
    content = to_send.pop()
    path = f"/api/inspections/{line.inspection}/photos/{hashlib.sha256(content).hexdigest()}"
    return (await line.ask("PUT", path, content, "application/octet-stream"))[0]


async def _export(line: Device) -> int:
    return (await line.ask("GET", f"/api/clients/{client}/export.zip"))[0]


async def _of_a_client(device: Device) -> str:
    """The inspection belongs to a client of the register; returns the client's id."""
    _, body = await device.post("/api/register/client", {"parent_id": device.firm, "values": {"name": "Kelder Homes"}})
    owner: str = json.loads(body)["id"]
    home = {"parent_id": owner, "values": {"address": "3 Lookout Row"}}
    _, body = await device.post("/api/register/property", home)
    change = _change("inspection", device.inspection, "property_id", json.loads(body)["id"])
    status, body = await device.post(f"/api/inspections/{device.inspection}/changes", {"changes": [change]})
    assert status == 200, body
    return owner


async def _keep_at(device: Device, heavy: Heavy, until: float, counts: dict[int, int]) -> None:
    line = Device(device.cookie, device.firm)
    line.inspection = device.inspection
    await line.open()
    while time.perf_counter() < until:
        status = await heavy(line)
        counts[status] = counts.get(status, 0) + 1
        if status == 429:
            await asyncio.sleep(0.5)
    line.writer.close()


async def _measured(people: list[Person], device: Device, heavy: Heavy | None, at_once: int) -> dict[int, int]:
    until = time.perf_counter() + SECONDS
    counts: dict[int, int] = {}
    for person in people:
        person.waits, person.homes, person.failed = [], [], 0
    work = [_keep_at(device, heavy, until, counts) for _ in range(at_once)] if heavy else []
    others = asyncio.gather(
        *(person.type(until, random.random()) for person in people), *(person.look(until) for person in people)
    )
    # What is still being done of the heavy work when the time is over is nobody's wait.
    running = [asyncio.ensure_future(one) for one in work]
    await others
    await asyncio.wait(running, timeout=90) if running else None
    return counts


def run() -> None:
    """Print a line for each kind of heavy work, and one for none."""
    with served(OTHERS + 1, os.cpu_count() or 1) as crowd:
        heavy_one, *rest = crowd.devices
        people = []
        for device in rest:
            one = Person(device.cookie, device.firm)
            one.inspection, one.circuits, one.seq, one.homes = device.inspection, device.circuits, device.seq, []
            people.append(one)
        asyncio.run(_prepare(heavy_one))
        kinds: list[tuple[str, Heavy | None, int]] = [
            ("nothing", None, 0), ("drafts, 4 at once", _draft, 4), ("photos, 8 at once", _decode, 8),
            ("exports, 4 at once", _export, 4), ("nothing again", None, 0), ("nothing, a third time", None, 0),
        ]  # fmt: skip
        for name, heavy, at_once in kinds:
            speed = machine.loop_ms()
            counts = asyncio.run(_measured(people, heavy_one, heavy, at_once))
            waits = [w * 1e3 for person in people for w in person.waits]
            homes = [w * 1e3 for person in people for w in person.homes]
            print(
                f"beside {name:20} change {_told(waits)}, home {_told(homes)}, done {counts}, "
                f"{sum(person.failed for person in people)} failed, server {sum(crowd.memory_mb()):.0f} MB, "
                f"loop {speed:.0f} ms",
                flush=True,
            )


async def _prepare(device: Device) -> None:
    await device.open()
    global client
    await _fill(device)
    client = await _of_a_client(device)
    to_send.extend(photos(SENT))
    device.writer.close()


def _told(waits: list[float]) -> str:
    cut = statistics.quantiles(waits, n=20)
    return f"{cut[9]:.0f} ms (95 of 100 within {cut[18]:.0f}, longest {max(waits):.0f})"
