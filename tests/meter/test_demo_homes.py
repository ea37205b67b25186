"""The demo's homes on the bench: what the instrument reads there is what the demo's inspections hold of them."""

import re

import pytest

from dorrik.demo import homes as demo
from dorrik.meter.bench import BenchError, MeterBench
from dorrik.practice import homes


class Kept:
    """Takes what a home of the demo enters, and sends it nowhere."""

    def __init__(self):
        self.circuits, self.inspection, self.home, self.opinions, self.photos = [], "inspection", {}, [], []

    def origin(self, **fields):
        self.home |= fields

    def add(self, entity, parent, parent_id, **fields):
        name = f"{entity} {id(fields)}"
        if entity == "circuit" and not fields.get("spare"):
            self.circuits.append(fields | {"board": parent_id})
        return name

    def set(self, entity, entity_id, **fields):
        pass


DEMO = {
    "lookout_row_1": demo.lookout_row_1,
    "net_loft_flat_2": demo.net_loft_flat_2,
    "lookout_row_3": demo.lookout_row_3,
    "keepers_house": demo.keepers_house,
    "ropewalk_4": demo.bench_home.ropewalk_4,
}


def kept_of(name):
    kept = Kept()
    DEMO[name](kept)
    main = kept.circuits[0]["board"] if kept.circuits else None
    return kept, [circuit for circuit in kept.circuits if circuit["board"] == main]


def number(reading):
    """A reading as a number; the end of a range as its end."""
    return float(re.sub(r"^>", "", reading))


def far(reading, kept):
    """Is it another reading than the one that was kept? An instrument errs by some hundredths and its last digit."""
    if reading.startswith(">"):
        # Each instrument's range has its own end.
        return number(kept) < number(reading)
    if kept.startswith(">"):
        return number(reading) < number(kept)
    return abs(number(reading) - number(kept)) > 0.05 * number(kept) + 0.025


@pytest.fixture(params=DEMO)
def home(request):
    bench = MeterBench(homes.load("sail_loft"), "Sail loft")
    bench.do({"do": "home", "home": request.param})
    return bench, *kept_of(request.param)


def read(bench, function, one, other):
    bench.do({"do": "function", "to": function})
    bench.do({"do": "touch", "at": one})
    return bench.do({"do": "touch", "at": other}).value


def test_every_circuit_is_there_and_is_built_as_it_was_noted(home):
    bench, _, circuits = home
    built = {circuit["name"]: circuit for circuit in bench.state()["circuits"]}
    for circuit in circuits:
        told = built[circuit["designation"]]
        assert told["ring"] == (circuit["form"] == "ring"), circuit["designation"]
        assert told["cable"] == f"{circuit['line_csa_mm2']:g}/{circuit['cpc_csa_mm2']:g}"
        assert told["device"].endswith(f"{circuit['device_rating_a']:g}")
        assert bool(told["rcd"]) == bool(circuit.get("rcd_rated_ma") or circuit.get("rcd_id") or _has_rcd(bench, told))


def _has_rcd(bench, told):
    # The cottage half done has its two devices entered after its circuits.
    return bench.name == "3 Lookout Row" and told["rcd"] in ("RCD 1", "RCD 2")


def test_ends_lines_and_insulation_read_what_was_kept(home):
    bench, kept, circuits = home
    wrong = []

    def compare(circuit, figure, reading):
        held = circuit.get(figure)
        if held is None:
            return
        wrong_here = reading != held if held == "OL" else far(reading, held)
        if wrong_here:
            wrong.append((circuit["designation"], figure, reading, held))

    bench.do({"do": "unplug"})
    bench.do({"do": "isolate"})
    bench.do({"do": "null"})
    for circuit in circuits:
        name = circuit["designation"]
        bench.do({"do": "out", "circuit": name})

        def end(conductor, which="a", name=name):
            return ["end", name, conductor, which]

        if circuit["form"] == "ring":
            for figure, conductor in (("r1_ohm", "line"), ("rn_ohm", "neutral"), ("r2_ohm", "cpc")):
                compare(circuit, figure, read(bench, "continuity", end(conductor), end(conductor, "b")))
        else:
            bench.do({"do": "join", "circuit": name, "pair": "line-cpc"})
            points = next(circuit["points"] for circuit in bench.state()["circuits"] if circuit["name"] == name)
            # The furthest point has the highest reading, wherever it stands in the walk.
            readings = [
                read(bench, "continuity", ["point", name, "line", n], ["point", name, "cpc", n])
                for n in range(len(points))
            ]
            if circuit.get("r1_r2_ohm"):
                compare(circuit, "r1_r2_ohm", max(readings, key=number))
            bench.do({"do": "release", "circuit": name})
        bench.do({"do": "join", "circuit": name, "pair": "line-neutral"})
        compare(circuit, "insulation_lne_mohm", read(bench, "insulation", end("line"), end("cpc")))
        bench.do({"do": "release", "circuit": name})
        compare(circuit, "insulation_ln_mohm", read(bench, "insulation", end("line"), end("neutral")))
    if "ze_ohm" in kept.home:
        bench.do({"do": "part earth"})
        ze = read(bench, "loop", ["origin", "line"], ["origin", "cpc"])
        compare(kept.home | {"designation": "Intake"}, "ze_ohm", ze)
    assert not wrong


def test_a_home_that_is_not_there_leaves_one_where_one_stood():
    bench = MeterBench(homes.load("sail_loft"), "The Sail Loft")
    bench.do({"do": "unplug"})
    for name in ("../../demo/homes", "/etc/passwd", "", None, 3):
        with pytest.raises(BenchError, match="no such home"):
            bench.do({"do": "home", "home": name})
    assert bench.name == "The Sail Loft" and bench.state()["unplugged"]


def test_another_home_is_as_nobody_has_touched_it():
    bench = MeterBench(homes.load("sail_loft"), "The Sail Loft")
    bench.do({"do": "isolate"})
    bench.do({"do": "out", "circuit": "Lights"})
    bench.do({"do": "home", "home": "keepers_house"})
    state = bench.state()
    assert state["main_on"] and not state["unplugged"] and not any(circuit["out"] for circuit in state["circuits"])
    assert state["leads"] == [] and state["shown"] is None
