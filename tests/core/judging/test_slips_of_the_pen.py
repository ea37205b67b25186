"""What cannot be is asked about and never judged quietly (rule 1.2)."""

from tests.core.whole_homes import RCD, board, circuit, figures, judged, offered, ring


def test_a_loop_under_that_of_its_own_board_cannot_be():
    home = judged(board(circuit(1, "Fire", zs_ohm="0.08", **RCD), zdb_ohm="0.21"))
    assert figures(home, "c1", "zs_ohm") == ["attention"]
    assert offered(home) == {}


def test_ohms_in_the_place_of_kiloamperes_are_no_reason_for_a_weak_device():
    # 0.21 Ω is 1.095 kA; an operator who writes 1095 has written amperes.
    home = judged(board(circuit(1, "Fire", device_breaking_ka=6, **RCD)), pefc_ka="1095")
    assert figures(home, "i", "pefc_ka") == ["attention"]
    assert offered(home) == {}


def test_a_cpc_below_its_line_on_a_ring_of_twin_and_earth_leads_to_no_code():
    # r2 of a 1.5 mm² cpc is 1.67 times r1; here the two were written in each other's place.
    home = judged(board(ring(1, r1_ohm="0.76", rn_ohm="0.76", r2_ohm="0.46", **RCD)))
    assert set(figures(home, "c1", "r2_ohm")) <= {"attention", "unknown"}
    assert not set(offered(home).values()) & {"C1", "C2"}
