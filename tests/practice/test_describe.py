"""Homes written down in a few lines, with a fault of every kind, and what a visit makes of them."""

import pytest

from dorrik.core.inspection.document import parse
from dorrik.core.judging.judgement import judge
from dorrik.practice.describe import FAULTS, home
from dorrik.practice.meter import SimulatedMeter
from dorrik.practice.visit import visit

SOUND = """
earthing = "TN-C-S"
rcds = { A = { rated_ma = 30 }, B = { rated_ma = 30 } }
bonds = [{ service = "water" }, { service = "gas", length_m = 4 }]
surge = { uc_v = 275, u_dc_v = 445 }

[[circuit]]
name = "Sockets"
ring_m = [9, 7, 8, 6, 7, 8, 9]
rcd = "A"
points = ["hall", "kitchen door", "kitchen sink", "front room", "back room", "landing"]

[[circuit]]
name = "Sockets up"
ring_m = [12, 9, 7, 8, 11]
rcd = "B"

[[circuit]]
name = "Lights"
cable = "1.5/1.0"
line_m = [8, 5, 6, 4]
serves = "lighting"
device = "BS EN 60898 B 6"
rcd = "B"
"""


def judged(text, seed=5):
    return judge(parse(visit(home(text), SimulatedMeter(seed))))


def with_fault(circuit, fault):
    return SOUND.replace(f'name = "{circuit}"', f'name = "{circuit}"\nfaults = [{fault}]', 1)


def raised(judgement):
    """Entries with everything that they are about."""
    return {(s.key, place) for s in judgement.suggested for place in (s.entity_id, *s.touches)}


def findings(judgement, circuit="c0"):
    return {(f.kind, f.point) for f in judgement.rings[circuit].findings}


def test_the_sound_one_raises_nothing():
    judgement = judged(SOUND)
    assert raised(judgement) == set() and findings(judgement) == set()
    # 54 m at 7.41 mΩ/m; seven joints of 2 mΩ seem like two metres more, the gain like half of one.
    assert judgement.rings["c0"].length_m == pytest.approx(56, abs=1.5)


@pytest.mark.parametrize(
    ("fault", "expected"),
    [
        ('{ kind = "open", conductor = "line", segment = 3 }', ("open-conductor", None)),
        ('{ kind = "open", conductor = "cpc", segment = 0 }', ("open-conductor", None)),
        ('{ kind = "loose", conductor = "neutral", segment = 2, ohm = 0.4 }', ("loose-joint", None)),
        ('{ kind = "no-cpc", at = 4 }', ("cpc-open-at-point", "back room")),
        ('{ kind = "parallel-earth", one = 0, other = 4, ohm = 0.03 }', ("parallel-earth", None)),
    ],
)
def test_wiring_faults_of_a_ring(fault, expected):
    assert expected in findings(judged(with_fault("Sockets", fault)))


def test_a_dirty_contact_is_gone_once_the_switch_was_worked():
    text = with_fault("Sockets", '{ kind = "dirty", at = 2, conductor = "line", ohm = 0.5 }')
    document = visit(home(text), SimulatedMeter(5))
    outlet = document["inspection"]["boards"][0]["circuits"][0]["points"][2]
    assert outlet["retested"] is True
    assert findings(judge(parse(document))) == set()


def test_line_and_neutral_exchanged_are_named_at_their_point():
    judgement = judged(with_fault("Lights", '{ kind = "reversed", at = 2 }'))
    assert ("socket-polarity", "c2-p2") in raised(judgement)


def test_a_spur_is_measured():
    text = SOUND.replace('rcd = "A"\npoints', 'rcd = "A"\nspurs = [{ at = 3, length_m = 11 }]\npoints', 1)
    judgement = judged(text.replace('"landing"]', '"landing", "loft"]'))
    (spur,) = [p for p in judgement.rings["c0"].points if p.spur_length_m]
    assert spur.name == "front room"
    assert spur.spur_length_m == pytest.approx(11, abs=1.5)


@pytest.mark.parametrize(
    ("head", "expected"),
    [
        ('exchanged = ["Sockets", "Sockets up"]', ("rings-bridged", "c0")),
        ('links = [{ one = ["Sockets", 1], other = ["Sockets up", 2] }]', ("rings-bridged", "c1")),
        (
            'links = [{ one = ["Lights", 1], other = ["Sockets up", 2], conductors = ["neutral"] }]',
            ("shared-neutral", "c2"),
        ),
        ("earthing_mm2 = 6", ("bond-undersized", "i")),
        ("neutral_ohm = 0.6", ("ze-above-maximum", "i")),
    ],
)
def test_faults_of_the_whole_home(head, expected):
    assert expected in raised(judged(f"{head}\n{SOUND}"))


def test_an_oversize_device_and_a_missing_rcd():
    assert ("breaker-too-large", "c2") in raised(judged(SOUND.replace("B 6", "B 32")))
    without = SOUND.replace('rcd = "B"', 'rcd = ""')
    # One board without additional protection speaks once, by the gravest of its needs.
    assert {("rcd-missing-sockets", place) for place in ("b", "c1", "c2")} <= raised(judged(without))
    assert len(judged(without).suggested) == 1


def test_every_kind_of_wiring_fault_has_a_word():
    assert set(FAULTS) == {"open", "loose", "dirty", "no-cpc", "parallel-earth", "reversed"}
