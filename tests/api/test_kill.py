"""Nothing that was acknowledged is lost: not when the server is killed, not when its database is."""

import threading
import time

import httpx
import pytest

from dorrik.store.database.engine import make_engine, new_id
from dorrik.store.database.mariadb import PrivateMariaDB
from dorrik.store.people import people
from tests.conftest import PASSWORD, PASSWORD_HASH
from tests.serving import Server, free_port


@pytest.fixture
def database(own_mariadb):
    server = own_mariadb
    engine = make_engine(server.url)
    with engine.begin() as connection:
        firm = people.add_firm(connection, "Firm", "", "")
        people.add_person(connection, firm, "Ines", "ines@test.example", "inspector", PASSWORD_HASH)
    engine.dispose()
    return server


def stream(base, acknowledged, stop, inspection):
    """Send one change after another, each until it is acknowledged or the time is up, as a device does."""
    http = httpx.Client(base_url=base, timeout=5)
    while True:
        try:
            answer = http.post("/api/session", json={"email": "ines@test.example", "password": PASSWORD})
            if answer.status_code == 200:
                break
        except httpx.HTTPError:
            pass
        time.sleep(0.05)
    firm = answer.json()["firm_id"]
    n = 0
    while not stop.is_set():
        field, value = ("firm", firm) if n == 0 else ("condition", f"entry {n}")
        change = {
            "id": new_id(), "entity": "inspection", "entity_id": inspection, "field": field, "value": value,
            "based_on": 0, "made_at": "2026-11-03T10:00:00Z", "device": "tablet",
        }  # fmt: skip
        while not stop.is_set():
            try:
                answer = http.post(f"/api/inspections/{inspection}/changes", json={"changes": [change]})
                if answer.status_code == 200:
                    result = answer.json()["results"][0]
                    assert result["state"] in ("kept", "already")
                    acknowledged.append((change["id"], result["seq"]))
                    break
                assert answer.status_code == 503
            except httpx.HTTPError:
                pass
            time.sleep(0.02)
        n += 1


def run_stream(base, inspection, disturb):
    acknowledged, stop = [], threading.Event()
    thread = threading.Thread(target=stream, args=(base, acknowledged, stop, inspection), daemon=True)
    thread.start()
    while len(acknowledged) < 60 and thread.is_alive():
        time.sleep(0.01)
    before = len(acknowledged)
    disturb()
    # A stream that does not come back ends the test by the test's own limit.
    while len(acknowledged) < before + 40 and thread.is_alive():
        time.sleep(0.01)
    stop.set()
    thread.join(10)
    assert before >= 60
    assert len(acknowledged) >= before + 40, "The stream did not come back."
    return acknowledged


def check_all_there(database, inspection, acknowledged):
    """Every acknowledged change stands in the journal at its place, once, and the field holds the last."""
    engine = make_engine(database.url)
    with engine.connect() as connection:
        rows = connection.exec_driver_sql(
            "SELECT change_id, seq FROM `change` WHERE inspection_id = %s ORDER BY seq", (inspection,)
        ).all()
        seq, condition = connection.exec_driver_sql(
            "SELECT seq, `condition` FROM inspection WHERE id = %s", (inspection,)
        ).one()
        last = connection.exec_driver_sql(
            "SELECT JSON_UNQUOTE(value) FROM `change` WHERE inspection_id = %s ORDER BY seq DESC LIMIT 1", (inspection,)
        ).scalar()
    engine.dispose()
    kept = dict(rows)
    assert all(kept.get(change_id) == at for change_id, at in acknowledged)
    assert [s for _, s in rows] == list(range(1, len(rows) + 1))
    assert (seq, condition) == (len(rows), last)


def test_killing_the_server_loses_nothing_that_was_acknowledged(database):
    inspection, port = new_id(), free_port()
    server = Server(database.url, port)
    replacement = []

    def disturb():
        server.kill()
        replacement.append(Server(database.url, port))

    try:
        acknowledged = run_stream(server.base, inspection, disturb)
    finally:
        for one in (server, *replacement):
            one.kill()
    check_all_there(database, inspection, acknowledged)


def test_killing_mariadb_loses_nothing_that_was_acknowledged(database):
    inspection, port = new_id(), free_port()
    server = Server(database.url, port)

    def disturb():
        at = database.port
        database.kill()
        time.sleep(0.5)
        again = PrivateMariaDB(database.folder, port=at)
        again.start()

    try:
        acknowledged = run_stream(server.base, inspection, disturb)
    finally:
        server.kill()
    check_all_there(database, inspection, acknowledged)
