"""A whole instrument for Dorrik in fifty lines: type `continuity 0.45`, and the figure in focus shows it.

pip install websockets && python instrument.py [port]
"""

import asyncio
import json
import secrets
import sys
import uuid
from datetime import UTC, datetime

from websockets.asyncio.server import ServerConnection, broadcast, serve
from websockets.exceptions import ConnectionClosed

UNITS = {"continuity": "Ω", "insulation": "MΩ", "loop": "Ω", "fault-current": "kA", "rcd": "ms", "voltage": "V"}
INSTRUMENT = {"name": "Example instrument", "serial": "EX-1", "kind": "multifunction"}
CODE, TOKEN = f"{secrets.randbelow(1_000_000):06d}", secrets.token_urlsafe(24)
paired: set[ServerConnection] = set()


async def listener(tablet: ServerConnection) -> None:
    """A tablet: let it in if it knows the code or the token, then hear which figure waits there."""
    first = json.loads(await tablet.recv())
    if first.get("code") != CODE and first.get("token") != TOKEN:
        await tablet.send(json.dumps({"type": "refused", "says": "Not the code on the screen."}))
        return await asyncio.sleep(1)  # whoever guesses waits
    await tablet.send(json.dumps({"type": "paired", "version": 1, "token": TOKEN, "instrument": INSTRUMENT}))
    paired.add(tablet)
    try:
        async for message in tablet:
            print("waits:", json.loads(message).get("says") or "no figure is in focus", flush=True)
    except ConnectionClosed:
        pass
    finally:
        paired.discard(tablet)


async def main(port: int) -> None:
    """Serve on this device alone; a line typed here is what the display shows."""
    async with serve(listener, "127.0.0.1", port, max_size=4096) as server:
        print(f"ws://127.0.0.1:{server.sockets[0].getsockname()[1]} code {CODE}", flush=True)
        typing = asyncio.create_task(asyncio.to_thread(sys.stdin.readline))
        while not typing.done() or typing.result():
            await asyncio.wait({typing}, timeout=2)
            broadcast(paired, json.dumps({"type": "alive"}))
            if typing.done():
                function, _, value = typing.result().strip().partition(" ")
                at = datetime.now(UTC).isoformat()
                reading = {"type": "reading", "id": str(uuid.uuid4()), "function": function, "at": at}
                broadcast(paired, json.dumps(reading | {"value": value, "unit": UNITS.get(function, "")}))
                typing = asyncio.create_task(asyncio.to_thread(sys.stdin.readline))


asyncio.run(main(int(sys.argv[1]) if len(sys.argv) > 1 else 8787))
