"""Cables beside their devices: one load, rings, imperial and other cables (rules 9.1, 9.2, 9.4, 433.1.204)."""

import pytest

from dorrik.core.electrical import overload
from tests.core.whole_homes import RCD, board, circuit, figures, judged, offered, points, ring


def heater(**fields):
    # 20 A on 1.0 mm² clipped direct, which carries 16 A.
    return circuit(1, "Heater", line_csa_mm2=1, cpc_csa_mm2=1, device_rating_a=20, **fields)


def test_a_device_above_its_cable_fails_unless_its_one_load_is_fused_for_it():
    assert figures(judged(board(heater())), "c1", "device_rating_a") == ["fail"]
    alone = judged(board(heater(one_fused_load=True, load_fuse_a=13)))
    assert figures(alone, "c1", "device_rating_a") == ["attention"]


def test_one_fused_load_with_a_socket_at_its_points_is_asked_about_and_does_not_excuse_the_device():
    outlets = points({"kind": "fused unit"}, {"kind": "socket"})
    judgement = judged(board(heater(one_fused_load=True, load_fuse_a=13, points=outlets, **RCD)))
    assert figures(judgement, "c1", "device_rating_a") == ["fail"]
    assert figures(judgement, "c1", "one_fused_load") == ["attention"]


def test_points_that_show_one_fused_unit_alone_offer_to_say_so():
    judgement = judged(board(heater(points=points({"kind": "fused unit"}))))
    (note,) = [n for n in judgement.notes if n.figure == ("c1", "device_rating_a")]
    assert note.status == "attention"
    assert [(o.field, o.value) for o in note.offers] == [("one_fused_load", True)]


@pytest.mark.parametrize(
    ("csa", "kind", "status"),
    [(2.5, None, "pass"), (1.5, None, "fail"), (1.5, "mineral insulated", "pass"), (1.0, "mineral insulated", "fail")],
)
def test_a_ring_on_32_a_is_2_5_mm2_or_1_5_mm2_mineral_insulated(csa, kind, status):
    cable = overload.Cable(csa_mm2=csa, method="C", **({"type": kind} if kind else {}))
    assert overload.judge("BS EN 60898", 32, cable, "ring").status == status


def test_a_ring_drops_a_quarter():
    # 18 mV/A/m, 100 m, 26 A: 46.8 V as a radial, 11.7 V round a ring, above 11.5 V.
    assert overload.voltage_drop_v(2.5, 100, 26) == pytest.approx(46.8)
    assert overload.voltage_drop_v(2.5, 100, 26, ring=True) == pytest.approx(11.7)
    assert overload.judge_voltage_drop(2.5, 98, 26, lighting=False, ring=True).status == "pass"
    home = judged(board(ring(1, cable_length_m=110, design_current_a=26, **RCD)))
    assert set(offered(home)) == {"voltage-drop"}


@pytest.mark.parametrize(
    ("size", "rating", "status"),
    # 7/.029 goes as 2.5 mm² (27 A clipped direct), 3/.029 as 1.0 mm² (16 A).
    [("7/.029", 25, "pass"), ("7/.029", 32, "fail"), ("3/.029", 16, "pass"), ("3/.029", 20, "fail")],
)
def test_an_imperial_size_carries_what_its_metric_one_does(size, rating, status):
    old = circuit(1, "Sockets", "fixed", line_csa_mm2=None, imperial=size, device_rating_a=rating)
    assert figures(judged(board(old)), "c1", "device_rating_a") == [status]


def test_factors_for_grouping_and_warmth_lower_what_a_cable_carries():
    # 27 A · 0.7 = 18.9 A, below 20 A.
    assert figures(judged(board(circuit(1, "Fire", device_rating_a=20))), "c1", "device_rating_a") == ["pass"]
    grouped = circuit(1, "Fire", device_rating_a=20, rating_factor=0.7)
    assert figures(judged(board(grouped)), "c1", "device_rating_a") == ["fail"]


def test_a_method_that_nobody_knows_is_judged_by_the_mildest_and_the_worst():
    # 2.5 mm²: 27 A clipped direct and 13.5 A in insulation on all sides.
    unknown = {"cable_method": overload.NOT_KNOWN}
    ratings = {6: "pass", 20: "attention", 32: "fail"}
    for rating, status in ratings.items():
        home = board(circuit(1, "Fire", device_rating_a=rating, **unknown))
        assert figures(judged(home), "c1", "device_rating_a") == [status]
