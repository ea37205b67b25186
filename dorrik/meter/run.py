"""`python -m dorrik meter`: the bench from the command line."""

import asyncio
import contextlib
import sys
from pathlib import Path
from typing import Any

from dorrik.meter.bench import MeterBench
from dorrik.meter.server import MeterServer
from dorrik.practice import homes
from dorrik.practice.describe import DescriptionError


def run(home: str, host: str, port: int, seed: int) -> int:
    """Serve a home until stopped; returns the exit code."""
    try:
        described = homes.load(home)
        bench = MeterBench(described, described.name or _title(home), seed)
    except (OSError, UnicodeDecodeError, DescriptionError) as error:
        known = ", ".join(homes.names())
        print(f"{home}: {error}\nHomes that come with Dorrik: {known}. Any other is a TOML file.", file=sys.stderr)
        return 2
    with contextlib.suppress(KeyboardInterrupt):
        try:
            asyncio.run(_serve(bench, host, port))
        except OSError as error:
            print(f"Port {port}: {error.strerror}. Take another with --port.", file=sys.stderr)
            return 1
    return 0


def _title(home: str) -> str:
    return Path(home).stem.replace("_", " ").capitalize()


async def _serve(bench: MeterBench, host: str, port: int) -> None:
    server = MeterServer(bench)
    ready: asyncio.Future[int] = asyncio.get_running_loop().create_future()
    serving = asyncio.create_task(server.run(host, port, ready))
    waited: set[asyncio.Future[Any]] = {serving, ready}
    await asyncio.wait(waited, return_when=asyncio.FIRST_COMPLETED)
    if serving.done():
        serving.result()
    print(f"\nBench of {bench.name}: http://{host}:{ready.result()}   pairing code {server.link.code}\n", flush=True)
    await serving
