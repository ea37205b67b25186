"""News come by themselves: of what was kept in the same process and in another, to whoever may hear them."""

import contextlib
import os
import signal
import subprocess
import sys
import threading
import time
from queue import Empty, Queue

import httpx
import pytest

from dorrik.api import cookies, news_stream, streams
from dorrik.store.people import sessions
from tests.serving import Server, ask, free_port

#: A busy machine may take its time; that it comes at all is what is asked.
PATIENCE_S = 60


class Ear:
    """Somebody who listens, in a thread of their own."""

    def __init__(self, base, path, token):
        self.heard = Queue()
        self.status = Queue()
        self.ended = threading.Event()
        arguments = (f"{base}{path}", {"Cookie": f"{cookies.SESSION}={token}"})
        threading.Thread(target=self._listen, args=arguments, daemon=True).start()
        self.answered = self.status.get(timeout=PATIENCE_S)

    def _listen(self, url, headers):
        with (
            contextlib.suppress(httpx.HTTPError),
            httpx.stream("GET", url, headers=headers, timeout=None, verify=False) as answer,
        ):
            self.status.put((answer.status_code, answer.headers.get("content-type", "")))
            for line in answer.iter_lines():
                if line.startswith("data: ") and line[6:]:
                    self.heard.put(int(line[6:]))
        self.ended.set()

    def next(self):
        return self.heard.get(timeout=PATIENCE_S)


def token_of(who):
    return who.http.cookies.get(cookies.SESSION)


@pytest.fixture(scope="module")
def two_processes(mariadb, engine, tmp_path_factory):
    """A server of two processes on the database of the tests."""
    folder, port = tmp_path_factory.mktemp("two"), free_port()
    given = {
        "DORRIK_DATABASE_URL": mariadb.url, "DORRIK_PHOTOS": str(folder), "DORRIK_HOME": str(folder),
        "DORRIK_DELIVERY": "off",
    }  # fmt: skip
    command = [sys.executable, "-m", "dorrik", "serve", "--port", str(port), "--workers", "2"]
    process = subprocess.Popen(command, env=os.environ | given, stdout=subprocess.DEVNULL)
    base = f"http://127.0.0.1:{port}"
    while process.poll() is None:
        with contextlib.suppress(httpx.HTTPError):
            if ask(f"{base}/api/health").status_code == 200:
                break
        time.sleep(0.05)
    yield base
    process.terminate()
    process.wait(PATIENCE_S)


def test_what_somebody_keeps_is_told_to_all_who_listen(two_processes, inspector, supervisor):
    """The change is made in a third process, that of the tests: each of the two has it from the database."""
    inspection = inspector.begin()
    path = f"/api/inspections/{inspection}/stream"
    ears = [Ear(two_processes, path, token_of(who)) for who in (inspector, supervisor, supervisor, inspector)]
    assert {ear.answered for ear in ears} == {(200, "text/event-stream; charset=utf-8")}
    before = {ear.next() for ear in ears}
    receipt = inspector.send(inspection, inspector.change("inspection", inspection, "extent", "All of it"))
    assert len(before) == 1 and {ear.next() for ear in ears} == {receipt["seq"]}


def test_who_has_heard_all_is_told_only_what_comes(two_processes, inspector):
    inspection = inspector.begin()
    seq = inspector.http.get(f"/api/inspections/{inspection}").json()["seq"]
    ear = Ear(two_processes, f"/api/inspections/{inspection}/stream?since={seq}", token_of(inspector))
    with pytest.raises(Empty):
        ear.heard.get(timeout=1.5)
    receipt = inspector.send(inspection, inspector.change("inspection", inspection, "extent", "All of it"))
    assert ear.next() == receipt["seq"]


def test_a_strangers_inspection_is_as_if_there_were_none(two_processes, inspector, stranger):
    inspection = inspector.begin()
    path = f"/api/inspections/{inspection}/stream"
    assert Ear(two_processes, path, token_of(stranger)).answered[0] == 404
    assert Ear(two_processes, path, "nobody").answered[0] == 401
    assert Ear(two_processes, "/api/inspections/not-an-id/stream", token_of(inspector)).answered[0] == 422


def test_a_stream_is_no_request_at_once_and_one_session_has_few(two_processes, inspector):
    """Twenty who listen leave all their requests to those who work; one session alone has no twenty."""
    inspection = inspector.begin()
    path = f"/api/inspections/{inspection}/stream"
    answers = [Ear(two_processes, path, token_of(inspector)).answered[0] for _ in range(3 * streams.MOST_OF_A_SESSION)]
    assert answers.count(200) <= 2 * streams.MOST_OF_A_SESSION and set(answers) == {200, 429}
    session = {"Cookie": f"{cookies.SESSION}={token_of(inspector)}"}
    assert ask(f"{two_processes}/api/inspections/{inspection}", headers=session).status_code == 200


@pytest.fixture
def server(mariadb, engine):
    found = Server(mariadb.url, free_port())
    yield found
    with contextlib.suppress(ProcessLookupError):
        found.kill()


def test_a_server_that_stops_does_not_wait_for_those_who_listen(server, inspector):
    inspection = inspector.begin()
    ear = Ear(server.base, f"/api/inspections/{inspection}/stream", token_of(inspector))
    ear.next()
    server.process.send_signal(signal.SIGTERM)
    assert server.process.wait(PATIENCE_S) == 0
    assert ear.ended.wait(PATIENCE_S)


def test_a_session_that_ends_meanwhile_hears_nothing_more(app, inspector, monkeypatch):
    """It is looked at with every beat; here beats are quick, and the stream would last for long."""
    monkeypatch.setattr(news_stream, "LASTS_S", 300.0)
    inspection = inspector.begin()

    def end():
        time.sleep(0.5)
        with app.state.engine.begin() as connection:
            sessions.sign_out(connection, token_of(inspector))

    threading.Thread(target=end).start()
    began = time.monotonic()
    assert inspector.http.get(f"/api/inspections/{inspection}/stream").status_code == 200
    assert time.monotonic() - began < news_stream.LASTS_S / 2
    assert inspector.http.get(f"/api/inspections/{inspection}/stream").status_code == 401


def test_a_stream_ends_by_itself_and_says_that_it_lives_until_then(inspector, monkeypatch):
    monkeypatch.setattr(news_stream, "LASTS_S", 0.2)
    inspection = inspector.begin()
    said = inspector.http.get(f"/api/inspections/{inspection}/stream").text
    assert said.startswith(f"retry: {news_stream.AGAIN_MS}\n\ndata: ") and said.count("event: beat") == 4
