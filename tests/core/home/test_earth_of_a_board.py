"""Earthing belongs to a board and is inherited down the tree (rule 3.2)."""

import pytest

from tests.core.whole_homes import RCD, board, circuit, figures, judged, offered


def house(**feed):
    return board(circuit(1, "Shed supply", "distribution", r1_r2_ohm="0.20", zs_ohm="0.42", **feed), zdb_ohm="0.22")


def shed(*circuits, **fields):
    usual = {"id": "s", "name": "Shed", "fed_by": "c1", "earthing": "own electrode", "electrode_alone": True}
    return {"circuits": list(circuits), **usual, **fields}


SOCKETS = circuit(2, "Shed sockets", "sockets", r1_r2_ohm="0.2", zs_ohm="97", **RCD)


def test_a_board_on_its_own_electrode_is_judged_as_tt_by_every_rule():
    judgement = judged(house(), shed(SOCKETS, electrode_ohm="96", zdb_ohm="96.5"))
    # 97 Ω behind 30 mA: 2.9 V, far within 50 V; the house's TN limit of 2.73 Ω has no say here.
    assert figures(judgement, "c2", "zs_ohm") == ["pass"]
    assert figures(judgement, "s", "electrode_ohm") == ["pass"]
    # 96.5 Ω is never held against the house's Ze of 0.21 Ω.
    assert figures(judgement, "s", "zdb_ohm") == []
    limit = next(e for e in judgement.expected if (e.entity_id, e.field) == ("c2", "zs_ohm"))
    assert limit.greatest == pytest.approx(1666.67, abs=0.01)
    assert offered(judgement) == {}


def test_a_board_that_is_fed_from_one_on_an_electrode_is_on_it_too():
    beyond = {
        "id": "g", "name": "Greenhouse", "fed_by": "c2",
        "circuits": [circuit(3, "Heater", zs_ohm="98", **RCD)],
    }  # fmt: skip
    feed = circuit(2, "Greenhouse supply", "distribution", zs_ohm="97", rcd_rated_ma=100)
    judgement = judged(house(), shed(feed, electrode_ohm="96"), beyond)
    assert figures(judgement, "c3", "zs_ohm") == ["pass"]


def test_without_an_rcd_the_electrode_speaks_once_for_all_its_circuits():
    lights = circuit(3, "Shed lights", "lighting", device_rating_a=6, zs_ohm="97")
    bare = {k: v for k, v in SOCKETS.items() if not k.startswith("rcd")}
    judgement = judged(house(), shed(bare, lights, electrode_ohm="96"))
    (one,) = judgement.suggested
    assert (one.key, one.code, one.entity_id, one.touches) == ("tt-without-rcd", "C2", "s", ("c2", "c3"))


def test_an_rcd_before_the_feeding_way_counts_for_the_outbuilding():
    bare = {k: v for k, v in SOCKETS.items() if not k.startswith("rcd")}
    judgement = judged(house(**RCD), shed(bare, electrode_ohm="96"))
    assert offered(judgement) == {}
    assert figures(judgement, "c2", "zs_ohm") == ["pass"]


@pytest.mark.parametrize(
    ("alone", "status"),
    [(True, "pass"), (None, "unknown"), (False, "unknown")],
)
def test_an_electrode_with_bonds_perhaps_still_on_passes_nothing(alone, status):
    judgement = judged(house(), shed(SOCKETS, electrode_ohm="96", electrode_alone=alone))
    assert figures(judgement, "s", "electrode_ohm") == [status]


def test_a_failure_needs_nobody_s_word():
    # 600 Ω with 100 mA gives 60 V, whatever else was still connected.
    feed = SOCKETS | {"rcd_rated_ma": 100}
    judgement = judged(house(), shed(feed, electrode_ohm="600", electrode_alone=None))
    assert figures(judgement, "s", "electrode_ohm") == ["fail"]


@pytest.mark.parametrize(("ra", "words"), [("0.12", "supply's own earth"), ("1.4", "metal pipes")])
def test_too_good_for_a_rod_is_asked_about(ra, words):
    judgement = judged(house(), shed(SOCKETS, electrode_ohm=ra))
    note = next(n for n in judgement.notes if n.figure == ("s", "electrode_ohm"))
    assert note.status == "attention" and words in note.verdict.reason


def test_on_the_supply_s_earth_a_board_further_on_is_held_beside_the_one_before():
    on_supply = shed(SOCKETS | {"zs_ohm": "0.62"}, earthing="of the supply", zdb_ohm="0.43")
    # 0.22 + 0.20 = 0.42 Ω: 0.43 agrees, though it is far above Ze.
    assert figures(judged(house(), on_supply), "s", "zdb_ohm") == []
    assert figures(judged(house(), on_supply | {"zdb_ohm": "0.80"}), "s", "zdb_ohm") == ["attention"]


def test_a_loop_of_boards_ends_where_it_closes():
    one = {"id": "x", "fed_by": "c2", "circuits": [circuit(1, "A")]}
    other = {"id": "y", "fed_by": "c1", "circuits": [circuit(2, "B")]}
    assert judged(one, other).notes


def test_an_exported_earth_with_metal_services_there():
    sockets = SOCKETS | {"zs_ohm": "0.62"}
    there = {"earthing": "of the supply", "outbuilding": True, "zdb_ohm": "0.42"}
    assert offered(judged(house(), shed(sockets, extraneous="bonded", **there))) == {"earth-exported": "C3"}
    assert offered(judged(house(), shed(sockets, extraneous="not bonded", **there))) == {"earth-exported": "C2"}
    assert offered(judged(house(), shed(sockets, extraneous="none", **there))) == {}
    assert offered(judged(house(), shed(sockets, extraneous="bonded", **there), earthing="TN-S", ze_ohm="0.4")) == {}


def test_a_small_earthing_conductor_to_an_electrode_gets_no_code():
    judgement = judged(
        board(circuit(1, "Cooker", zs_ohm="91", **RCD)), earthing="TT", ze_ohm="90", earthing_conductor_mm2=4
    )
    assert offered(judgement) == {}
    assert figures(judgement, "i", "earthing_conductor_mm2") == ["attention"]


def test_a_tn_s_whose_ze_is_an_electrode_s_is_named_so():
    judgement = judged(board(circuit(1, "Cooker")), earthing="TN-S", ze_ohm="46", pefc_ka="0.005")
    note = next(n for n in judgement.notes if n.figure == ("i", "ze_ohm"))
    assert note.status == "fail" and "supply's earth may be lost" in note.verdict.reason
    # The operator first: an electrode in fact is the second explanation (rule 3.1).
    assert note.verdict.reason.index("lost") < note.verdict.reason.index("electrode")


def test_earthed_by_a_water_pipe():
    assert offered(judged(board(circuit(1, "Cooker")), earth_by="water pipe")) == {"earthing-by-pipe": "C2"}
    assert offered(judged(board(circuit(1, "Cooker")), earth_by="electrode")) == {}
