import pytest
from hypothesis import given
from hypothesis import strategies as st

from dorrik.core.basics.readings import Reading
from dorrik.core.electrical import ring

R = Reading.parse


def ends(r1, rn, r2, line=2.5, cpc=1.5):
    return ring.analyse(ring.RingTest(R(r1), R(rn), R(r2), line, cpc))


def kinds(analysis):
    return [(f.kind, f.conductor) for f in analysis.findings]


def test_expected_values_of_a_sound_ring():
    analysis = ends("0.46", "0.46", "0.76")
    assert analysis.findings == ()
    assert analysis.closed is True
    assert analysis.expected_line_neutral_ohm == pytest.approx(0.23)
    assert analysis.expected_line_cpc_ohm == pytest.approx(0.305)
    assert analysis.expected_line_cpc_least_ohm == pytest.approx(0.46 * 0.76 / 1.22)
    assert analysis.length_m == pytest.approx(62.1, abs=0.1)


@given(st.floats(0.05, 3), st.floats(0.05, 5), st.floats(0, 1))
def test_line_cpc_along_the_ring_by_nodal_analysis(r1, r2, x):
    """Two paths in parallel from the board to the point, line one way round and cpc the other."""
    one = x * r1 + (1 - x) * r2
    other = (1 - x) * r1 + x * r2
    assert ring.expected_line_cpc_ohm(r1, r2, x) == pytest.approx(1 / (1 / one + 1 / other), rel=1e-9)
    assert ring.expected_line_cpc_ohm(r1, r2, x) <= (r1 + r2) / 4 + 1e-9


@pytest.mark.parametrize(
    ("given_ends", "found"),
    [
        (("0.46", "OL", "0.76"), [("open-conductor", "neutral")]),
        (("0.46", ">20", "0.76"), [("open-conductor", "neutral")]),
        (("0.46", "0.46", "6.2"), [("open-conductor", "cpc")]),  # a few ohms back by another way is no ring
        (("OL", "OL", "OL"), [("not-a-ring", "line")]),
        (("0.46", "0.60", "0.76"), [("loose-joint", "neutral")]),
        # The cpc is held against the neutral then: the line's own value says nothing of the cable.
        (("0.60", "0.46", "0.76"), [("loose-joint", "line")]),
        (("0.60", "0.46", "0.99"), [("loose-joint", "line"), ("loose-joint", "cpc")]),
        (("0.38", "0.38", "0.93"), [("other-cable", "cpc")]),  # 2.5/1.0: ratio 2.44 to 2.5
        (("0.38", "0.38", "1.40"), [("loose-joint", "cpc")]),
        (("0.46", "0.46", "0.40"), [("parallel-earth", "cpc")]),
        (("0.46", "0.50", "0.76"), []),  # within 0.05 Ω
    ],
)
def test_what_the_ends_say(given_ends, found):
    assert kinds(ends(*given_ends)) == found


def test_the_other_cable_is_named_and_its_cpc_offered():
    finding = ends("0.38", "0.38", "0.93").findings[0]
    assert finding.fitting_cpc_mm2 == 1.0
    assert "2.5/1" in finding.reason


def test_half_measured_is_neither_closed_nor_open():
    analysis = ring.analyse(ring.RingTest(R("0.46"), None, None, 2.5, 1.5))
    assert (analysis.closed, analysis.findings, analysis.expected_line_cpc_ohm) == (None, (), None)
    assert analysis.expected_r2_ohm == pytest.approx((0.7511, 0.7667), abs=1e-3)


def test_a_size_that_is_not_tabulated_leaves_the_rest_standing():
    analysis = ring.analyse(ring.RingTest(R("0.46"), R("0.46"), R("0.76"), 3.0, 1.5))
    assert analysis.length_m is None
    assert analysis.expected_line_neutral_ohm == pytest.approx(0.23)


def test_recorded_value_against_the_ends():
    analysis = ends("0.46", "0.46", "0.76")
    assert ring.judge_recorded(R("0.31"), analysis) is None
    assert ring.judge_recorded(R("0.40"), analysis)[0] == "higher"
    assert ring.judge_recorded(R("0.20"), analysis)[0] == "lower"
    assert ring.judge_recorded(R("LIM"), analysis) is None
