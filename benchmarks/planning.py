"""Planning over the wire as an office does it, with 500 visits (PLANNING): planned, replanned after a cancellation,
moved by hand, and the page of the planner."""

import os
import statistics
import tempfile
import time
from collections.abc import Callable
from datetime import date, timedelta
from functools import partial
from pathlib import Path
from random import Random
from typing import Any

from starlette.testclient import TestClient

from dorrik.api.app import create_app
from dorrik.store.database import migrate
from dorrik.store.database.engine import make_engine
from dorrik.store.database.mariadb import PrivateMariaDB
from dorrik.store.people import people, sessions

VISITS = int(os.environ.get("PLANNING", "500"))


def _run(http: TestClient) -> tuple[float, str]:
    """Plan, and wait for it: how long it took (s), and what came of it."""
    began = time.perf_counter()
    answer = http.post("/api/planner/runs", json={})
    assert answer.status_code == 201, answer.text
    while (run := http.get("/api/planner/runs/latest").json())["state"] == "running":
        time.sleep(0.05)
    return time.perf_counter() - began, run["told"]


def _median_ms(do: Callable[[], Any], times: int = 7) -> float:
    taken = []
    for _ in range(times):
        began = time.perf_counter()
        do()
        taken.append(time.perf_counter() - began)
    return statistics.median(taken) * 1000


def run() -> None:
    """Print how long each takes."""
    random = Random(11)
    with tempfile.TemporaryDirectory() as folder, PrivateMariaDB(Path(folder) / "db") as server:
        migrate.upgrade(server.url)
        engine = make_engine(server.url)
        with engine.begin() as connection:
            firm = people.add_firm(connection, "Planning", "", "")
            person = people.add_person(connection, firm, "P", "planning@test.example", "office", "x")
            token = sessions.open_one(connection, person, "", "")
        http = TestClient(create_app(engine), cookies={"dorrik_session": token})

        def add(kind: str, parent: str, **values: Any) -> str:
            answer = http.post(f"/api/register/{kind}", json={"parent_id": parent, "values": values})
            assert answer.status_code == 201, answer.text
            return str(answer.json()["id"])

        for at in range(max(4, VISITS // 80)):
            place = {"latitude": 50.3 + at / 40, "longitude": -4.7}
            add("working_week", firm, name=f"Inspector {at + 1}", starts_at="08:00", ends_at="17:30", **place)
        client = add("client", firm, name="Trust")
        jobs = []
        for at in range(VISITS):
            home = add(
                "property", client, address=f"{at + 1} Long Row", nation="England",
                latitude=50.3 + random.random() / 4, longitude=-4.8 + random.random() / 3,
                due_on=(date.today() + timedelta(days=70 + random.randrange(40))).isoformat(),
            )  # fmt: skip
            if at % 6 == 0:
                add("access_window", home, access="possible", weekday="Thursday")
            jobs.append(
                add("job", home, number=f"J-{at:05d}", state="confirmed", visit_min=random.choice((150, 195, 220)))
            )
        seconds, outcome = _run(http)
        print(f"planning            {VISITS} visits planned over the wire: {seconds:.1f} s. {outcome}")
        answer = http.patch(f"/api/register/job/{jobs[7]}", json={"values": {"removed": True}})
        assert answer.status_code == 200
        seconds, outcome = _run(http)
        print(f"planning            replanned after a cancellation: {seconds:.1f} s. {outcome}")
        size = len(http.get("/api/planner").content)
        print(f"planning            page: {_median_ms(partial(http.get, '/api/planner')):.0f} ms, {size / 1000:.0f} kB")
        visit = next(one for one in http.get("/api/planner").json()["visits"] if one["day"])
        times = http.get(f"/api/visits/{visit['id']}/times").json()
        began = time.perf_counter()
        to = {key: times[-1][key] for key in ("inspector_id", "day", "begins")}
        answer = http.post(f"/api/planner/visits/{visit['id']}/move", json={**to, "version": visit["version"]})
        print(
            f"planning            moved by hand: {(time.perf_counter() - began) * 1000:.0f} ms ({answer.status_code})"
        )
