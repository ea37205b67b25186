"""A portfolio of 20,000 properties (PORTFOLIO): taken in from a table, a page of it, a search in it, and its map."""

import io
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

PROPERTIES = int(os.environ.get("PORTFOLIO", "20000"))


def table(count: int) -> bytes:
    """A portfolio as a landlord's program writes it."""
    random, out = Random(7), io.StringIO()
    out.write("UPRN;Property address;Town;Nation;Tenant;Next due;Lat;Long\n")
    for number in range(count):
        due = date(2026, 12, 1) + timedelta(days=random.randrange(-30, 1800))
        out.write(
            f"U{number:06d};{number % 180 + 1} {_STREETS[number // 180 % 40]} {number // 7200 + 1};Kelder Haven;"
            f"England;Tenant {number};{due:%d/%m/%Y};{50.3 + random.random() / 2:.5f};{-5.1 + random.random():.5f}\n"
        )
    return out.getvalue().encode()


_STREETS = [f"{name} {kind}" for name in ("Lookout", "Capstan", "Anchor", "Beacon", "Slip", "Quay", "Mole", "Net")
            for kind in ("Row", "Lane", "Steps", "Road", "Yard")]  # fmt: skip


def _median_ms(do: Callable[[], Any], times: int = 9) -> float:
    taken = []
    for _ in range(times):
        began = time.perf_counter()
        do()
        taken.append(time.perf_counter() - began)
    return statistics.median(taken) * 1000


def run() -> None:
    """Print how long each takes, and what comes over the wire."""
    with tempfile.TemporaryDirectory() as folder, PrivateMariaDB(Path(folder) / "db") as server:
        migrate.upgrade(server.url)
        engine = make_engine(server.url)
        with engine.begin() as connection:
            firm = people.add_firm(connection, "Portfolio", "", "")
            person = people.add_person(connection, firm, "P", "portfolio@test.example", "office", "x")
            token = sessions.open_one(connection, person, "", "")
        http = TestClient(create_app(engine), cookies={"dorrik_session": token})
        client = http.post("/api/register/client", json={"parent_id": firm, "values": {"name": "Trust"}}).json()["id"]
        content, path = table(PROPERTIES), f"/api/portfolio/{client}/table"
        for taking in ("nothing", "new", "all"):
            began = time.perf_counter()
            answer = http.post(path, params={"taking": taking}, content=content)
            assert answer.status_code == 200, answer.text
            body = answer.json()
            print(
                f"portfolio           table of {PROPERTIES:,}, taking {taking}: {time.perf_counter() - began:.1f} s; "
                f"{body['added']:,} added, {body['known']:,} known, {body['mistake_rows']} rows with mistakes"
            )
        for name, where in (
            ("a page", "/api/portfolio"),
            ("a page of what is due, searched", "/api/portfolio?states=due&text=capstan&order=due"),
            ("the map", "/api/portfolio/map"),
        ):
            size = len(http.get(where).content)
            print(f"portfolio           {name}: {_median_ms(partial(http.get, where)):.0f} ms, {size / 1000:.0f} kB")
