"""Bodies end at their limit whatever they claim, JSON is bounded before it is built, nobody takes everybody's turn."""

import asyncio
import json
import socket
import threading
from concurrent.futures import ThreadPoolExecutor

import httpx
import pytest
from starlette.exceptions import HTTPException
from starlette.websockets import WebSocketDisconnect

from dorrik.api import guard, routing
from dorrik.api.fair_pool import FairPool
from dorrik.api.problems import ProblemError
from dorrik.api.worker_pool import WorkerPool
from tests.clock import within
from tests.conftest import PASSWORD
from tests.running import run


def chunks(size, part=100_000):
    for _ in range(0, size, part):
        yield b"x" * part


@pytest.mark.parametrize("path", ["/api/session", "/api/papers?name=x", "/api/register/client", "/api/links/use"])
def test_a_body_without_a_length_ends_at_its_limit(inspector, path):
    answer = inspector.http.post(path, content=chunks(30_000_000), headers={"Content-Type": "application/json"})
    assert answer.status_code == 413
    assert answer.json()["code"] == "too-large"


@pytest.mark.parametrize("length", ["-1", "x", "9" * 400, "1e3", "٣"])
def test_a_length_that_is_none_is_refused(app, length):
    messages = run(_asked(app, [(b"content-length", length.encode())]))
    assert messages[0]["status"] in (400, 413)


async def _asked(app, headers):
    sent = []

    async def receive():
        return {"type": "http.request", "body": b"{}", "more_body": False}

    async def send(message):
        sent.append(message)

    scope = {
        "type": "http", "method": "POST", "path": "/api/session", "raw_path": b"/api/session", "query_string": b"",
        "headers": headers, "client": ("192.0.2.7", 1), "scheme": "http", "server": ("x", 80), "http_version": "1.1",
        "root_path": "", "app": app, "state": {},
    }  # fmt: skip
    await app(scope, receive, send)
    return sent


def test_a_body_that_trickles_is_given_up(monkeypatch):
    """Half of a body and then silence: the sender is told, and nobody waits."""
    monkeypatch.setattr(guard, "SILENCE_S", 0.05)

    async def silent():
        await asyncio.sleep(10)

    with pytest.raises(HTTPException) as error:
        run(guard._bounded(silent, 1000, silent)())
    assert error.value.status_code == 408


@pytest.mark.parametrize(
    "body",
    [
        b"[" * 100_000,
        b'{"a":' * 50_000,
        b"[" * 33 + b"]" * 33,
        b'{"changes": [' + b"[]," * 300_000 + b"[]]}",
    ],
)
def test_json_is_bounded_before_anything_is_built(inspector, body):
    with within(5):
        answer = inspector.http.post("/api/register/client", content=body, headers={"Content-Type": "application/json"})
    assert answer.status_code == 413


def test_brackets_in_texts_do_not_count():
    text = '["' + "[{" * 5000 + '\\"[", {"a\\\\": "]"}]'
    assert routing.loads(text.encode()) == json.loads(text)


@pytest.mark.parametrize("value", ["1" + "0" * 400, "-1" + "0" * 6000, "1e400", "NaN", "-Infinity"])
def test_numbers_without_an_end_are_refused_alone(inspector, value):
    inspection = inspector.begin()
    changes = [
        inspector.change("inspection", inspection, "tails_mm2", "ENDLESS"),
        inspector.change("inspection", inspection, "client_name", "Kept"),
    ]
    answer = inspector.http.post(
        f"/api/inspections/{inspection}/changes",
        content='{"changes": ' + json.dumps(changes).replace('"ENDLESS"', value) + "}",
        headers={"Content-Type": "application/json"},
    )
    assert [r["state"] for r in answer.json()["results"]] == ["refused", "kept"]


def test_a_session_has_so_many_requests_at_once_and_the_others_are_served(app, inspector, stranger, monkeypatch):
    monkeypatch.setattr(guard, "AT_ONCE", {"session": 3, "stranger": 3, "address": 100})
    # The guard of the one application is asked directly, with bodies that do not end.
    cookies = [who.http.cookies["dorrik_session"] for who in (inspector, stranger)]
    assert run(_crowd(app, *cookies)) == [429, 200]


async def _crowd(app, busy, other):
    """Three requests of one session that hang; what a fourth of it gets, and what somebody else gets."""
    release = asyncio.Event()

    async def hang():
        await release.wait()
        return {"type": "http.disconnect"}

    async def one(cookie, receive, method="POST", path="/api/papers"):
        sent = []

        async def send(message):
            sent.append(message)

        scope = {
            "type": "http", "method": method, "path": path, "raw_path": path.encode(), "query_string": b"name=x",
            "headers": [(b"cookie", f"dorrik_session={cookie}".encode()), (b"sec-fetch-site", b"same-origin")],
            "client": ("192.0.2.9", 1), "scheme": "http", "server": ("x", 80), "http_version": "1.1", "root_path": "",
            "state": {},
        }  # fmt: skip
        await app(scope, receive, send)
        return sent[0]["status"] if sent else 0

    async def empty():
        return {"type": "http.request", "body": b"", "more_body": False}

    hanging = [asyncio.create_task(one(busy, hang)) for _ in range(3)]
    await asyncio.sleep(0.3)
    found = [await one(busy, empty, "GET", "/api/home"), await one(other, empty, "GET", "/api/home")]
    release.set()
    for task in hanging:
        task.cancel()
    await asyncio.gather(*hanging, return_exceptions=True)
    return found


def test_costly_work_of_strangers_waits_in_a_short_queue():
    async def many():
        pool = WorkerPool(at_once=1, queue=2)
        gate = threading.Event()
        tasks = [asyncio.create_task(pool.run(gate.wait)) for _ in range(6)]
        await asyncio.sleep(0.05)
        gate.set()
        return await asyncio.gather(*tasks, return_exceptions=True)

    results = run(many())
    assert [r for r in results if r is True] == [True] * 3
    assert {r.status for r in results if isinstance(r, ProblemError)} == {429}


def test_heavy_work_is_fair_between_people_and_who_waits_takes_no_thread():
    """Somebody sends thirty photos; one of somebody else is read third, not thirty-first."""
    order = []

    async def both():
        pool = FairPool(1, 40, "wait")
        gate = threading.Event()
        work = [
            asyncio.create_task(pool.run("many", lambda n=n: (gate.wait(), order.append(f"many {n}"))))
            for n in range(30)
        ]
        await asyncio.sleep(0.05)
        before = threading.active_count()
        work.append(asyncio.create_task(pool.run("one", lambda: order.append("one"))))
        await asyncio.sleep(0.05)
        assert threading.active_count() == before
        gate.set()
        await asyncio.gather(*work)

    run(both())
    assert order.index("one") <= 2 and len(order) == 31


def test_who_has_too_much_waiting_is_told_and_nobody_else_is():
    async def many():
        pool = FairPool(1, 3, "wait")
        gate = threading.Event()
        tasks = [asyncio.create_task(pool.run("many", gate.wait)) for _ in range(8)]
        await asyncio.sleep(0.05)
        other = asyncio.create_task(pool.run("one", lambda: "done"))
        await asyncio.sleep(0.05)
        gate.set()
        return await asyncio.gather(*tasks, return_exceptions=True), await other

    results, other = run(many())
    assert results.count(True) == 4 and other == "done"
    assert {r.status for r in results if isinstance(r, ProblemError)} == {429}


def test_where_one_each_is_done_at_a_time_a_place_stays_for_others():
    """Somebody's reports take a minute each; somebody else's does not wait for the first of them."""

    async def both():
        pool = FairPool(2, 10, "wait", each=1)
        gate = threading.Event()
        slow = [asyncio.create_task(pool.run("many", gate.wait)) for _ in range(3)]
        await asyncio.sleep(0.05)
        # While not one of the others' is done.
        found = await asyncio.wait_for(pool.run("one", lambda: "done"), 30)
        assert not any(task.done() for task in slow)
        gate.set()
        return found, await asyncio.gather(*slow)

    assert run(both()) == ("done", [True] * 3)


def test_an_error_and_whoever_went_away_hold_nobody_up():
    async def tried():
        pool = FairPool(1, 10, "wait")
        gate = threading.Event()
        first = asyncio.create_task(pool.run("a", gate.wait))
        gone = asyncio.create_task(pool.run("a", lambda: "never asked for"))
        await asyncio.sleep(0.02)
        gone.cancel()
        wrong = asyncio.create_task(pool.run("b", lambda: 1 / 0))
        gate.set()
        assert await first is True
        with pytest.raises(ZeroDivisionError):
            await wrong
        return await pool.run("b", lambda: "still here")

    assert run(tried()) == "still here"


def test_heads_that_do_not_come_to_an_end_are_cut_off(server):
    """Too large a head at once; what is only slow is closed after a while (dorrik/api/request_head.py)."""
    with socket.create_connection(("127.0.0.1", server.port), timeout=10) as line:
        line.sendall(b"GET / HTTP/1.1\r\nHost: x\r\n")
        try:
            for n in range(3000):
                line.sendall(b"X-%d: " % n + b"y" * 100 + b"\r\n")
            line.sendall(b"\r\n")
            assert line.recv(100).startswith(b"HTTP/1.1 431 ")
        except (ConnectionResetError, BrokenPipeError):
            pass
    assert httpx.get(f"{server.base}/api/health").status_code == 200


def test_the_owner_of_a_session_is_served_while_strangers_sign_in_in_crowds(server, firm):
    http = httpx.Client(base_url=server.base)
    assert http.post("/api/session", json={"email": firm.inspector_email, "password": PASSWORD}).status_code == 200

    def stranger(n):
        body = {"email": f"nobody{n}@test.example", "password": "guess"}
        return httpx.post(f"{server.base}/api/session", json=body, timeout=30).status_code

    with ThreadPoolExecutor(40) as pool:
        crowd = [pool.submit(stranger, n) for n in range(40)]
        with within(3):
            assert http.get("/api/home").status_code == 200
        codes = {one.result() for one in crowd}
    assert codes <= {401, 429} and 429 in codes


@pytest.mark.parametrize("path", ["/", "/api/session", "/api/inspections/x/changes"])
def test_a_web_socket_is_closed_before_anything_is_asked(inspector, path):
    """Browsers open one from any site, with the cookie; there is none here to be opened."""
    with pytest.raises(WebSocketDisconnect) as closed, inspector.http.websocket_connect(path):
        pass
    assert closed.value.code == 1008
