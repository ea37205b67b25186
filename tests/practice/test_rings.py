"""Simulated rings: the network against the closed formula, the instrument, and the rules against known faults."""

import random

import pytest

from dorrik.core.electrical.ring import analyse, expected_line_cpc_ohm
from dorrik.practice.accuracy import count
from dorrik.practice.families import FAMILIES, draw
from dorrik.practice.meter import Accuracy, SimulatedMeter
from dorrik.practice.random_home import healthy_ring as healthy
from dorrik.practice.ring_circuit import CONTACT_OHM, DirtyContact, RingCircuit, Spur
from dorrik.practice.ring_tests import joined, measure, retest


def test_the_solved_network_agrees_with_the_formula_along_the_ring():
    circuit = RingCircuit([8.0] * 8)
    net = circuit.network()
    r1, r2 = (net.resistance((c, "a"), (c, "b")) for c in ("line", "cpc"))
    cross = joined(net, "cpc")
    for n in range(7):
        solved = cross.resistance(("line", "point", n), ("cpc", "point", n)) - 2 * CONTACT_OHM
        assert solved == pytest.approx(expected_line_cpc_ohm(r1, r2, (n + 1) / 8), abs=1e-3)


def test_the_same_seed_gives_the_same_readings():
    circuit = healthy(random.Random(4))
    assert measure(circuit, SimulatedMeter(7)) == measure(circuit, SimulatedMeter(7))
    assert measure(circuit, SimulatedMeter(7)) != measure(circuit, SimulatedMeter(8))


def test_leads_count_until_they_are_nulled_and_a_bad_null_poisons_what_follows():
    net = RingCircuit([10.0] * 5).network()
    meter = SimulatedMeter(1, Accuracy(0, 0))
    ends = ("line", "a"), ("line", "b")
    before = float(meter.low_ohms(net, *ends))
    assert meter.null() == "0.08"
    sound = float(meter.low_ohms(net, *ends))
    assert before - sound == pytest.approx(0.08, abs=0.005)
    assert meter.null(contact_ohm=0.2) == "0.28"
    assert sound - float(meter.low_ohms(net, *ends)) == pytest.approx(0.2, abs=0.011)


def test_over_range():
    net = RingCircuit([10.0] * 3).network()
    meter = SimulatedMeter(1)
    assert meter.low_ohms(net, ("line", "a"), ("cpc", "a")) == "OL"


def test_a_dirty_contact_improves_when_it_is_worked():
    circuit = RingCircuit([8.0] * 9, faults=(DirtyContact(3, "neutral", 0.4),))
    meter = SimulatedMeter(2)
    test = measure(circuit, meter)
    (finding,) = analyse(test).findings
    assert (finding.kind, finding.point) == ("contact", "point 3")
    assert analyse(retest(circuit, test, meter, [finding.point])).findings == ()


def test_a_spur_stays_after_the_retest():
    circuit = RingCircuit([8.0] * 9, spurs=(Spur(4, 9.0),))
    meter = SimulatedMeter(2)
    test = measure(circuit, meter)
    again = analyse(retest(circuit, test, meter, ["point 4"]))
    assert [(f.kind, f.point) for f in again.findings] == [("spur", "point 4")]


def test_sound_rings_give_no_alarm():
    assert count("sound ring", 2000).detected >= 0.995 * 2000


@pytest.mark.parametrize("family", [name for name in FAMILIES if name != "sound ring"])
def test_faults_are_named_at_their_place(family):
    row = count(family, 500)
    assert row.detected >= 0.97 * 500
    assert row.placed is None or row.placed >= 0.95 * 500
    assert row.measured is None or row.measured >= 0.95 * 500
    assert row.others <= 0.03 * 500


def test_a_case_can_be_drawn_again():
    assert draw("parallel earth", 11) == draw("parallel earth", 11)
