"""Whole homes: sound ones raise nothing, and every family of faults is named at its place."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from dorrik.core.electrical import ring
from dorrik.core.electrical.ring_places import position
from dorrik.core.inspection.document import parse
from dorrik.core.judging.judgement import judge
from dorrik.practice.accuracy import count_homes
from dorrik.practice.home_families import HOME_FAMILIES, draw_home
from dorrik.practice.meter import Accuracy, SimulatedMeter
from dorrik.practice.random_home import random_home
from dorrik.practice.ring_circuit import CONTACT_OHM, RingCircuit
from dorrik.practice.ring_tests import joined
from dorrik.practice.visit import visit
from tests.examples import examples


@settings(max_examples=examples(25), deadline=None)
@given(st.integers(0, 10**6))
def test_a_sound_home_raises_nothing(seed):
    judgement = judge(parse(visit(random_home(seed), SimulatedMeter(seed))))
    assert judgement.suggested == ()
    assert not [n.title for n in judgement.notes if n.status == "fail"]


def test_the_same_seed_gives_the_same_visit():
    assert visit(random_home(3), SimulatedMeter(5)) == visit(random_home(3), SimulatedMeter(5))
    assert visit(random_home(3), SimulatedMeter(5)) != visit(random_home(3), SimulatedMeter(6))
    assert random_home(3) == random_home(3)


@pytest.mark.parametrize("family", [family for family in HOME_FAMILIES if family != "sound home"])
def test_every_family_is_named_at_its_place(family):
    """A dozen of the 500 cases that `make accuracy` counts, of which 97 % are to be named and 95 % placed."""
    row = count_homes(family, 12)
    assert row.named >= 11
    assert row.placed >= 11


def test_what_the_visit_writes_is_what_the_instrument_showed():
    home = draw_home("damp to earth, 0.02 to 0.9 MΩ", 4).home
    document = visit(home, SimulatedMeter(4))
    circuits = {c["designation"]: c for c in document["inspection"]["boards"][0]["circuits"]}
    spoilt = next(c for c in home.circuits if c.leaks)
    assert float(circuits[spoilt.name]["insulation_lne_mohm"]) == pytest.approx(
        spoilt.leaks[0].mohm, rel=0.03, abs=0.02
    )
    ring_ = home.circuits[0].wiring
    assert float(circuits["Sockets down"]["r1_ohm"]) == pytest.approx(ring_.length_m * 0.00741, rel=0.02, abs=0.03)


@settings(max_examples=examples(120), deadline=None)
@given(st.lists(st.floats(1, 12), min_size=4, max_size=14), st.data())
def test_the_inverse_finds_the_place_within_a_twentieth_of_the_ring(segments, data):
    """Rule 4.3 turned round, on a network solved by nodal analysis, without the instrument's error."""
    circuit = RingCircuit(segments)
    net = circuit.network()
    r1, r2 = (net.resistance((c, "a"), (c, "b")) for c in ("line", "cpc"))
    n = data.draw(st.integers(0, len(segments) - 2))
    cross = joined(net, "cpc")
    reading = cross.resistance(("line", "point", n), ("cpc", "point", n)) - 2 * CONTACT_OHM
    true = sum(segments[: n + 1]) / sum(segments)
    # Half-way round the curve is flat: contacts of a few milliohms move the answer most there.
    assert abs(position(reading, r1, r2) - min(true, 1 - true)) <= 0.05


def test_the_inverse_on_readings_of_an_instrument_is_as_good_as_its_digits():
    """With two decimals a place can be told only as far as the readings differ; the walk's order settles the rest."""
    circuit = RingCircuit([6.0] * 16)
    net = circuit.network()
    meter = SimulatedMeter(1, Accuracy(0, 0))
    meter.null()
    r1, r2 = (net.resistance((c, "a"), (c, "b")) for c in ("line", "cpc"))
    cross = joined(net, "cpc")
    apart = []
    for n in range(15):
        shown = float(meter.low_ohms(cross, ("line", "point", n), ("cpc", "point", n)))
        low, high = (ring.expected_line_cpc_ohm(r1, r2, x) for x in (0.0, 0.5))
        true = (n + 1) / 16
        found = position(min(max(shown, low), high), r1, r2)
        apart.append(abs(found - min(true, 1 - true)))
    assert sorted(apart)[len(apart) // 2] < 0.1
