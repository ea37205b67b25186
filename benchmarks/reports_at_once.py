"""Ten people have their report's draft set at the same moment, on two server processes, while twenty others type once a
second: until when each has theirs, and what the twenty wait for meanwhile and without it."""

import asyncio
import json
import random
import statistics
import time

from benchmarks import machine
from benchmarks.crowd import Device, served
from benchmarks.round_trip import _change
from dorrik.store.database.engine import new_id

DRAFTS, TYPING, WORKERS = 10, 20, 2
ALONE_S = 15.0


async def _observed(device: Device) -> None:
    """Some observations, as a report has them."""
    await device.open()
    changes = []
    for n in range(6):
        one = new_id()
        changes += [_change("observation", one, "inspection", device.inspection)]
        changes += [_change("observation", one, "text", f"Something that was found, number {n}")]
        changes += [_change("observation", one, "code", ("C2", "C3", "FI")[n % 3])]
    status, body = await device.post(f"/api/inspections/{device.inspection}/changes", {"changes": changes})
    assert status == 200, body
    device.writer.close()


async def _draft(device: Device) -> float:
    """How long until a draft is set and its first page there (s); asked for again while it is not one's turn."""
    await device.open()
    began = time.perf_counter()
    while True:
        status, body = await device.ask("GET", f"/api/inspections/{device.inspection}/preview")
        if status == 200:
            break
        assert status in (429, 503), body
        await asyncio.sleep(0.3)
    path = f"/api/inspections/{device.inspection}/drafts/{json.loads(body)['draft']}/1"
    assert (await device.ask("GET", path))[0] == 200
    device.writer.close()
    return time.perf_counter() - began


async def _type(people: list[Device], seconds: float) -> list[float]:
    for device in people:
        device.waits, device.failed = [], 0
    until = time.perf_counter() + seconds
    await asyncio.gather(*(device.type(until, random.random()) for device in people))
    return [wait * 1e3 for device in people for wait in device.waits]


async def _beside(people: list[Device], others: list[Device]) -> tuple[list[float], list[float]]:
    typing = asyncio.ensure_future(_type(people, ALONE_S))
    await asyncio.sleep(1.5)
    done = await asyncio.gather(*(_draft(device) for device in others))
    return list(done), await typing


async def _prepare(others: list[Device]) -> None:
    for device in others:
        await _observed(device)


def run() -> None:
    """Print a line for typing alone, and one beside ten drafts."""
    with served(TYPING + DRAFTS, WORKERS) as crowd:
        people, others = crowd.devices[:TYPING], crowd.devices[TYPING:]
        asyncio.run(_prepare(others))
        alone = asyncio.run(_type(people, ALONE_S))
        done, waits = asyncio.run(_beside(people, others))
        print(f"{TYPING} who type, {WORKERS} processes, loop {machine.loop_ms():.0f} ms")
        print(f"  alone: change {_told(alone)}")
        print(f"  beside {DRAFTS} drafts: change {_told(waits)}, {sum(device.failed for device in people)} failed")
        print(f"  drafts: the first after {min(done):.2f} s, the last after {max(done):.2f} s; ", end="")
        print(f"server {sum(crowd.memory_mb()):.0f} MB", flush=True)


def _told(waits: list[float]) -> str:
    cut = statistics.quantiles(waits, n=20)
    return f"{cut[9]:.0f} ms (95 of 100 within {cut[18]:.0f}, longest {max(waits):.0f})"
