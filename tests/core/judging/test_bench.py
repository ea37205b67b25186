"""The points of circuits as they are tested: figures by method, expected values, places, what waits for a retest."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dorrik.core.judging.topics.bench import STEPS
from tests.core.whole_homes import board, circuit, figures, judged, points
from tests.core.whole_homes import ring as ring_circuit

LINE, CPC = 0.00741, 0.0121  # 2.5 and 1.5 mm², Ω/m


def parallel(one, other):
    return one * other / (one + other)


def cross_connected(first, other, x):
    """Out along one conductor to the board, back along the other from the far end: two ways round."""
    return parallel(x * first + (1 - x) * other, (1 - x) * first + x * other)


def left_in_place(first, other, x):
    """Out and back along both conductors, either way round, to the link at the board."""
    return parallel(x * (first + other), (1 - x) * (first + other))


def bench_of(*circuits, number=0, **origin):
    judgement = judged(board(*circuits), **origin)
    return judgement.benches[number], judgement


def a_ring(*each, **fields):
    return bench_of(ring_circuit(1, points=points(*each), **fields))


SOUND = {"line_neutral_ohm": "0.23", "line_cpc_ohm": "0.30"}


@pytest.mark.parametrize(
    ("method", "form", "fields"),
    [
        ("ends cross-connected", "ring", ("line_neutral_ohm", "line_cpc_ohm")),
        ("ring left in place", "ring", ("line_neutral_ohm", "line_cpc_ohm")),
        ("sockets compared", "ring", ("line_neutral_ohm", "line_cpc_ohm")),
        ("long lead", "ring", ("r2_ohm",)),
        ("ends cross-connected", "radial", ("line_cpc_ohm",)),
        ("long lead", "radial", ("r2_ohm",)),
    ],
)
def test_the_figures_of_a_point_follow_how_its_circuit_is_tested(method, form, fields):
    make = ring_circuit if form == "ring" else circuit
    bench, _ = bench_of(make(1, "Sockets", continuity_method=method, points=points({}, {})))
    assert (bench.method, bench.fields) == (method, fields)


def test_a_reading_taken_another_way_is_not_hidden():
    bench, _ = a_ring({"r2_ohm": "0.19"}, {})
    assert bench.fields == ("line_neutral_ohm", "line_cpc_ohm", "r2_ohm")


def test_an_open_ring_is_tested_by_its_legs():
    bench, _ = a_ring({}, {}, r1_ohm="OL")
    assert bench.open and bench.fields == ("leg_one_ohm", "leg_two_ohm")
    assert bench.curves == () and bench.highest is None


@pytest.mark.parametrize(
    ("method", "solve"), [("ends cross-connected", cross_connected), ("ring left in place", left_in_place)]
)
def test_what_is_expected_round_the_ring(method, solve):
    bench, _ = a_ring({}, {}, continuity_method=method)
    drawn = {curve.field: dict(curve.values) for curve in bench.curves}
    for step in range(1, STEPS):
        x = step / STEPS
        assert drawn["line_cpc_ohm"][x] == pytest.approx(solve(0.46, 0.76, x))
    assert max(drawn["line_neutral_ohm"].values()) == pytest.approx((0.46 + 0.46) / 4)


def test_ends_in_doubt_lead_to_no_expected_value_at_the_points():
    # The neutral is a loose joint higher: both what it bends and where points stand cannot be said.
    bench, _ = a_ring(SOUND, SOUND, rn_ohm="0.75")
    assert "line_neutral_ohm" not in {curve.field for curve in bench.curves}


@given(st.integers(1, 24), st.floats(20, 90), st.sampled_from(["ends cross-connected", "ring left in place"]))
def test_points_of_a_sound_ring_stand_in_the_order_of_the_walk(count, length, method):
    r1, r2 = length * LINE, length * CPC
    solve = cross_connected if method == "ends cross-connected" else left_in_place
    places = [(n + 1) / (count + 1) for n in range(count)]
    read = [{"line_neutral_ohm": f"{solve(r1, r1, x):.2f}", "line_cpc_ohm": f"{solve(r1, r2, x):.2f}"} for x in places]
    ends = {"r1_ohm": f"{r1:.2f}", "rn_ohm": f"{r1:.2f}", "r2_ohm": f"{r2:.2f}", "r1_r2_ohm": None}
    bench, _ = a_ring(*read, continuity_method=method, **ends)
    assert [p.walked for p in bench.points] == pytest.approx(places)
    stand = [p.position for p in bench.points]
    assert all(place is not None and 0 <= place <= 1 for place in stand) and stand == sorted(stand)
    assert not any(p.again or p.says or p.spur_m for p in bench.points)


def test_a_point_stands_where_its_reading_says_although_most_were_not_measured_yet():
    # The first of nine, near the board: not the middle of the one that was measured.
    bench, _ = a_ring({"line_neutral_ohm": "0.23", "line_cpc_ohm": "0.29"}, *({} for _ in range(8)))
    assert bench.points[0].position == pytest.approx(0.1, abs=0.05)
    assert [p.tested for p in bench.points] == [True] + [False] * 8


def test_a_spur_is_drawn_with_its_metres_and_the_highest_is_carried_up():
    # 5 m more of both conductors.
    more = {"line_neutral_ohm": f"{0.23 + 2 * LINE * 5:.2f}", "line_cpc_ohm": f"{0.305 + (LINE + CPC) * 5:.2f}"}
    bench, _ = a_ring(SOUND, SOUND, more, SOUND, SOUND)
    spur = bench.points[2]
    assert spur.spur_m == pytest.approx(5, abs=0.7)
    assert spur.says == f"spur, about {spur.spur_m:.1f} m"
    assert (bench.highest.point_id, bench.highest.text, bench.highest.to) == ("p2", "0.40", "r1_r2_ohm")


def test_a_radial_is_drawn_by_the_cable_that_its_readings_lead_to():
    read = [{"line_cpc_ohm": f"{(LINE + CPC) * metres:.2f}"} for metres in (8, 14, 22)]
    bench, _ = bench_of(circuit(1, "Sockets", "sockets", points=points(*read)))
    assert [p.from_board_m for p in bench.points] == pytest.approx([8, 14, 22], abs=0.4)
    assert bench.length_m == pytest.approx(22, abs=0.4) and bench.highest.point_id == "p2"


def test_by_long_lead_the_cpc_alone_gives_the_distance():
    read = [{"r2_ohm": f"{CPC * metres:.2f}"} for metres in (10, 20)]
    bench, _ = bench_of(circuit(1, "Sockets", "sockets", continuity_method="long lead", points=points(*read)))
    assert [p.from_board_m for p in bench.points] == pytest.approx([10, 20], abs=0.5)
    assert bench.highest.to == "long_lead_r2_ohm"


def test_as_expected_counts_as_tested():
    bench, _ = a_ring({"tested": True}, {})
    assert [p.tested for p in bench.points] == [True, False]


def test_a_contact_asks_for_a_retest_and_no_longer_once_it_was_made():
    high = {"line_neutral_ohm": "0.55", "line_cpc_ohm": "0.31"}
    before, _ = a_ring(SOUND, high, SOUND)
    after, _ = a_ring(SOUND, high | {"retested": True}, SOUND)
    assert (before.points[1].says, before.points[1].again) == ("contact", True)
    assert (after.points[1].says, after.points[1].again) == ("contact", False)


def test_a_reading_put_aside_for_a_retest_stands_against_the_point_until_there_is_one():
    aside = {"first_line_cpc_ohm": "0.52", "line_neutral_ohm": "0.23", "retested": True}
    _, waiting = a_ring(SOUND, aside, SOUND)
    assert figures(waiting, "p1", "line_cpc_ohm") == ["unknown"]
    assert any("retest" in one.says for one in waiting.against)
    _, done = a_ring(SOUND, aside | {"line_cpc_ohm": "0.30"}, SOUND)
    assert figures(done, "p1", "line_cpc_ohm") == []


def test_left_in_place_a_point_over_the_most_of_the_ring_is_named_and_its_retest_asked_for():
    sound = [{"line_cpc_ohm": f"{left_in_place(0.46, 0.76, x):.2f}"} for x in (0.25, 0.5, 0.75)]
    # The most is a quarter of both: 0.305 Ω.
    sound[1] = {"line_cpc_ohm": "0.45"}
    bench, judgement = a_ring(*sound, continuity_method="ring left in place")
    assert [p.again for p in bench.points] == [False, True, False]
    assert figures(judgement, "p1", "line_cpc_ohm") == ["attention"]
    assert not any(finding.kind == "wrong-pairing" for finding in judgement.rings["c1"].findings)


def test_left_in_place_an_open_cpc_at_a_point_fails():
    each = ({"line_neutral_ohm": "0.17", "line_cpc_ohm": "OL"}, {"line_neutral_ohm": "0.22", "line_cpc_ohm": "0.29"})
    _, judgement = a_ring(*each, continuity_method="ring left in place")
    assert figures(judgement, "p0", "line_cpc_ohm") == ["fail"]


def test_the_circuits_own_way_of_testing_decides_what_is_asked_of_it():
    asked = {
        one.entity_id: one.fields
        for one in judged(board(circuit(1, "Sockets", "sockets", continuity_method="long lead"))).progress.asked
        if one.stage == "dead"
    }
    assert "long_lead_r2_ohm" in asked["c1"] and "r1_r2_ohm" not in asked["c1"]


LEG = {"first": "leg_one_ohm", "second": "leg_two_ohm"}


def legs(*each):
    """What the open line reads at each point from the first and from the second end."""
    return [{LEG["first"]: one, LEG["second"]: two} for one, two in each]


def test_the_gap_of_an_open_ring_lies_between_the_last_points_that_read_from_either_end():
    # 2.5 mm²: 7.41 mΩ a metre.
    each = legs(("0.05", "OL"), ("0.10", "OL"), ("OL", "0.20"), ("OL", "0.06"))
    bench, judgement = a_ring(*each, r1_ohm="OL")
    assert (bench.gap.before, bench.gap.after) == ("p1", "p2")
    assert "point 1, about 13 m from the first end, and point 2, about 27 m from the second end" in bench.gap.says
    assert [n.verdict.reason for n in judgement.notes if n.title.endswith("where it is open")] == [bench.gap.says]


def test_the_open_cpc_is_thinner_and_its_metres_are_fewer():
    bench, _ = a_ring(*legs(("0.12", "OL"), ("OL", "0.24")), r2_ohm="OL")
    assert "point 0, about 10 m from the first end, and point 1, about 20 m from the second end" in bench.gap.says


def test_read_from_one_end_alone_the_gap_is_beyond_it():
    bench, _ = a_ring(*legs(("0.05", None), ("OL", None)), r1_ohm="OL")
    assert (bench.gap.before, bench.gap.after) == ("p0", None) and "beyond point 0" in bench.gap.says


def test_legs_that_overlap_name_no_gap():
    bench, _ = a_ring(*legs(("0.05", "0.30"), ("0.10", "0.20")), r1_ohm="OL")
    assert (bench.gap.before, bench.gap.after) == (None, None) and "slip" in bench.gap.says


def test_a_closed_ring_has_no_gap():
    bench, _ = a_ring(*legs(("0.05", "OL"), ("OL", "0.20")))
    assert bench.gap is None


def test_sockets_compared_name_the_one_that_stands_out_and_an_open_cpc():
    odd = {"line_neutral_ohm": "0.61", "line_cpc_ohm": "0.31"}
    bench, judgement = a_ring(SOUND, SOUND, odd, SOUND, SOUND, continuity_method="sockets compared")
    assert [p.says for p in bench.points] == ["", "", "odd one out", "", ""]
    assert figures(judgement, "p2", "line_neutral_ohm") == ["attention"]
    no_cpc = {"line_neutral_ohm": "0.23", "line_cpc_ohm": "OL"}
    _, judgement = a_ring(SOUND, no_cpc, SOUND, continuity_method="sockets compared")
    assert figures(judgement, "p1", "line_cpc_ohm") == ["fail"]
