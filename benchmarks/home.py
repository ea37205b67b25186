"""The home screen of a firm with 30 inspections in hand and 5,000 issued (HOME_ISSUED). Aim: within 60 ms."""

import os
import statistics
import tempfile
import time
from datetime import date, timedelta
from pathlib import Path

from sqlalchemy import insert
from starlette.testclient import TestClient

from benchmarks.round_trip import _changes
from dorrik.api.app import create_app
from dorrik.store.database import migrate
from dorrik.store.database.engine import make_engine, new_id, now
from dorrik.store.database.mariadb import PrivateMariaDB
from dorrik.store.database.tables import inspection
from dorrik.store.people import people, sessions

ISSUED = int(os.environ.get("HOME_ISSUED", "5000"))


def run() -> None:
    """Print the median of 50."""
    with tempfile.TemporaryDirectory() as folder, PrivateMariaDB(Path(folder) / "db") as server:
        migrate.upgrade(server.url)
        engine = make_engine(server.url)
        with engine.begin() as connection:
            firm = people.add_firm(connection, "Home", "", "")
            person = people.add_person(connection, firm, "H", "home@test.example", "inspector", "x")
            token = sessions.open_one(connection, person, "", "")
            issued = [
                {
                    "id": new_id(), "firm_id": firm, "seq": 1, "changed_at": now(), "reference": f"K-{n:05d}",
                    "property_address": f"{n} Long Row", "issued_number": 1, "issued_outcome": "satisfactory",
                    "due_on": date(2028, 1, 1) + timedelta(days=n),
                }
                for n in range(ISSUED)
            ]  # fmt: skip
            connection.execute(insert(inspection), issued)
        client = TestClient(create_app(engine), cookies={"dorrik_session": token})
        for _ in range(30):
            one = new_id()
            answer = client.post(f"/api/inspections/{one}/changes", json={"changes": _changes(one, firm)})
            assert answer.status_code == 200, answer.text
        times = []
        for _ in range(50):
            began = time.perf_counter()
            answer = client.get("/api/home")
            times.append(time.perf_counter() - began)
        assert (answer.json()["in_hand_count"], answer.json()["issued_count"]) == (30, ISSUED)
        print(f"home                30 in hand, {ISSUED:,} issued: {statistics.median(times) * 1000:.0f} ms")
