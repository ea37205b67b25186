"""An hour of 25 devices: each types once a second, sends a photo a minute, looks at home twice a minute and has its
draft set every ten minutes. What the server holds in memory, all its processes together, is told every five minutes,
and apart from it what its typesetters hold, which end when nothing is asked of them. Aim: at the end within 10 % of
what it was once everything had been used. HOUR_MINUTES changes how long it is.
"""

import asyncio
import hashlib
import os
import random
import statistics
import time

from benchmarks import machine
from benchmarks.crowd import Device, Served, photos, served

MINUTES = float(os.environ.get("HOUR_MINUTES", "60"))
DEVICES = 25
#: How often what is done (s); by when everything has been done by everybody (s).
PHOTO_S, HOME_S, DRAFT_S, WARM_S = 60.0, 30.0, 600.0, 600.0
TOLD_S = 300.0
MOMENTS = 8


class _Pictures:
    """Photos, each another one, made as they are sent: what nobody has sent yet is decoded."""

    def __init__(self) -> None:
        self._made = photos(60_000)
        self._turn = asyncio.Lock()

    async def next(self) -> bytes:
        """One more."""
        async with self._turn:
            return await asyncio.to_thread(next, self._made)


async def _every(device: Device, seconds: float, until: float, path: str, pictures: _Pictures | None = None) -> None:
    """Ask for that, or send a photo there, every so often."""
    await asyncio.sleep(random.random() * min(seconds, WARM_S * 0.8, MINUTES * 30))
    while time.perf_counter() < until:
        # Opened anew: the server closes what is idle for long.
        line = Device(device.cookie, device.firm)
        await line.open()
        if pictures is None:
            status, body = await line.ask("GET", path)
        else:
            content = await pictures.next()
            digest = hashlib.sha256(content).hexdigest()
            status, body = await line.ask("PUT", f"{path}/{digest}", content, "application/octet-stream")
        # 503: the machine had too much else to do, and the device tries again.
        assert status in (200, 204, 503), body
        line.writer.close()
        await asyncio.sleep(max(0.0, min(seconds, until - time.perf_counter())))


async def _told(crowd: Served, until: float, held: list[tuple[float, float]]) -> None:
    began = time.perf_counter()
    while time.perf_counter() < until:
        await asyncio.sleep(min(TOLD_S, max(1.0, until - time.perf_counter())))
        # A photo that is being decoded takes its hundred megabytes and gives them back: the least of some moments is
        # what is held.
        moments = []
        for _ in range(MOMENTS):
            moments.append(crowd.memory_mb())
            await asyncio.sleep(min(1.0, max(0.0, until - time.perf_counter())))
        server, typesetters = min(moments)
        held.append((time.perf_counter() - began, server))
        minutes = held[-1][0] / 60
        print(
            f"hour                after {minutes:4.0f} min: {server:.0f} MB, typesetters {typesetters:.0f}", flush=True
        )


async def _hour(crowd: Served, held: list[tuple[float, float]]) -> None:
    until = time.perf_counter() + MINUTES * 60
    pictures = _Pictures()
    work = []
    for device in crowd.devices:
        of = f"/api/inspections/{device.inspection}"
        work += [
            device.type(until, random.random()),
            _every(device, PHOTO_S, until, f"{of}/photos", pictures),
            _every(device, HOME_S, until, "/api/home"),
            _every(device, DRAFT_S, until, f"{of}/preview"),
        ]
    await asyncio.gather(*work, _told(crowd, until, held))


def run() -> None:
    """Print what is held every five minutes, and what became of it."""
    print(machine.in_words())
    held: list[tuple[float, float]] = []
    with served(DEVICES, os.cpu_count() or 1) as crowd:
        asyncio.run(_hour(crowd, held))
        waits = sorted(wait * 1e3 for device in crowd.devices for wait in device.waits)
        failed = sum(device.failed for device in crowd.devices)
    warm = [memory for at, memory in held if at >= WARM_S] or [held[-1][1]]
    cut = statistics.quantiles(waits, n=100)
    print(
        f"hour                {len(waits)} changes, {failed} failed, median {cut[49]:.0f} ms, 95 of 100 within "
        f"{cut[94]:.0f} ms; {warm[0]:.0f} MB once warm, {warm[-1]:.0f} MB at the end ({warm[-1] / warm[0] - 1:+.0%})"
    )
