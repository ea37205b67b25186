"""How long a change takes while many inspectors type at once, each on an inspection of 12 circuits and once a second.

The inspectors are simulated on the same machine, over one kept connection each and from an address each, as behind a
proxy: what is measured is what one of them waits for on a machine that is busy with both. Aim: at 100 inspectors 95 of
100 changes within 100 ms on two cores. LOAD_CROWDS, LOAD_SECONDS and LOAD_WORKERS change what is run.
"""

import asyncio
import os
import random
import statistics
import time

from benchmarks import machine
from benchmarks.crowd import Device, served

SECONDS = float(os.environ.get("LOAD_SECONDS", "12"))
CROWDS = tuple(int(n) for n in os.environ.get("LOAD_CROWDS", "10,50,100,200").split(","))
#: So long they type before anything is counted (s).
BEGIN_S = 5.0
WORKERS = int(os.environ.get("LOAD_WORKERS") or os.cpu_count() or 1)


async def _crowd(devices: list[Device]) -> str:
    # Each has typed something before: nobody opens a hundred homes in one second.
    counted_from = time.perf_counter() + BEGIN_S
    until = counted_from + SECONDS
    for device in devices:
        device.waits.clear()
        device.failed = device.bytes = 0
    await asyncio.gather(*(device.type(until, random.random(), counted_from) for device in devices))
    waits = sorted(w * 1000 for device in devices for w in device.waits)
    cut = statistics.quantiles(waits, n=100)
    return (
        f"load                {len(devices):4} inspectors: {len(waits) / SECONDS:6.1f} changes a second, median "
        f"{cut[49]:7.1f} ms, 95 of 100 within {cut[94]:7.1f} ms, longest {waits[-1]:7.1f} ms, "
        f"{sum(d.bytes for d in devices) / len(waits) / 1000:.1f} kB an answer, {sum(d.failed for d in devices)} failed"
    )


def run() -> None:
    """Print a line for each size of the crowd, with the speed of the machine before it."""
    with served(max(CROWDS), WORKERS) as crowd:
        for size in CROWDS:
            print(machine.in_words())
            print(asyncio.run(_crowd(crowd.devices[:size])), flush=True)
