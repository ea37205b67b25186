"""What the inspection knows moves a code; what it does not know is asked (rules 13.2, 13.6). Codes as they are given in
the field, written down here apart from the catalogue."""

import pytest

from dorrik.core.book.catalogue import entries
from dorrik.core.book.codes import CODES
from dorrik.core.judging.result import classification
from tests.core.whole_homes import RCD, board, circuit, judged, points, ring


def suggestion(judgement, key):
    return next(one for one in judgement.suggested if one.key == key)


BATH = {"bathroom": True, "device_rating_a": 6, "line_csa_mm2": 1.5, "cpc_csa_mm2": 1}


@pytest.mark.parametrize(
    ("bonding", "code", "asks"),
    [
        # Present by its tick alone is not proved: its reading is (rule 3.7).
        ("present", "C3", True),
        ("missing", "C2", False),
        (None, "C3", True),  # it decides, so that without it nothing graver is suggested: it is asked
        ("not seen", "C3", True),
    ],
)
def test_a_bathroom_without_rcd_goes_by_its_supplementary_bonding(bonding, code, asks):
    lights = circuit(1, "Bathroom", "lighting", supplementary_bonding=bonding, **BATH)
    found = suggestion(judged(board(lights)), "rcd-missing-bathroom")
    assert found.code == code
    assert any(q.fact == "supplementary-missing" and q.code == "C2" for q in found.questions) is asks


@pytest.mark.parametrize(
    ("reading", "code"),
    # 6 A type B: 30 A within 5 s, 50/30 = 1.67 Ω.
    [("0.30", "C3"), ("1.60", "C3"), ("1.80", "C2"), ("900", "C2"), ("OL", "C2"), ("LIM behind tiles", "C3")],
)
def test_supplementary_bonding_counts_by_its_reading(reading, code):
    outlet = {"kind": "light", "bathroom": True, "supplementary_ohm": reading, "accessible_with": "towel rail"}
    lights = circuit(1, "Bathroom", "lighting", supplementary_bonding="present", points=points(outlet), **BATH)
    assert suggestion(judged(board(lights)), "rcd-missing-bathroom").code == code


@pytest.mark.parametrize(
    ("storey", "code", "asks"),
    [("house or ground floor", "C2", False), ("upper floor flat", "C3", False), (None, "C2", True)],
)
def test_a_socket_for_outdoors_on_an_upper_floor(storey, code, asks):
    found = suggestion(judged(board(ring(1, outdoors=True)), storey=storey), "rcd-missing-outdoor")
    assert (found.code, bool(found.questions)) == (code, asks)


@pytest.mark.parametrize(
    ("fields", "code"),
    [
        ({}, "C2"),
        (RCD, "C3"),
        (RCD | {"rcd_rated_ma": 300}, "C3"),
        # What is dead, slow, untested or fails on its button lowers nothing.
        (RCD | {"rcd_trip_ms": "OL"}, "C2"),
        (RCD | {"rcd_trip_ms": "412"}, "C2"),
        (RCD | {"rcd_trip_ms": "LIM"}, "C2"),
        (RCD | {"rcd_trip_ms": None}, "C2"),
        (RCD | {"rcd_button": "incorrect"}, "C2"),
        # Nor where the loop is not what Zdb + (R1+R2) leads to: 0.21 + 2.40 = 2.61 Ω.
        (RCD | {"r1_r2_ohm": "2.40"}, "C2"),
        (RCD | {"r1_r2_ohm": None}, "C2"),
    ],
)
def test_a_loop_above_its_limit_with_an_rcd_in_front(fields, code):
    cooker = circuit(1, "Cooker", **{"zs_ohm": "3.40", "r1_r2_ohm": "3.20"} | fields)
    assert suggestion(judged(board(cooker, zdb_ohm="0.21")), "zs-above-limit").code == code


@pytest.mark.parametrize(
    ("point", "code"),
    [
        ({"kind": "socket"}, "C2"),
        ({"kind": "switch", "front": "metal"}, "C2"),
        ({"kind": "switch", "front": "insulating"}, "C3"),
        ({"kind": "light"}, "C2"),
    ],
)
def test_a_point_without_earth_by_what_it_is(point, code):
    lights = circuit(1, "Lights", "lighting", points=points(point | {"line_cpc_ohm": "OL"}), **RCD)
    found = suggestion(judged(board(lights)), "no-cpc-at-point")
    assert found.code == code
    assert any(q.fact == "insulating-front" for q in found.questions) is (point == {"kind": "light"})


@pytest.mark.parametrize(
    ("fronts", "notice", "code"),
    [
        (("insulating", "insulating"), None, "C3"),
        (("insulating", "metal"), None, "C2"),
        (("insulating", "metal"), True, "C2"),
        (("insulating", "insulating"), True, None),
    ],
)
def test_a_circuit_wired_without_a_cpc(fronts, notice, code):
    each = ({"kind": "light", "front": front} for front in fronts)
    lights = circuit(1, "Lights", "lighting", no_cpc=True, points=points(*each), **RCD)
    found = [one.code for one in judged(board(lights, no_cpc_notice=notice)).suggested]
    assert found == ([code] if code else [])


@pytest.mark.parametrize(
    "fields",
    [
        {"serves": "sockets"},
        {"serves": "fixed"},
        {"serves": "fixed", "appliance": "shower"},
        {"serves": "lighting", "points": points({"kind": "fused unit", "front": "insulating", "class_ii": True})},
        {"serves": "lighting", "points": points({"kind": "socket", "front": "insulating"})},
    ],
)
@pytest.mark.parametrize("notice", [None, True])
def test_nothing_excuses_a_missing_cpc_where_an_earth_is_needed(fields, notice):
    """A notice at the board and plates of plastic change nothing of it (rule 5.2)."""
    bare = circuit(1, "Old", **{"no_cpc": True, **fields}, **RCD)
    found = suggestion(judged(board(bare, no_cpc_notice=notice)), "circuit-without-cpc")
    assert found.code == "C2"


def test_a_notice_over_points_that_nobody_listed_silences_nothing():
    lights = circuit(1, "Lights", "lighting", no_cpc=True, **RCD)
    assert suggestion(judged(board(lights, no_cpc_notice=True)), "circuit-without-cpc").code == "C3"


# Sound and not under the only escape route it is no finding; heat makes it one anywhere (observations).
@pytest.mark.parametrize(("way_out", "code"), [(True, "C3"), (False, "note"), (None, "note")])
def test_a_combustible_enclosure_by_where_it_is(way_out, code):
    home = board(
        circuit(1, "Cooker", **RCD),
        only_way_out=way_out,
        checks=[{"id": "k", "item": "enclosure", "state": "not good"}],
    )
    found = suggestion(judged(home), "combustible-enclosure")
    assert found.code == code
    assert any(q.fact == "only-way-out" for q in found.questions) is (way_out is None)
    home["checks"].append({"id": "h", "item": "heat", "state": "not good"})
    assert suggestion(judged(home), "combustible-enclosure").code == "C2"


@pytest.mark.parametrize(("rating", "code"), [(32, "C2"), (20, "C3")])
def test_an_open_ring_whose_device_was_lowered(rating, code):
    found = suggestion(judged(board(ring(1, rn_ohm="OL", device_rating_a=rating, **RCD))), "ring-open")
    assert found.code == code


def test_a_ring_s_cpc_that_has_risen_since_last_time():
    earlier = [{"id": "e", "measured_on": "2021-11-03", "figure": "r2_ohm", "reading": "0.77"}]
    loose = {"r2_ohm": "1.80", "r1_r2_ohm": None}
    assert suggestion(judged(board(ring(1, **loose, **RCD))), "ring-cpc-high").code == "FI"
    assert suggestion(judged(board(ring(1, earlier=earlier, **loose, **RCD))), "ring-cpc-high").code == "C2"


@pytest.mark.parametrize(
    ("school", "code"),
    # The stricter does not follow to a milder code than its own, the milder not to a graver one.
    [("mainstream", "C3"), ("stricter", "C2"), ("milder", "C3")],
)
def test_each_school_follows_a_move_as_far_as_it_would(school, code):
    placed = classification.place("rcd-missing-outdoor", school, lambda fact: fact == "upper-floor-flat")
    assert placed.code == code


def test_a_move_says_why():
    placed = classification.place("combustible-enclosure", "mainstream", lambda fact: True)
    assert placed.code == "C2" and "heat" in placed.moved


@pytest.mark.parametrize("key", list(entries()))
def test_what_moves_an_entry_leads_to_a_code_and_can_be_asked(key):
    for fact in entries()[key].facts:
        assert fact.code in (*CODES, "note") and fact.ask.endswith("?") and fact.says
        assert fact.code != entries()[key].code


OLD = {"device_standard": "BS 3036", "device_type": "rewirable"}


def test_a_sound_old_fuse_board_gets_no_code_that_makes_it_unsatisfactory():
    """Rewirable fuses, no RCD, thin bonds, fault current above the fuses' own capacity, middling insulation."""
    home = board(
        ring(1, device_rating_a=30, r1_ohm="0.40", rn_ohm="0.40", r2_ohm="0.66", r1_r2_ohm="0.27", zs_ohm="0.62",
             insulation_lne_mohm="22", **OLD),
        circuit(2, "Cooker", device_rating_a=30, line_csa_mm2=6, cpc_csa_mm2=2.5, zs_ohm="0.50", r1_r2_ohm="0.12",
                insulation_lne_mohm="18", **OLD),
        circuit(3, "Lights", "lighting", device_rating_a=5, line_csa_mm2=1.5, cpc_csa_mm2=1, zs_ohm="1.20",
                r1_r2_ohm="0.80", insulation_lne_mohm="9", **OLD),
        circuit(4, "Bathroom light", "lighting", supplementary_bonding="present", zs_ohm="1.20", r1_r2_ohm="0.80",
                insulation_lne_mohm="12", **BATH | {"device_rating_a": 5}, **OLD),
        spd_state="none",
    )  # fmt: skip
    bonds = [{"id": "w", "service": "water", "state": "present", "csa_mm2": 6, "length_m": 5, "at_pipe_ohm": "0.02"}]
    # It shows no heat: the question that could make the thin bond more serious is answered.
    answered = [{"id": "o", "about_entity": "bond", "about_id": "w", "text": "Bond thin", "code": "C3",
                 "catalogue_key": "bond-undersized", "answers": {"heat-signs": False}}]  # fmt: skip
    origin = {"earthing": "TN-S", "ze_ohm": "0.35", "pefc_ka": "0.66", "pscc_ka": "1.3", "bonds": bonds,
              "earthing_conductor_mm2": 6}  # fmt: skip
    judgement = judged(home, **origin)
    assert {one.code for one in judgement.suggested} == {"C3"}
    assert judgement.outcome == "open"
    # Everything tested, and the supplementary bonding that is relied on measured: nothing stands against it.
    for each in home["circuits"]:
        each["polarity"] = "correct"
    measured = {"kind": "light", "bathroom": True, "supplementary_ohm": "0.20", "accessible_with": "the bath"}
    home["circuits"][3]["points"] = points(measured)
    judgement = judged(home | {"zdb_ohm": "0.35"}, supply_polarity="correct", observations=answered, **origin)
    assert judgement.against == ()
    assert judgement.outcome == "satisfactory"
