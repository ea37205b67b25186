"""Instruments that a page is linked with: the simulated one as its program, and one that does what a test says."""

import json
import subprocess
import sys
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from queue import Queue
from typing import Any

from playwright.sync_api import Page, expect
from websockets.exceptions import ConnectionClosed
from websockets.sync.client import connect
from websockets.sync.server import Server, ServerConnection, serve

CODE = "123456"


def link(page: Page, address: str, code: str) -> None:
    """Pair the page with an instrument, as its user does."""
    page.get_by_role("button", name="Instrument", exact=True).click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Pairing code").fill(code)
    dialog.get_by_label("Where its program listens").fill(address)
    dialog.get_by_role("button", name="Link").click()
    expect(dialog).to_have_count(0)


class Meter:
    """The simulated instrument, worked over the way that its own page works it."""

    def __init__(self, address: str, line: Any) -> None:
        self.address = address
        self._line = line
        self._count = 0
        self._state: dict[str, Any] = json.loads(line.recv(30))

    def do(self, do: str, **more: Any) -> dict[str, Any]:
        """One command; what the bench says after it. What is refused is an error in the test."""
        self._count += 1
        self._line.send(json.dumps({"do": do, "n": self._count, **more}))
        if do == "next":
            return self._state
        # Others are told of at the same time: which figure waits, that a tablet came.
        while (told := json.loads(self._line.recv(60))).get("n") != self._count:
            pass
        assert "refused" not in told, told
        self._state = told
        return told

    def now(self) -> dict[str, Any]:
        """How it stands, with all that was told meanwhile."""
        with suppress(TimeoutError):
            while True:
                self._state = json.loads(self._line.recv(0.01))
        return self._state

    @property
    def code(self) -> str:
        """What stands on its screen."""
        return str(self.now()["link"]["code"])

    def measure(self, function: str, *terminals: list[Any], **more: Any) -> str:
        """Touch terminals with a function; what the display shows."""
        self.now()
        bench = self._state["bench"]
        if bench["function"] != function or more.get("volts", bench["volts"]) != bench["volts"]:
            self.do("function", to=function, **more)
        for at in terminals:
            self.do("touch", at=at)
        return str(self._state["bench"]["shown"]["value"])


@contextmanager
def meter(home: str) -> Iterator[Meter]:
    """The program `python -m dorrik meter`, on a port of its own."""
    process = subprocess.Popen(
        [sys.executable, "-m", "dorrik", "meter", home, "--port", "0"], stdout=subprocess.PIPE, text=True
    )
    try:
        assert process.stdout is not None
        said = next(line for line in process.stdout if "http://" in line)
        host = said.split("http://")[1].split()[0]
        with connect(f"ws://{host}/bench") as line:
            yield Meter(f"ws://{host}", line)
    finally:
        process.terminate()
        process.wait()


class Told:
    """An instrument that sends what it is told to, sound or not, to whoever pairs with its code."""

    def __init__(self) -> None:
        self.heard: Queue[dict[str, Any]] = Queue()
        self.lines: list[ServerConnection] = []
        self._server: Server | None = None
        self.port = 0

    def up(self) -> None:
        """Begin to listen, on the same port as before."""
        self._server = serve(self._listen, "127.0.0.1", self.port)
        self.port = self._server.socket.getsockname()[1]
        threading.Thread(target=self._server.serve_forever, daemon=True).start()

    def down(self) -> None:
        """Gone, without a word."""
        assert self._server is not None
        self._server.shutdown()
        for line in self.lines:
            line.close()
        self.lines = []

    @property
    def address(self) -> str:
        """Where it listens."""
        return f"ws://127.0.0.1:{self.port}"

    def _listen(self, line: ServerConnection) -> None:
        first = json.loads(line.recv())
        if first.get("code") != CODE and first.get("token") != "again":
            line.send(json.dumps({"type": "refused", "says": "Not the code on the screen."}))
            return
        instrument = {"name": "Told instrument", "serial": "T-1", "kind": "multifunction"}
        # Before the tablet knows of it: what is told from then on reaches it.
        self.lines.append(line)
        line.send(json.dumps({"type": "paired", "version": 1, "token": "again", "instrument": instrument}))
        threading.Thread(target=self._alive, args=(line,), daemon=True).start()
        with suppress(ConnectionClosed):
            for message in line:
                self.heard.put(json.loads(message))
        if line in self.lines:
            self.lines.remove(line)

    def _alive(self, line: ServerConnection) -> None:
        """At least every two seconds (docs/instrument-link.md): else a slow test is an instrument out of reach."""
        with suppress(ConnectionClosed):
            while line in self.lines:
                line.send(json.dumps({"type": "alive"}))
                time.sleep(1.5)

    def send(self, message: dict[str, Any] | str) -> None:
        """Tell every tablet that is paired."""
        for line in tuple(self.lines):
            line.send(message if isinstance(message, str) else json.dumps(message))

    def reading(self, id: str, value: str, function: str = "continuity", unit: str = "Ω", **more: Any) -> None:
        """Send a reading."""
        self.send({"type": "reading", "id": id, "function": function, "value": value, "unit": unit, **more})


@contextmanager
def told() -> Iterator[Told]:
    """One of those, listening."""
    made = Told()
    made.up()
    yield made
    made.down()
