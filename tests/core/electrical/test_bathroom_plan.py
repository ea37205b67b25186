"""Distances round partitions, against what a string would measure."""

from math import hypot, inf

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dorrik.core.electrical.bathroom_plan import BathroomPlan, Partition
from dorrik.core.inspection.document import parse
from dorrik.core.judging.judgement import judge

#: A tray of 1 m by 1 m in the corner.
TRAY = ((0.0, 0.0), (1.0, 0.0), (1.0, 1.0), (0.0, 1.0))


@pytest.mark.parametrize(
    ("at", "expected"),
    [((0.5, 0.5), 0), ((1.0, 0.3), 0), ((1.6, 0.5), 0.6), ((1.3, 1.4), 0.5), ((0.5, 2.0), 1.0)],
)
def test_without_partitions_the_straight_way(at, expected):
    assert BathroomPlan(TRAY).distance_m(at) == pytest.approx(expected)


def test_a_screen_on_the_edge_of_the_tray_sends_the_string_round_its_end():
    # The screen stands on the whole right edge; the string goes round its upper end at (1, 1).
    plan = BathroomPlan(TRAY, (Partition((1.0, 0.0), (1.0, 1.0)),))
    assert plan.distance_m((1.4, 0.7)) == pytest.approx(hypot(0.4, 0.3))
    assert plan.zone((1.4, 0.7), 1.2) == "2"


def test_a_screen_beyond_the_tray_is_walked_round():
    # 0.3 m off the tray, from y = −1 to y = 1.5: up to its end, then down to the tray's corner (1, 1).
    plan = BathroomPlan(TRAY, (Partition((1.3, -1.0), (1.3, 1.5)),))
    expected = hypot(0.1, 1.2) + hypot(0.3, 0.5)
    assert plan.distance_m((1.4, 0.3)) == pytest.approx(expected)
    assert plan.zone((1.4, 0.3), 1.2) == "outside"


def test_two_screens_that_close_a_corner():
    box = (Partition((-1.0, 1.5), (1.5, 1.5)), Partition((1.5, 1.5), (1.5, -1.0)))
    plan = BathroomPlan(TRAY, box)
    assert plan.distance_m((1.6, 1.6)) > 2.0
    room = tuple(Partition(a, b) for a, b in zip(*(lambda c: (c, (*c[1:], c[0])))(_SQUARE), strict=True))
    assert BathroomPlan(TRAY, room).distance_m((3.0, 3.0)) == inf
    assert BathroomPlan(TRAY, room).zone((3.0, 3.0), 1.0) == "outside"


_SQUARE = ((-0.5, -0.5), (1.5, -0.5), (1.5, 1.5), (-0.5, 1.5))


def test_a_low_screen_does_not_screen_what_is_above_it():
    plan = BathroomPlan(TRAY, (Partition((1.2, -2.0), (1.2, 2.0), top_m=1.9),))
    assert plan.distance_m((1.4, 0.5), height_m=1.5) > 0.6
    assert plan.distance_m((1.4, 0.5), height_m=2.1) == pytest.approx(0.4)
    assert plan.zone((1.4, 0.5), 2.1) == "2"


def test_a_shower_without_a_basin_is_a_circle_round_its_outlet():
    plan = BathroomPlan(((0.0, 0.0),), shower_head_m=2.4)
    assert plan.zone((1.2, 0.0), 2.3) == "1"
    assert plan.zone((1.21, 0.0), 2.3) == "outside"
    screened = BathroomPlan(((0.0, 0.0),), (Partition((0.5, -1.0), (0.5, 1.0)),))
    assert screened.zone((0.8, 0.0), 1.0) == "outside"


def test_inside_the_tray_below_its_rim():
    assert BathroomPlan(TRAY).zone((0.5, 0.5), 0.05, below_rim=True) == "0"
    assert BathroomPlan(TRAY).zone((0.5, 0.5), 1.0) == "1"


places = st.tuples(st.floats(-3, 4), st.floats(-3, 4))


@given(places, places, places)
def test_a_partition_never_shortens_the_way(at, a, b):
    bare = BathroomPlan(TRAY).distance_m(at)
    assert BathroomPlan(TRAY, (Partition(a, b),)).distance_m(at) >= bare - 1e-9


@pytest.mark.parametrize(
    ("fields", "wanting"),
    [
        ({"kind": "light", "height_m": 2.0, "water_protection": 4}, False),
        ({"kind": "light", "height_m": 2.0, "water_protection": 2}, True),
        ({"kind": "light", "height_m": 2.0}, True),
        ({"kind": "light", "height_m": 2.0, "water_protection": 4, "jets": True}, True),
        ({"kind": "light", "height_m": 2.9}, False),
        ({"kind": "socket", "height_m": 0.4}, True),
    ],
)
def test_a_fitting_over_the_bath_is_wanting_until_its_mark_meets_the_zone(fields, wanting):
    """Zone 1 asks for IPX4, IPX5 where jets clean; above 2.25 m is no zone (BS 7671 701.32, 701.512.2)."""
    point = {"id": "p", "room_id": "r", "distance_m": 0} | fields
    room = {"id": "r", "name": "Bath", "kind": "bath or shower", "basin": "bath"}
    home = {"id": "i", "rooms": [room], "points": [point]}
    (view,) = judge(parse({"format": "dorrik-inspection", "version": 3, "inspection": home})).walk.points
    assert view.wanting is wanting
