"""A home in its states, and an instrument that measures what is there and refuses what would hurt."""

import pytest

from dorrik.practice.describe import DescriptionError, home
from dorrik.practice.meter import Accuracy, MeterRefusal, SimulatedMeter, Tripped
from dorrik.practice.site import EARTH_BAR, Danger, Site

EXACT = Accuracy(0, 0, 0, 0, 0)
COTTAGE = """
earthing = "TN-S"
line_ohm = 0.08
neutral_ohm = 0.08
earth_ohm = 0.25
rcds = { A = { rated_ma = 30, trips_at = 0.8, trip_ms = 24, five_ms = 12 } }
bonds = [{ service = "water", csa_mm2 = 10, length_m = 10, clamp_ohm = 0.002 }]
surge = { uc_v = 275, u_dc_v = 440 }

[[circuit]]
name = "Sockets"
ring_m = [10, 10, 10, 10]
rcd = "A"
loads = [{ point = 1, ohm = 53 }, { point = 2, ohm = 900, electronic = true }]

[[circuit]]
name = "Cooker"
cable = "6/2.5"
line_m = [12]
serves = "fixed"
rcd = ""
"""


def site(*changes):
    text = COTTAGE
    for old, new in changes:
        assert old in text
        text = text.replace(old, new)
    return Site(home(text))


def dead(*changes):
    """The cottage isolated, everything unplugged, conductors out."""
    found = site(*changes)
    found.isolate()
    found.unplug_all()
    found.remove_surge_device()
    found.disconnect("Sockets", "Cooker")
    return found


@pytest.fixture
def meter():
    found = SimulatedMeter(1, EXACT)
    found.null()
    return found


def test_ze_and_fault_currents_follow_from_the_supply(meter):
    here = site()
    here.isolate()
    assert meter.fault_current_ka(here, "neutral") == "1.44"  # 230 / 0.16 Ω
    here.part_earth()
    assert meter.ze(here) == "0.33"  # 0.08 + 0.25


def test_ze_through_bonds_that_were_left_on_reads_low(meter):
    here = site(("earth_ohm = 0.25", "earth_ohm = 30"))
    here.isolate()
    low = float(meter.ze(here))
    here.part_earth()
    assert low < 20 < float(meter.ze(here))


def test_zs_is_ze_and_the_circuit(meter):
    # 12 m of 6/2.5: 3.08 + 7.41 mΩ/m is 0.126 Ω; with Ze 0.33 and a few milliohms of contacts.
    assert float(meter.zs(site(), "Cooker", 0)) == pytest.approx(0.33 + 0.126, abs=0.015)


def test_continuity_of_a_ring_and_of_a_bond(meter):
    here = dead()
    assert meter.low_ohms(here, here.end("Sockets", "line", "a"), here.end("Sockets", "line", "b")) == "0.30"
    assert meter.low_ohms(here, EARTH_BAR, here.pipe("water")) == "0.02"  # 10 m of 10 mm²


@pytest.mark.parametrize(
    "test",
    [
        lambda m, s: m.low_ohms(s, s.end("Cooker", "line"), s.end("Cooker", "cpc")),
        lambda m, s: m.insulation(s, s.end("Cooker", "line"), s.end("Cooker", "cpc")),
        lambda m, s: m.low_ohms(s, EARTH_BAR, s.pipe("water")),
    ],
)
def test_dead_tests_are_refused_while_it_is_live(meter, test):
    with pytest.raises(MeterRefusal, match="live"):
        test(meter, site())


def test_what_a_person_must_not_do_on_a_live_board():
    here = site()
    for act in (lambda: here.disconnect("Cooker"), here.part_earth, lambda: here.join((EARTH_BAR, EARTH_BAR))):
        with pytest.raises(Danger, match=r"live|isolated"):
            act()


def test_500_volts_are_refused_into_electronics_and_surge_devices(meter):
    here = site()
    here.isolate()
    line, cpc = here.end("Sockets", "line"), here.end("Sockets", "cpc")
    with pytest.raises(MeterRefusal, match="surge"):
        meter.insulation(here, line, cpc)
    here.remove_surge_device()
    with pytest.raises(MeterRefusal, match="Electronic"):
        meter.insulation(here, line, cpc)
    assert meter.insulation(here, line, cpc, 250)
    here.unplug_all()
    assert meter.insulation(here, line, cpc)
    with pytest.raises(MeterRefusal, match="1000 V"):
        meter.insulation(here, line, cpc, 1000)


def test_insulation_of_circuits_in_parallel_and_over_range(meter):
    # Sound: line to cpc 700 MΩ beside the way by neutral, 1 / (1/900 + 1/800) in series: over 299.
    here = dead()
    assert meter.insulation(here, here.end("Cooker", "line"), here.end("Cooker", "cpc")) == ">299"
    spoilt = dead(('serves = "fixed"', 'serves = "fixed"\nleaks = [{ one = "line", other = "cpc", mohm = 0.5 }]'))
    assert meter.insulation(spoilt, spoilt.end("Cooker", "line"), spoilt.end("Cooker", "cpc")) == "0.50"


def test_a_load_left_in_reads_nothing_between_line_and_neutral(meter):
    here = site()
    here.isolate()
    here.remove_surge_device()
    here.disconnect("Sockets")
    assert meter.insulation(here, here.end("Sockets", "line"), here.end("Sockets", "neutral"), 250) == "0.00"


def test_voltages_of_a_sound_point_and_of_one_whose_neutral_is_lost(meter):
    def volts(here):
        line, neutral, cpc = (here.contact("Sockets", c, 0) for c in ("line", "neutral", "cpc"))
        return [float(meter.voltage(here, *pair)) for pair in ((line, neutral), (line, cpc), (neutral, cpc))]

    assert volts(site()) == pytest.approx([229, 230, 0], abs=2)
    cut = '[10, 10, 10, 10]\nfaults = [{ kind = "open", conductor = "neutral", segment = 0 }, '
    cut += '{ kind = "open", conductor = "neutral", segment = 3 }]'
    floating = site(("[10, 10, 10, 10]", cut))
    assert volts(floating)[2] > 200  # a load between line and neutral lifts it
    floating.unplug_all()
    assert 50 < volts(floating)[2] < 150
    floating.isolate()
    assert meter.voltage(floating, floating.contact("Sockets", "line", 0), EARTH_BAR) == "0"


def test_the_quick_loop_test_trips_an_rcd_and_the_gentle_one_does_unless_it_leaks(meter):
    here = site()
    assert float(meter.zs(here, "Sockets", 0)) > 0.3
    with pytest.raises(Tripped) as caught:
        meter.zs(here, "Sockets", 0, high_current=True)
    assert caught.value.rcd == "A"
    with pytest.raises(MeterRefusal, match="dead"):
        meter.zs(here, "Sockets", 0)
    here.reset("A")
    leaky = site(('rcd = "A"', 'rcd = "A"\nleakage_ma = 12'))
    with pytest.raises(Tripped):
        meter.zs(leaky, "Sockets", 0)  # 15 + 12 mA reach 0.8 × 30 mA
    assert float(meter.zs(here, "Cooker", 0, high_current=True)) > 0.3


def test_trip_times_at_each_multiple(meter):
    here = site()
    assert meter.rcd_time(here, "Sockets", 0, 0.5) == "OL"
    assert float(meter.rcd_time(here, "Sockets", 0)) == pytest.approx(24, abs=1)
    here.reset("A")
    assert float(meter.rcd_time(here, "Sockets", 0, 5)) == pytest.approx(12, abs=1)
    with pytest.raises(MeterRefusal, match="no RCD"):
        meter.rcd_time(here, "Cooker", 0)
    with pytest.raises(MeterRefusal, match="½, 1 and 5"):
        meter.rcd_time(here, "Sockets", 0, 3)


def test_no_current_is_drawn_where_line_is_not_at_its_terminal(meter):
    wrong = site(("[10, 10, 10, 10]", '[10, 10, 10, 10]\nfaults = [{ kind = "reversed", at = 0 }]'))
    with pytest.raises(MeterRefusal, match="find out why"):
        meter.zs(wrong, "Sockets", 0)


def test_the_varistor_is_tested_out_of_the_board(meter):
    here = site()
    with pytest.raises(MeterRefusal, match="Take the module out"):
        meter.varistor(here)
    here.remove_surge_device()
    assert meter.varistor(here) == "440"
    with pytest.raises(MeterRefusal, match="no surge device"):
        meter.varistor(Site(home("")))


def test_switching_off_one_circuit_leaves_the_other():
    here = site()
    here.switch_off("Cooker")
    assert here.is_live("Sockets") and not here.is_live("Cooker")
    here.restore()
    assert here.is_live("Cooker")


def test_a_bridged_circuit_is_live_by_way_of_the_other(meter):
    here = site(
        ("[[circuit]]\nname = \"Sockets\"", 'links = [{ one = ["Sockets", 0], other = ["Cooker", 0] }]\n\n'
         '[[circuit]]\nname = "Sockets"'),
    )  # fmt: skip
    here.switch_off("Cooker")
    assert here.is_live("Cooker")
    with pytest.raises(MeterRefusal, match="Cooker is live"):
        meter.low_ohms(here, here.end("Cooker", "line"), here.end("Cooker", "cpc"))


@pytest.mark.parametrize(
    ("text", "told"),
    [
        ("earthing = ", "not TOML"),
        ("colour = 1", "not a part of a home"),
        ("[[circuit]]\nname = 'X'", "ring_m or line_m"),
        ("[[circuit]]\nname = 'X'\nline_m = [1]\nring_m = [1]", "ring_m or line_m"),
        ("[[circuit]]\nname = 'X'\nline_m = [1]\ncable = '2.5'\nrcd=''", "2.5/1.5"),
        ("[[circuit]]\nname = 'X'\nline_m = [1]\nrcd='B'", "not among the RCDs"),
        ("[[circuit]]\nname = 'X'\nline_m = [1]\nrcd=''\ncolour=1", "not a part of a circuit"),
        ("[[circuit]]\nname = 'X'\nline_m = [1]\nrcd=''\nfaults=[{kind='ghost'}]", "not a fault"),
        ("[[circuit]]\nname = 'X'\nline_m = [1]\nrcd=''\nfaults=[{kind='open', place=2}]", "X, open"),
        ("[[circuit]]\nname = 'X'\nline_m = [1]\nrcd=''\ndevice='B32'", "BS EN 60898 B 32"),
        ("[[circuit]]\nname='X'\nline_m=[1]\nrcd=''\n[[circuit]]\nname='X'\nline_m=[1]\nrcd=''", "same name"),
        ("exchanged = ['X', 'Y']", "no circuit"),
        ("links = [{ one = 'X' }]", "both ends"),
    ],
)
def test_a_description_that_cannot_be_built_is_told(text, told):
    with pytest.raises(DescriptionError, match=told):
        home(text)


def test_joined_ends_are_joined_until_they_are_released(meter):
    here = dead()
    pair = here.end("Cooker", "line"), here.end("Cooker", "cpc")
    assert meter.low_ohms(here, here.contact("Cooker", "line", 0), here.contact("Cooker", "cpc", 0)) == "OL"
    here.join(pair)
    # 12 m of 6/2.5: 0.126 Ω.
    shown = meter.low_ohms(here, here.contact("Cooker", "line", 0), here.contact("Cooker", "cpc", 0))
    assert float(shown) == pytest.approx(0.13, abs=0.02)
    here.release()
    assert meter.low_ohms(here, here.contact("Cooker", "line", 0), here.contact("Cooker", "cpc", 0)) == "OL"


def test_the_legs_of_an_opened_ring_are_apart_and_hold_half_of_it_each(meter):
    leak = '[10, 10, 10, 10]\nleaks = [{ one = "line", other = "cpc", mohm = 0.4, junction = 0 }]'
    here = dead(("[10, 10, 10, 10]", leak))
    legs = here.opened("Sockets", 2)
    assert meter.low_ohms(legs, legs.end("Sockets", "line", "a"), legs.end("Sockets", "line", "b")) == "OL"
    faulty = meter.insulation(legs, legs.end("Sockets", "line", "a"), legs.end("Sockets", "cpc", "a"))
    sound = meter.insulation(legs, legs.end("Sockets", "line", "b"), legs.end("Sockets", "cpc", "b"))
    assert (faulty, sound) == ("0.40", ">299")
    # The ring itself was not cut.
    assert meter.low_ohms(here, here.end("Sockets", "line", "a"), here.end("Sockets", "line", "b")) == "0.30"


def test_reconnected_and_restored_it_is_the_home_it_was(meter):
    here = dead()
    here.reconnect("Sockets", "Cooker")
    here.restore()
    fresh = site()
    terminals = here.contact("Cooker", "line", 0), here.contact("Cooker", "cpc", 0)
    assert here.loop_ohm(*terminals) == pytest.approx(fresh.loop_ohm(*terminals))
    assert here.surge_in and here.is_live("Sockets")
