"""A change's round trip against a bare endpoint that does one insert and commit, on the same MariaDB in the same run.

Both are served by uvicorn in processes of their own and asked in turn over one kept connection each. The change goes
through sign-in, checks, transaction, journal and the judgement of a 12-circuit inspection. Aim: 4 × at the median.
"""

import http.client
import json
import statistics
import subprocess
import sys
import tempfile
import time
from pathlib import Path
from typing import Any

from benchmarks.homes import document
from dorrik.store.database import migrate
from dorrik.store.database.engine import make_engine, new_id
from dorrik.store.database.mariadb import PrivateMariaDB
from dorrik.store.people import passwords, people

BARE_PORT, REAL_PORT = 18091, 18092
ROUNDS = 600


class _Client:
    def __init__(self, port: int) -> None:
        self.connection = http.client.HTTPConnection("127.0.0.1", port)
        self.headers = {"Content-Type": "application/json"}

    def post(self, path: str, body: Any) -> tuple[dict[str, Any], float]:
        raw = json.dumps(body)
        start = time.perf_counter()
        self.connection.request("POST", path, raw, self.headers)
        answer = self.connection.getresponse()
        data = answer.read()
        taken = time.perf_counter() - start
        assert answer.status in (200, 201), data
        if cookie := answer.getheader("Set-Cookie"):
            self.headers["Cookie"] = cookie.split(";")[0]
        return json.loads(data), taken


def _changes(inspection: str, firm: str) -> list[dict[str, Any]]:
    """A 12-circuit inspection as changes; ids of the document become UUIDs."""
    changes: list[dict[str, Any]] = []
    home = document(12)["inspection"]
    ids = {"i": inspection, "b": new_id()} | {f"c{n}": new_id() for n in range(12)}

    def note(entity: str, key: str, field: str, value: Any) -> None:
        changes.append(_change(entity, ids[key], field, value))

    def enter(entity: str, values: dict[str, Any], parent_field: str, parent: str) -> None:
        note(entity, values["id"], parent_field, parent)
        for field, value in values.items():
            if field not in ("id", "boards", "circuits", "observations", "limitations"):
                note(entity, values["id"], field, value)

    enter("inspection", home, "firm", firm)
    board = home["boards"][0]
    enter("board", board, "inspection", inspection)
    for circuit in board["circuits"]:
        enter("circuit", circuit, "board", ids["b"])
    return changes


def _change(entity: str, entity_id: str, field: str, value: Any, based_on: int = 0) -> dict[str, Any]:
    return {
        "id": new_id(), "entity": entity, "entity_id": entity_id, "field": field, "value": value,
        "based_on": based_on, "made_at": "2026-11-03T10:00:00Z", "device": "bench",
    }  # fmt: skip


def _serve(app: str, url: str, port: int) -> subprocess.Popen[bytes]:
    process = subprocess.Popen([sys.executable, "-m", "benchmarks.serve", app, url, str(port)])
    end = time.monotonic() + 20
    while time.monotonic() < end:
        try:
            http.client.HTTPConnection("127.0.0.1", port, timeout=1).connect()
        except OSError:
            time.sleep(0.05)
        else:
            return process
    raise RuntimeError(f"{app} did not start")


def run() -> None:
    """Print medians and their quotient."""
    with tempfile.TemporaryDirectory() as folder, PrivateMariaDB(Path(folder)) as database:
        migrate.upgrade(database.url)
        engine = make_engine(database.url)
        with engine.begin() as connection:
            connection.exec_driver_sql("CREATE TABLE bare (id CHAR(36) PRIMARY KEY, value VARCHAR(200)) ENGINE=InnoDB")
            firm = people.add_firm(connection, "Firm", "", "")
            people.add_person(
                connection, firm, "Ines", "ines@test.example", "inspector", passwords.hash_password("password")
            )
        servers = [_serve("bare", database.url, BARE_PORT), _serve("real", database.url, REAL_PORT)]
        try:
            bare, real = _Client(BARE_PORT), _Client(REAL_PORT)
            real.post("/api/session", {"email": "ines@test.example", "password": "password"})
            inspection = new_id()
            path = f"/api/inspections/{inspection}/changes"
            changes = _changes(inspection, firm)
            receipt, _ = real.post(path, {"changes": changes})
            assert all(r["state"] == "kept" for r in receipt["results"])
            circuits = sorted({c["entity_id"] for c in changes if c["entity"] == "circuit"})
            times: dict[str, list[float]] = {"bare": [], "real": []}
            seq = receipt["seq"]
            for n in range(ROUNDS):
                times["bare"].append(bare.post("/insert", {"value": f"0.{n:03}"})[1])
                change = _change("circuit", circuits[n % 12], "zs_ohm", f"0.{n:03}", seq)
                # As the front end does it: it says which verdicts it has, and gets what became different.
                answer, taken = real.post(path, {"changes": [change], "judged": seq})
                assert answer["results"][0]["state"] == "kept"
                seq = answer["seq"]
                times["real"].append(taken)
        finally:
            for server in servers:
                server.terminate()
                server.wait()
        engine.dispose()
    one, other = (statistics.median(times[name][50:]) * 1e3 for name in ("bare", "real"))
    slow = statistics.quantiles(times["real"][50:], n=20)[18] * 1e3
    print(f"round trip: bare {one:.2f} ms, change {other:.2f} ms (95 %: {slow:.2f} ms), quotient {other / one:.2f}")
