"""What a circuit's loop impedance is drawn against: limits, the sum of the dead tests, earlier readings."""

import pytest

from tests.core.whole_homes import RCD, board, circuit, judged


def scale_of(*circuits, zdb="0.21", **origin):
    (scale, *_) = judged(board(*circuits, zdb_ohm=zdb), **origin).zs_scales
    return scale


def test_the_device_sets_the_limit_and_a_cold_reading_is_held_to_eight_tenths_of_it():
    # 0.95 × 230 V / (5 × 32 A) = 1.37 Ω for B32.
    scale = scale_of(circuit(1, "Cooker", device_rating_a=32, r1_r2_ohm="0.30", zs_ohm="0.52"))
    assert scale.full_ohm == pytest.approx(0.95 * 230 / 160, abs=0.005)
    assert scale.held_ohm == pytest.approx(0.8 * scale.full_ohm)
    assert (scale.sum_ohm, scale.read_ohm, scale.over) == (pytest.approx(0.51), 0.52, False)


def test_the_firm_may_hold_it_to_the_full_limit():
    scale = scale_of(circuit(1, "Cooker", device_rating_a=32), house_rules={"zs_basis": 1.0})
    assert scale.held_ohm == scale.full_ohm


def test_on_an_electrode_the_rcd_sets_the_limit():
    scale = scale_of(circuit(1, "Sockets", **RCD), earthing="TT", ze_ohm="80", zdb="80")
    # 50 V at 30 mA.
    assert scale.full_ohm == scale.held_ohm == pytest.approx(1667, abs=1)


def test_over_range_is_told_apart_from_not_measured():
    assert scale_of(circuit(1, "Cooker", zs_ohm="OL")).over
    empty = scale_of(circuit(1, "Cooker"))
    assert (empty.over, empty.read_ohm, empty.sum_ohm) == (False, None, None)


def test_an_unknown_device_has_no_scale():
    assert judged(board(circuit(1, "Cooker", device_type=None))).zs_scales == ()


def test_earlier_readings_stand_in_the_order_of_their_years():
    earlier = [
        {"id": "e1", "figure": "zs_ohm", "measured_on": "2021-05-02", "reading": "0.51"},
        {"id": "e2", "figure": "zs_ohm", "measured_on": "2016-04-11", "reading": "0.48"},
        {"id": "e3", "figure": "r1_r2_ohm", "measured_on": "2016-04-11", "reading": "0.30"},
    ]
    scale = scale_of(circuit(1, "Cooker", earlier=earlier))
    assert [(one.on, one.value) for one in scale.before] == [("2016-04-11", 0.48), ("2021-05-02", 0.51)]
