"""The bench: what a person does at a simulated home, and what the display then shows."""

import pytest

from dorrik.meter.bench import BenchError, MeterBench
from dorrik.practice import homes
from dorrik.practice.describe import home

LINE, CPC = 0.00741, 0.0121  # Ω/m of 2.5 and 1.5 mm²
SOUND = """
earthing = "TN-C-S"
rcds = { A = { rated_ma = 30, trip_ms = 24 } }
bonds = [{ service = "water", length_m = 8 }]
surge = { u_dc_v = 440 }
[[circuit]]
name = "Ring"
ring_m = [10, 10, 10, 10]
rcd = "A"
faults = [{ kind = "dirty", at = 1, conductor = "line", ohm = 0.5 }]
[[circuit]]
name = "Lights"
cable = "1.5/1"
line_m = [10, 10]
device = "BS EN 60898 B 6"
rcd = "A"
"""


def end(conductor, which="a", circuit="Ring"):
    return ["end", circuit, conductor, which]


def point(conductor, n, circuit="Ring"):
    return ["point", circuit, conductor, n]


@pytest.fixture
def bench():
    made = MeterBench(home(SOUND), "Sound")
    made.do({"do": "isolate"})
    made.do({"do": "null"})
    return made


def measure(bench, one, other, function="continuity", **more):
    bench.do({"do": "function", "to": function, **more})
    assert bench.do({"do": "touch", "at": one}) is None
    return bench.do({"do": "touch", "at": other})


def near(shown, ohm):
    # An instrument errs by a hundredth, half a last digit, and some contacts on the way.
    return float(shown.value) == pytest.approx(ohm, rel=0.02, abs=0.03)


def test_ends_and_cross_connected_points_read_as_the_cable_is_long(bench):
    bench.do({"do": "out", "circuit": "Ring"})
    shown = measure(bench, end("line"), end("line", "b"))
    assert (shown.function, shown.unit) == ("continuity", "Ω")
    assert near(shown, 40 * LINE)
    assert near(measure(bench, end("cpc"), end("cpc", "b")), 40 * CPC)
    bench.do({"do": "join", "circuit": "Ring", "pair": "line-cpc"})
    # Half-way round, both ways in parallel: a quarter of both ends, and the dirt of one contact until it is worked off.
    assert near(measure(bench, point("line", 1), point("cpc", 1)), 40 * (LINE + CPC) / 4 + 0.5)
    bench.do({"do": "replug", "circuit": "Ring", "point": 1})
    assert near(measure(bench, point("line", 1), point("cpc", 1)), 40 * (LINE + CPC) / 4)


def test_line_joined_with_cpc_at_the_board_gives_r1_r2_along_a_radial(bench):
    bench.do({"do": "out", "circuit": "Lights"})
    bench.do({"do": "join", "circuit": "Lights", "pair": "line-cpc"})
    ohm = 20 * (0.0121 + 0.0181)
    assert near(measure(bench, point("line", 1, "Lights"), point("cpc", 1, "Lights")), ohm)
    bench.do({"do": "release", "circuit": "Lights"})
    assert measure(bench, point("line", 1, "Lights"), point("cpc", 1, "Lights")).value == "OL"


def test_insulation_says_at_which_voltage_and_waits_for_what_would_be_harmed(bench):
    bench.do({"do": "out", "circuit": "Ring"})
    shown = measure(bench, end("line"), end("cpc"), "insulation", volts=250)
    assert (shown.volts, shown.unit, shown.value) == (250, "MΩ", ">299")
    with pytest.raises(BenchError, match="surge device"):
        measure(bench, end("line", circuit="Lights"), end("cpc", circuit="Lights"), "insulation", volts=500)
    bench.do({"do": "surge out"})
    assert measure(bench, end("line"), end("cpc"), "insulation", volts=500).volts == 500


def test_nothing_dangerous_is_done(bench):
    bench.do({"do": "restore"})
    with pytest.raises(BenchError, match="live"):
        bench.do({"do": "out", "circuit": "Ring"})
    with pytest.raises(BenchError, match="live"):
        measure(bench, end("line"), end("line", "b"))
    assert bench.state()["shown"] is None
    assert "live" in bench.state()["says"]


def test_live_tests_go_by_their_places_and_an_rcd_stays_tripped_until_it_is_reset(bench):
    bench.do({"do": "restore"})
    ze = measure(bench, ["origin", "line"], ["origin", "cpc"], "loop")
    assert float(ze.value) == pytest.approx(0.18, abs=0.03)
    zdb = measure(bench, ["way", "Ring"], ["earth bar"], "loop")
    zs = measure(bench, point("line", 1), point("cpc", 1), "loop")
    assert float(zs.value) > float(zdb.value)
    current = measure(bench, ["origin", "line"], ["origin", "neutral"], "fault-current")
    assert float(current.value) == pytest.approx(0.23 / 0.18, rel=0.05)
    assert current.unit == "kA"
    assert measure(bench, point("line", 1), point("cpc", 1), "rcd").value in ("23", "24", "25")
    assert bench.state()["rcds"][0]["tripped"]
    with pytest.raises(BenchError, match="dead"):
        measure(bench, point("line", 1), point("cpc", 1), "rcd")
    bench.do({"do": "reset", "rcd": "A"})
    assert float(measure(bench, point("line", 1), point("neutral", 1), "voltage").value) == pytest.approx(230, abs=2)
    bench.do({"do": "function", "to": "leakage"})
    assert float(bench.do({"do": "touch", "at": ["rcd", "A"]}).value) < 2


@pytest.mark.parametrize(
    "command",
    [
        {"do": "touch", "at": ["end", "Ring", "line", "c"]},
        {"do": "touch", "at": ["end", "Lights", "line", "b"]},
        {"do": "touch", "at": ["point", "Ring", "line", 99]},
        {"do": "touch", "at": ["point", "Ring", "line", -1]},
        {"do": "touch", "at": "everything"},
        {"do": "touch", "at": []},
        {"do": "touch", "at": {"a": 1}},
        {"do": "touch"},
        {"do": "out", "circuit": "Nothing"},
        {"do": "replug", "circuit": "Ring", "point": True},
        {"do": "reset", "rcd": ["A"]},
        {"do": "function", "to": "null"},
        {"do": "measure"},
        {"do": "explode"},
        {},
    ],
)
def test_what_cannot_be_done_is_said_and_changes_nothing(bench, command):
    before = bench.state()
    with pytest.raises(BenchError):
        bench.do(command)
    after = bench.state()
    assert before | {"says": "", "shown": None} == after | {"says": "", "shown": None}


@pytest.mark.parametrize("name", homes.names())
def test_homes_that_come_with_dorrik_can_be_built(name):
    built = homes.load(name)
    for circuit in built.circuits:
        assert len(circuit.points) == len(circuit.wiring.walk)
    assert MeterBench(built, name).state()["circuits"]
