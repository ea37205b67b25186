"""A disk that is full while people type, in a place of its own: nothing acknowledged is lost, and writes are accepted
within five seconds once there is room."""

import os
import subprocess
import sys
import time
from pathlib import Path

import httpx

from benchmarks.round_trip import _change, _changes
from dorrik.store.database.engine import make_engine, new_id
from dorrik.store.database.mariadb import PrivateMariaDB
from dorrik.store.people import people, sessions
from tests.serving import free_port

DISK_MB, FULL_S, AIM_S = 400, 15.0, 5.0


def test_writes_are_accepted_soon_after_a_full_disk_has_room(tmp_path):
    """In a mount namespace of its own, where nobody else sees the small disk (it needs root)."""
    command = ["unshare", "--mount", sys.executable, "-m", "fuzz.test_full_disk", str(tmp_path)]
    done = subprocess.run(command, capture_output=True, text=True, timeout=240, check=False)
    assert done.returncode == 0, done.stdout + done.stderr[-3000:]
    print(done.stdout)


def _fill(path: Path) -> None:
    with path.open("wb", buffering=0) as out:
        for size in (1 << 16, 512):
            try:
                while True:
                    out.write(os.urandom(size))
            except OSError:
                continue


def _served(home: Path, port: int) -> "subprocess.Popen[bytes]":
    given = {"DORRIK_HOME": str(home), "DORRIK_LITTLE_ROOM": "1"}
    command = [sys.executable, "-m", "dorrik", "serve", "--port", str(port), "--workers", "2"]
    return subprocess.Popen(command, env=os.environ | given, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)


def _ready(base: str) -> None:
    end = time.monotonic() + 90
    while time.monotonic() < end:
        try:
            if httpx.get(f"{base}/api/ready").status_code == 200:
                return
        except httpx.HTTPError:
            pass
        time.sleep(0.1)
    raise AssertionError("The server was not ready.")


def main(home: Path) -> None:
    """Fill the disk, type, make room, and see how long it takes and what is there."""
    subprocess.run(["mount", "-t", "tmpfs", "-o", f"size={DISK_MB}m", "tmpfs", str(home)], check=True)
    port = free_port()
    base = f"http://127.0.0.1:{port}"
    process = _served(home, port)
    try:
        _ready(base)
        server = PrivateMariaDB(home / "mariadb")
        server.port = int((home / "mariadb" / "port").read_text())
        engine = make_engine(server.url)
        with engine.begin() as connection:
            firm = people.add_firm(connection, "Firm", "", "")
            person = people.add_person(connection, firm, "I", "i@test.example", "inspector", "x")
            token = sessions.open_one(connection, person, "", "")
        http = httpx.Client(base_url=base, cookies={"dorrik_session": token}, timeout=60)
        inspection = new_id()
        path = f"/api/inspections/{inspection}/changes"
        first = _changes(inspection, firm)
        assert http.post(path, json={"changes": first}).status_code == 200
        circuits = sorted({c["entity_id"] for c in first if c["entity"] == "circuit"})
        _fill(home / "fill")
        statuses, kept, number = set(), {}, 10
        end = time.monotonic() + FULL_S
        while time.monotonic() < end:
            number += 1
            changes = [_change("circuit", circuit, "zs_ohm", f"0.{number}") for circuit in circuits]
            status = http.post(path, json={"changes": changes}).status_code
            statuses.add(status)
            if status == 200:
                kept = dict.fromkeys(circuits, f"0.{number}")
            assert http.get("/api/health").status_code == 200
            time.sleep(0.05)
        # Refused in words, never broken off: 507 while the database lives, 503 where it died of it.
        assert statuses & {503, 507} and statuses <= {200, 503, 507}, statuses
        (home / "fill").unlink()
        began = time.monotonic()
        change = {"changes": [_change("inspection", inspection, "condition", "dry")]}
        while (status := http.post(path, json=change).status_code) != 200:
            assert time.monotonic() - began < 90, status
            time.sleep(0.1)
        taken = time.monotonic() - began
        held = {e["id"]: e["values"] for e in http.get(f"/api/inspections/{inspection}").json()["entities"]}
        lost = [circuit for circuit, value in kept.items() if float(held[circuit]["zs_ohm"]) < float(value)]
        print(f"full disk: {sorted(statuses)} meanwhile, written {taken:.1f} s after there was room, {len(lost)} lost")
        assert not lost and taken < AIM_S
    finally:
        process.terminate()
        process.wait(60)


if __name__ == "__main__":
    main(Path(sys.argv[1]))
