"""Points of a ring, simulated here by solving the resistive network, independently of the rules."""

import random

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dorrik.core.basics.readings import Reading
from dorrik.core.electrical import ring
from dorrik.core.electrical.ring_places import position

LINE, CPC = 0.00741, 0.0121  # 2.5 and 1.5 mm², Ω/m


def parallel(*resistances):
    return 1 / sum(1 / r for r in resistances)


def cross_connected(first, other, x):
    """Out along one conductor to the board, back along the other from the far end: two ways round."""
    return parallel(x * first + (1 - x) * other, (1 - x) * first + x * other)


def same_ends(first, other, x):
    return parallel(x * (first + other), (1 - x) * (first + other))


class Ring:
    """A ring of so many metres with points spread along it, and what is wrong with it."""

    def __init__(self, length=62.0, points=9, error=None, wrong_pairs=False):
        self.r1, self.rn, self.r2 = length * LINE, length * LINE, length * CPC
        self.error = error or (lambda: 0.0)
        self.wrong_pairs = wrong_pairs
        self.places = [(i + 1) / (points + 1) for i in range(points)]
        self.spurs: dict[int, float] = {}
        self.extra: dict[int, tuple[float, float]] = {}

    def read(self, value):
        return Reading.parse(f"{max(0.0, value * (1 + self.error() / 100) + self.error() / 200):.2f}")

    def test(self):
        points = []
        solve = same_ends if self.wrong_pairs else cross_connected
        for i, x in enumerate(self.places):
            spur = self.spurs.get(i, 0.0)
            more_ln, more_lc = self.extra.get(i, (0.0, 0.0))
            ln = solve(self.r1, self.rn, x) + 2 * LINE * spur + more_ln
            lc = solve(self.r1, self.r2, x) + (LINE + CPC) * spur + more_lc
            points.append(ring.RingPoint(f"point {i}", self.read(ln), self.read(lc)))
        return ring.RingTest(self.read(self.r1), self.read(self.rn), self.read(self.r2), 2.5, 1.5, points)

    def analyse(self):
        return ring.analyse(self.test())


def found(analysis):
    return [(f.kind, f.point) for f in analysis.findings]


def test_a_sound_ring():
    analysis = Ring().analyse()
    assert found(analysis) == []
    assert analysis.length_m == pytest.approx(62, abs=1)
    assert analysis.recorded_r1_r2_ohm == pytest.approx((62 * LINE + 62 * CPC) / 4, abs=0.01)


def test_sound_rings_of_every_length_and_instrument_give_no_finding():
    """A realistic instrument: 1 % of the reading and half a last digit, either way."""
    alarms = 0
    for seed in range(2000):
        chance = random.Random(seed)
        home = Ring(chance.uniform(20, 100), chance.randint(3, 14), lambda c=chance: c.uniform(-1, 1))
        alarms += bool(home.analyse().findings)
    assert alarms <= 10  # 99.5 % of 2,000


def test_a_spur_is_named_with_its_length():
    named = right = 0
    for seed in range(500):
        chance = random.Random(seed)
        home = Ring(chance.uniform(30, 80), 9, lambda c=chance: c.uniform(-1, 1))
        at, length = chance.randrange(9), chance.uniform(5, 20)
        home.spurs[at] = length
        analysis = home.analyse()
        if ("spur", f"point {at}") in found(analysis) and len(analysis.findings) == 1:
            named += 1
            right += abs(analysis.points[at].spur_length_m - length) <= max(1.5, 0.15 * length)
    assert named >= 0.97 * 500
    assert right >= 0.95 * named


def test_a_spur_off_a_spur():
    home = Ring()
    home.spurs = {3: 5.0, 4: 9.0}
    assert found(home.analyse()) == [("spur", "point 3"), ("spur-off-spur", "point 4")]


@pytest.mark.parametrize(
    ("extra", "word"), [((0.3, 0.3), "line contact"), ((0.3, 0.0), "neutral contact"), ((0.0, 0.3), "cpc contact")]
)
def test_a_dirty_contact_is_no_spur_and_asks_for_a_retest(extra, word):
    home = Ring()
    home.extra[4] = extra
    (finding,) = home.analyse().findings
    assert (finding.kind, finding.point) == ("contact", "point 4")
    assert word in finding.reason
    assert "test again" in finding.next_step


def test_the_same_ends_joined():
    named = 0
    for seed in range(500):
        chance = random.Random(seed)
        home = Ring(chance.uniform(40, 100), chance.randint(5, 12), lambda c=chance: c.uniform(-1, 1), wrong_pairs=True)
        named += found(home.analyse()) == [("wrong-pairing", None)]
    assert named >= 0.97 * 500


def test_no_earth_at_a_point():
    given_test = Ring().test()
    points = list(given_test.points)
    points[2] = ring.RingPoint("point 2", points[2].line_neutral, Reading.parse("OL"))
    analysis = ring.analyse(ring.RingTest(given_test.r1, given_test.rn, given_test.r2, 2.5, 1.5, points))
    assert found(analysis) == [("cpc-open-at-point", "point 2")]


def test_points_of_a_broken_ring_are_not_judged_by_what_a_sound_one_reads():
    given_test = Ring().test()
    analysis = ring.analyse(
        ring.RingTest(Reading.parse("OL"), given_test.rn, given_test.r2, 2.5, 1.5, given_test.points)
    )
    assert [f.kind for f in analysis.findings] == ["open-conductor"]


def test_half_measured_points_are_left_alone():
    points = [ring.RingPoint("a", Reading.parse("0.23"), None), ring.RingPoint("b", None, Reading.parse("LIM"))]
    analysis = ring.analyse(ring.RingTest(*(Reading.parse(r) for r in ("0.46", "0.46", "0.76")), 2.5, 1.5, points))
    assert analysis.findings == ()
    assert [p.position for p in analysis.points] == [None, None]


@given(st.floats(0.2, 2), st.floats(1.2, 2.5), st.floats(0, 0.5))
def test_the_place_from_line_to_cpc_is_the_inverse(r1, ratio, x):
    r2 = r1 * ratio
    assert position(ring.expected_line_cpc_ohm(r1, r2, x), r1, r2) == pytest.approx(x, abs=0.05)


def test_with_equal_conductors_the_place_cannot_be_told():
    assert position(0.3, 0.6, 0.6) is None


def test_the_walk_settles_which_half():
    placed = Ring(200).analyse().points
    assert all(p.position is not None for p in placed)
    assert placed[0].position < 0.5 < placed[-1].position
