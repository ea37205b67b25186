"""Nothing passes on part of what it speaks of; what the known part settles stands (the third principle)."""

import pytest

from dorrik.core.basics.readings import Reading
from dorrik.core.electrical import insulation
from tests.core.whole_homes import RCD, board, circuit, figures, judged, offered

R = Reading.parse


def sums(judgement):
    return {one.field: one for one in judgement.board_sums}


def measured(number, mohm, **fields):
    return circuit(number, f"Circuit {number}", **({"insulation_lne_mohm": mohm} if mohm else {}), **fields)


def test_a_board_with_circuits_not_in_it_names_them_and_does_not_pass():
    home = board(measured(1, "200"), measured(2, "310"), measured(3, None), measured(4, "LIM"), measured(5, "N/V"))
    one = sums(judged(home))["insulation_lne_mohm"]
    assert one.verdict.status == "unknown"
    assert one.missing == ("3 Circuit 3", "4 Circuit 4", "5 Circuit 5")
    assert "3 of 5 not in it" in one.verdict.reason


def test_what_does_not_apply_is_not_missing():
    home = board(measured(1, "200"), measured(2, "N/A"))
    assert sums(judged(home))["insulation_lne_mohm"].verdict.status == "pass"


def test_the_known_circuits_can_fail_a_board():
    home = board(measured(1, "0.6"), measured(2, None))
    assert sums(judged(home))["insulation_lne_mohm"].verdict.status == "fail"
    # By its upper bound as well.
    home = board(measured(1, "<0.5"), measured(2, None))
    assert sums(judged(home))["insulation_lne_mohm"].verdict.status == "fail"


def test_line_and_neutral_apart_are_one_circuit_to_earth():
    # L–E 1.5 and N–E 2.0 in parallel: 0.857 MΩ, though each passes by itself.
    apart = circuit(1, "Old lights", insulation_le_mohm="1.5", insulation_ne_mohm="2.0")
    one = sums(judged(board(apart, measured(2, "200"))))["insulation_lne_mohm"]
    assert one.verdict.status == "fail" and str(one.combined) == "0.85"
    assert one.culprits == ("1 Old lights",)


def test_half_a_pairing_is_an_upper_bound():
    assert str(insulation.to_earth(None, R("3.0"), None)) == "<3.00"
    half = circuit(1, "Lights", insulation_le_mohm="300")
    one = sums(judged(board(half, measured(2, "200"))))["insulation_lne_mohm"]
    assert one.verdict.status == "unknown" and one.missing == ("1 Lights",)


def test_line_to_neutral_may_be_left_out_where_it_is_joined_to_earth():
    home = board(measured(1, "200", insulation_ln_mohm=">500"), measured(2, "310"))
    assert set(sums(judged(home))) == {"insulation_lne_mohm"}


def test_a_load_left_in_is_no_damage_of_the_board():
    home = board(measured(1, "200", insulation_ln_mohm="0.01"), measured(2, "310", insulation_ln_mohm=">500"))
    judgement = judged(home)
    assert offered(judgement) == {}
    assert figures(judgement, "c1", "insulation_ln_mohm") == ["attention"]


def test_a_board_reading_far_under_its_circuits_is_asked_about():
    home = board(measured(1, "200"), measured(2, "200"), insulation_lne_mohm="12")
    assert "attention" in figures(judged(home), "b", "insulation_lne_mohm")
    home = board(measured(1, "200"), measured(2, "200"), insulation_lne_mohm="88")
    assert figures(judged(home), "b", "insulation_lne_mohm") == ["pass"]


@pytest.mark.parametrize(
    ("bond", "field", "status"),
    [
        ({"at_clamp_ohm": "0.01"}, "at_clamp_ohm", "unknown"),  # the clamp's own contact is not in it
        ({"at_clamp_ohm": "0.30"}, "at_clamp_ohm", "fail"),
        ({"at_pipe_ohm": "0.01"}, "at_pipe_ohm", "pass"),
        # 30 m of 10 mm² lead to 0.055 Ω: the joint is good, the run is long.
        ({"at_pipe_ohm": "0.07", "csa_mm2": 10, "length_m": 30}, "at_pipe_ohm", "attention"),
        ({"at_pipe_ohm": "0.14", "csa_mm2": 10, "length_m": 30}, "at_pipe_ohm", "fail"),
    ],
)
def test_bonds(bond, field, status):
    judgement = judged(
        board(circuit(1, "Cooker", **RCD)), bonds=[{"id": "w", "service": "water", "state": "present"} | bond]
    )
    assert figures(judgement, "w", field) == [status]


def test_the_other_school_of_bonds_lets_a_long_sound_run_pass():
    bonds = [{"id": "w", "service": "water", "state": "present", "at_pipe_ohm": "0.07", "csa_mm2": 10, "length_m": 30}]
    judgement = judged(
        board(circuit(1, "Cooker", **RCD)), bonds=bonds, house_rules={"bonding_limit": "its length plus 0.05 Ω"}
    )
    assert figures(judgement, "w", "at_pipe_ohm") == ["pass"]


def test_a_painted_clamp_is_one_finding():
    bonds = [{"id": "w", "service": "water", "state": "present", "at_clamp_ohm": "0.02", "at_pipe_ohm": "0.31"}]
    (one,) = judged(board(circuit(1, "Cooker", **RCD)), bonds=bonds).suggested
    assert (one.key, one.code, len(one.because)) == ("bond-high", "C2", 1)


def test_a_bond_not_seen_but_measured_at_the_pipe_is_proved():
    bonds = [{"id": "w", "service": "water", "state": "not seen", "at_pipe_ohm": "0.02"}]
    assert offered(judged(board(circuit(1, "Cooker", **RCD)), bonds=bonds)) == {}


@pytest.mark.parametrize(
    ("ohm", "ia", "status"),
    # 50 V / 0.03 A = 1667 Ω; 50 V / 160 A = 0.3125 Ω.
    [("0.4", {"rcd_rated_ma": 30}, "pass"), ("0.2", {"device_rating_a": 32, "line_csa_mm2": 6}, "pass"),
     ("0.6", {"device_rating_a": 32, "line_csa_mm2": 6}, "fail")],
)  # fmt: skip
def test_supplementary_bonding_between_what_is_touched_together(ohm, ia, status):
    outlet = {"id": "p", "accessible_with": "bath taps", "supplementary_ohm": ohm}
    judgement = judged(board(circuit(1, "Shower", points=[outlet], **ia)))
    assert figures(judgement, "p", "supplementary_ohm") == [status]


def test_fault_current_behind_a_fuse_of_unknown_standard_is_not_passed():
    home = board(circuit(1, "Cooker", **RCD), conditional_ka=16)
    assert figures(judged(home, pscc_ka="7.2", pefc_ka=None), "b", "conditional_ka") == ["pass"]
    unknown = judged(home, pscc_ka="7.2", pefc_ka=None, service_fuse_standard="not verifiable")
    assert figures(unknown, "b", "conditional_ka") == ["unknown"]


def test_a_board_further_on_goes_by_its_own_zdb():
    feed = circuit(1, "Sub-main", "distribution", device_rating_a=63, line_csa_mm2=16, device_breaking_ka=10, **RCD)
    far = {"id": "f", "name": "Flat", "fed_by": "c1", "zdb_ohm": "0.05", "circuits": [circuit(2, "Cooker", **RCD)]}
    # 230 V / 0.05 Ω = 4.6 kA there, though 7.2 kA flow at the origin.
    judgement = judged(board(feed), far, pscc_ka="7.2", pefc_ka=None, ze_ohm="0.03")
    assert figures(judgement, "f", "conditional_ka") == ["pass"]
