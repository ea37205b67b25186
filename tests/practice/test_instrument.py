"""The instrument's own error stays within what the rules allow it, and what it shows is read back as a reading."""

import random

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from dorrik.core.basics.readings import Reading
from dorrik.practice.meter import MeterRefusal, SimulatedMeter, Tripped
from dorrik.practice.network import Network
from dorrik.practice.random_home import random_home
from dorrik.practice.site import EARTH_BAR, Site
from tests.examples import examples


@given(st.integers(0, 500), st.floats(0.01, 90))
def test_low_ohms_are_shown_within_the_uncertainty_that_is_assumed_of_them(seed, ohm):
    net = Network()
    net.add("a", "b", ohm)
    meter = SimulatedMeter(seed)
    meter.null()
    shown = Reading.parse(meter.low_ohms(net, "a", "b"))
    if shown.value is not None:
        assert abs(shown.value - ohm) <= shown.uncertainty("continuity")


@given(st.integers(0, 500))
def test_leads_are_shown_by_a_null_as_they_are(seed):
    meter = SimulatedMeter(seed, leads_ohm=0.12)
    assert abs(float(meter.null()) - 0.12) <= 0.02


@settings(max_examples=examples(20), deadline=None)
@given(st.integers(0, 10**6))
def test_every_live_figure_lies_within_its_uncertainty_of_the_network(seed):
    home = random_home(seed)
    site, meter = Site(home), SimulatedMeter(seed)
    circuit = random.Random(seed).choice(home.circuits)
    true = site.loop_ohm(site.contact(circuit.name, "line", 0), site.contact(circuit.name, "cpc", 0))
    try:
        shown = Reading.parse(meter.zs(site, circuit.name, 0))
    except Tripped:
        return
    assert abs(shown.value - true) <= shown.uncertainty("loop") + 0.03  # what the RCD's coil adds
    pscc = Reading.parse(meter.fault_current_ka(site, "neutral"))
    assert pscc.value == pytest.approx(230 / site.loop_at_origin_ohm("neutral") / 1000, rel=0.05, abs=0.02)


@settings(max_examples=examples(20), deadline=None)
@given(st.integers(0, 10**6))
def test_insulation_of_a_sound_circuit_is_high_or_over_range(seed):
    home = random_home(seed)
    site, meter = Site(home), SimulatedMeter(seed, insulation_top_mohm=999)
    site.isolate()
    site.unplug_all()
    site.remove_surge_device()
    names = [circuit.name for circuit in home.circuits]
    site.disconnect(*names)
    for name in names:
        shown = Reading.parse(meter.insulation(site, site.end(name, "line"), site.end(name, "cpc")))
        assert shown.value >= 100


def test_the_range_is_the_instrument_s_own():
    home = random_home(1)
    for top, word in ((99.0, ">99"), (299.0, ">299"), (499.0, ">499")):
        site, meter = Site(home), SimulatedMeter(1, insulation_top_mohm=top)
        site.isolate()
        site.unplug_all()
        site.remove_surge_device()
        site.disconnect(home.circuits[0].name, home.circuits[1].name)
        # Between two circuits that have nothing to do with each other.
        assert meter.insulation(site, site.end("Sockets down", "line"), site.end("Sockets up", "line")) == word


def test_a_state_that_comes_back_gives_the_same_network():
    site = Site(random_home(2))
    before = site.loop_ohm(site.contact("Sockets down", "line", 0), site.contact("Sockets down", "cpc", 0))
    site.trip("RCD 1")
    with pytest.raises(MeterRefusal, match="dead"):
        SimulatedMeter(1).zs(site, "Sockets down", 0)
    site.reset("RCD 1")
    again = site.loop_ohm(site.contact("Sockets down", "line", 0), site.contact("Sockets down", "cpc", 0))
    assert again == before


def test_the_whole_board_insulates_less_than_its_worst_circuit():
    home = random_home(3)
    apart, whole = Site(home), Site(home)
    for site in (apart, whole):
        site.isolate()
        site.unplug_all()
        site.remove_surge_device()
    names = [circuit.name for circuit in home.circuits]
    apart.disconnect(*names)
    singles = [apart.insulation_mohm(apart.end(name, "line"), apart.end(name, "cpc")) for name in names]
    for rcd in home.rcds:
        behind = [single for single, c in zip(singles, home.circuits, strict=True) if c.rcd == rcd]
        if behind:
            assert whole.insulation_mohm(("line bus", rcd), EARTH_BAR) <= min(behind) + 1e-6
