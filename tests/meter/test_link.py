"""The link over the wire: pairing, what is told, and what strangers get."""

import asyncio
import json
import threading
from contextlib import contextmanager

import pytest
from websockets.exceptions import ConnectionClosed, InvalidStatus
from websockets.sync.client import connect

from dorrik.meter.bench import MeterBench
from dorrik.meter.link import WRONG_CODES
from dorrik.meter.server import MeterServer
from dorrik.practice import homes
from tests.serving import ask


@pytest.fixture
def meter():
    """A server on a port of its own, and its address."""
    server = MeterServer(MeterBench(homes.load("sail_loft"), "Sail loft"))
    loop = asyncio.new_event_loop()
    ready: asyncio.Future[int] = loop.create_future()
    serving = loop.create_task(server.run("127.0.0.1", 0, ready))
    threading.Thread(target=loop.run_forever, daemon=True).start()
    server.address = f"127.0.0.1:{asyncio.run_coroutine_threadsafe(_value(ready), loop).result(10)}"
    yield server
    loop.call_soon_threadsafe(serving.cancel)


async def _value(future):
    return await future


@contextmanager
def tablet(meter, **proof):
    with connect(f"ws://{meter.address}/link") as line:
        line.send(json.dumps({"type": "pair", "version": 1, **proof}))
        yield line


def heard(line, kind):
    """The next message of that kind."""
    while True:
        message = json.loads(line.recv(10))
        if message["type"] == kind:
            return message


@contextmanager
def page(meter):
    with connect(f"ws://{meter.address}/bench") as line:
        line.recv(10)
        yield line


def measured(line):
    for command in (
        {"do": "isolate"},
        {"do": "touch", "at": ["clamp", "water"]},
        {"do": "touch", "at": ["pipe", "water"]},
    ):
        line.send(json.dumps(command))


def test_a_tablet_that_knows_the_code_hears_what_is_measured(meter):
    with tablet(meter, code=meter.link.code) as line, page(meter) as bench:
        assert heard(line, "paired")["instrument"]["serial"] == "SIM-0001"
        line.send(json.dumps({"type": "focus", "says": "Bond to water · At the pipe", "function": "continuity"}))
        measured(bench)
        assert heard(line, "measuring")["function"] == "continuity"
        reading = heard(line, "reading")
        assert (reading["function"], reading["unit"]) == ("continuity", "Ω")
        assert float(reading["value"]) < 0.2
        assert meter.link.focus == {"says": "Bond to water · At the pipe", "function": "continuity"}
        bench.send(json.dumps({"do": "next"}))
        heard(line, "next")
        assert heard(line, "alive")


def test_a_refused_test_is_told_and_nothing_is_read(meter):
    with tablet(meter, code=meter.link.code) as line, page(meter) as bench:
        bench.send(json.dumps({"do": "touch", "at": ["clamp", "water"]}))
        bench.send(json.dumps({"do": "touch", "at": ["pipe", "water"]}))
        assert "live" in heard(line, "nothing")["says"]


def test_digits_of_other_scripts_are_no_code(meter):
    other = "".join(chr(0x660 + int(digit)) for digit in meter.link.code)
    with tablet(meter, code=other) as line:
        assert heard(line, "refused")


def test_who_numbers_a_command_hears_what_came_of_it(meter):
    with page(meter) as bench:
        bench.send(json.dumps({"do": "isolate", "n": 7}))
        bench.send(json.dumps({"do": "out", "circuit": "none", "n": 8}))
        told = {}
        while 8 not in told:
            message = json.loads(bench.recv(10))
            told[message.get("n")] = message
    assert told[7]["bench"]["main_on"] is False
    assert "no such circuit" in told[8]["refused"]


def test_a_wrong_code_hears_nothing_and_many_of_them_change_it(meter):
    first = meter.link.code
    for _ in range(WRONG_CODES):
        wrong = "111111" if meter.link.code != "111111" else "222222"
        with tablet(meter, code=wrong) as line:
            assert "code" in heard(line, "refused")["says"]
            with pytest.raises(ConnectionClosed):
                line.recv(10)
    assert meter.link.code != first
    for proof in ({}, {"code": ""}, {"code": None}, {"token": ""}, {"token": 5}, {"code": first}):
        with tablet(meter, **proof) as line:
            assert heard(line, "refused")
    assert meter.link.listener is None


def test_a_code_is_good_once_and_what_was_paired_comes_back_without_it(meter):
    code = meter.link.code
    with tablet(meter, code=code) as line:
        token = heard(line, "paired")["token"]
    with tablet(meter, code=code) as line:
        assert heard(line, "refused")
    with tablet(meter, token=token) as line:
        assert heard(line, "paired")["token"] == token


def test_another_tablet_takes_over_and_the_first_is_told(meter):
    with tablet(meter, code=meter.link.code) as one:
        heard(one, "paired")
        with tablet(meter, code=meter.link.code) as other:
            heard(other, "paired")
            assert "Another tablet" in heard(one, "refused")["says"]
        with pytest.raises(ConnectionClosed):
            while True:
                one.recv(10)


NONSENSE = ("", "[]", "null", "{", '"x"', "[" * 3000, b"\x00\xff", '{"type":"focus","says":5}')


@pytest.mark.parametrize("nonsense", NONSENSE)
def test_nonsense_is_not_heard_and_ends_nothing(meter, nonsense):
    with tablet(meter, code=meter.link.code) as line, page(meter) as bench:
        heard(line, "paired")
        line.send(nonsense)
        measured(bench)
        assert heard(line, "reading")
    with page(meter) as bench:
        bench.send(nonsense)
        assert "refused" in json.loads(bench.recv(10))


def test_what_is_far_too_long_ends_its_own_connection_alone(meter):
    with tablet(meter, code=meter.link.code) as line:
        heard(line, "paired")
        with page(meter) as bench:
            bench.send("x" * 100_000)
            with pytest.raises(ConnectionClosed):
                while True:
                    bench.recv(10)
        assert heard(line, "alive")


def test_the_bench_is_worked_from_its_own_page_alone(meter):
    for origin in ("http://evil.example", "http://127.0.0.1:9", "null"):
        with pytest.raises(InvalidStatus), connect(f"ws://{meter.address}/bench", origin=origin):
            pass
    with connect(f"ws://{meter.address}/bench", origin=f"http://{meter.address}") as line:
        assert json.loads(line.recv(10))["bench"]["name"] == "Sail loft"
    shown = ask(f"http://{meter.address}/")
    assert shown.status_code == 200
    assert "frame-ancestors 'none'" in shown.headers["Content-Security-Policy"]
    assert ask(f"http://{meter.address}/../server.py").status_code == 404
