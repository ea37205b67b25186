"""Sixty photos at once from two devices, while a third goes on typing: none is lost, and nobody waits for them."""

import hashlib
import io
import random
import threading
import time
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import httpx
import pytest
from PIL import Image

from dorrik.store.database.engine import new_id
from dorrik.store.database.mariadb import PrivateMariaDB
from tests.api.test_kill import database, stream
from tests.conftest import PASSWORD
from tests.pictures import opened
from tests.serving import Server, free_port

__all__ = ["database"]
PHOTOS, AT_ONCE = 60, 12
#: What the server itself may hold meanwhile (kB): photos are decoded in processes of their own.
MEMORY_KB = 900_000


@pytest.fixture
def server(database: PrivateMariaDB) -> Iterator[Server]:
    server = Server(database.url, free_port())
    yield server
    server.kill()


def grainy(seed: int) -> bytes:
    """A picture of some 3 MB that no two have alike, as a camera's grain makes them."""
    noise = random.Random(seed).randbytes(2000 * 1500 * 3)
    out = io.BytesIO()
    Image.frombytes("RGB", (2000, 1500), noise).save(out, "JPEG", quality=82)
    return out.getvalue()


def peak_kb(process_id: int) -> int:
    lines = Path(f"/proc/{process_id}/status").read_text().splitlines()
    return next(int(line.split()[1]) for line in lines if line.startswith("VmHWM"))


def test_sixty_photos_at_once(server: Server) -> None:
    inspection = new_id()
    acknowledged: list[tuple[str, int]] = []
    stop = threading.Event()
    typing = threading.Thread(target=stream, args=(server.base, acknowledged, stop, inspection), daemon=True)
    typing.start()
    http = httpx.Client(base_url=server.base, timeout=120)
    assert http.post("/api/session", json={"email": "ines@test.example", "password": PASSWORD}).status_code == 200
    while not acknowledged:
        time.sleep(0.05)
    photos = {hashlib.sha256(content).hexdigest(): content for content in map(grainy, range(PHOTOS))}
    at = f"/api/inspections/{inspection}/photos"

    def send(sha256: str) -> None:
        """As a device does: what is turned away for now is sent again a moment later."""
        while (answer := http.put(f"{at}/{sha256}", content=photos[sha256])).status_code in (429, 503):
            time.sleep(0.5)
        assert answer.status_code == 204, answer.text

    began, typed = time.monotonic(), len(acknowledged)
    with ThreadPoolExecutor(AT_ONCE) as devices:
        list(devices.map(send, photos))
    took, typed = time.monotonic() - began, len(acknowledged) - typed
    stop.set()
    typing.join(20)
    for sha256, content in photos.items():
        assert http.get(f"{at}/{sha256}").content == content
        assert opened(http.get(f"{at}/{sha256}?size=small").content).size == (320, 240)
    # Whoever types is answered meanwhile, several times a second.
    assert typed > 3 * took, (typed, took)
    assert peak_kb(server.process.pid) < MEMORY_KB
    print(f"{PHOTOS} photos kept in {took:.1f} s, {typed} entries meanwhile, {peak_kb(server.process.pid) // 1024} MB")
