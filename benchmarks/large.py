"""A change in an inspection as large as there can be (4,900 circuits): how long, and how many bytes the answer has."""

import json
import statistics
import tempfile
import time
from pathlib import Path
from typing import Any

from starlette.testclient import TestClient

from benchmarks.round_trip import _change
from dorrik.api.app import create_app
from dorrik.store.database import migrate
from dorrik.store.database.engine import make_engine, new_id
from dorrik.store.database.mariadb import PrivateMariaDB
from dorrik.store.people import people, sessions

BOARDS, WAYS = 49, 100


def run() -> None:
    """Print the median of ten changes."""
    with tempfile.TemporaryDirectory() as folder, PrivateMariaDB(Path(folder) / "db") as server:
        migrate.upgrade(server.url)
        engine = make_engine(server.url)
        with engine.begin() as connection:
            firm = people.add_firm(connection, "Large", "", "")
            person = people.add_person(connection, firm, "L", "large@test.example", "inspector", "x")
            token = sessions.open_one(connection, person, "", "")
        client = TestClient(create_app(engine), cookies={"dorrik_session": token})
        inspection = new_id()
        seq = 0

        def send(changes: list[dict[str, Any]], judged: int | None = None) -> tuple[float, int]:
            nonlocal seq
            began = time.perf_counter()
            body = {"changes": changes, "judged": judged}
            answer = client.post(f"/api/inspections/{inspection}/changes", json=body)
            taken = time.perf_counter() - began
            seq = json.loads(answer.content)["seq"]
            return taken, len(answer.content)

        changes = [_change("inspection", inspection, "firm", firm)]
        circuits = []
        for _ in range(BOARDS):
            board = new_id()
            changes.append(_change("board", board, "inspection", inspection))
            for _ in range(WAYS):
                circuits.append(new_id())
                changes.append(_change("circuit", circuits[-1], "board", board))
                changes.append(_change("circuit", circuits[-1], "form", "radial"))
                changes.append(_change("circuit", circuits[-1], "device_rating_a", 16))
        for start in range(0, len(changes), 500):
            send(changes[start : start + 500])
        times_ms = [send([_change("circuit", circuits[n * 7], "zs_ohm", f"0.{30 + n}", seq)], seq) for n in range(10)]
        times, sizes = zip(*times_ms, strict=True)
        print(
            f"large               {len(circuits)} circuits: a change takes {statistics.median(times) * 1000:.0f} ms "
            f"and answers {statistics.median(sizes) / 1000:.1f} kB"
        )
