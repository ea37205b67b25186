"""What is gone through live beside Zs and the RCDs; and what choosing a reason for no Zs raises."""

import pytest

from tests.core.whole_homes import board, circuit, judged, points

RCD = {"id": "r", "name": "RCD 1", "rated_ma": 30, "place": "its circuits"}
TRIPS = "RCD trips on the test"


def walked(judgement, board_id="b1"):
    return [
        (live_check.group, live_check.entity_id, live_check.field)
        for live_check in judgement.live_checks
        if live_check.board_id == board_id
    ]


def test_a_board_is_gone_through_surge_then_leakage_then_what_switches_in_the_order_of_the_walk():
    kinds = ("socket", "switch", "alarm", "light", "cooker outlet", "joint")
    rooms = [{"id": "hall", "name": "Hall", "position": 1}, {"id": "loft", "name": "Loft", "position": 2}]
    each = points(*({"kind": kind, "room_id": "loft"} for kind in kinds), {"kind": "switch", "room_id": "hall"})
    home = board(circuit(1, "Lights", points=each), spd_state="sound", spd_uc_v=275, rcds=[RCD])
    found = judged(home, rooms=rooms)
    assert [group for group, _, _ in walked(found, home["id"])] == ["surge", "leakage", "leakage", *["functional"] * 4]
    kind_of = {point["id"]: (point["kind"], point["room_id"]) for point in each}
    assert [kind_of[i] for group, i, _ in walked(found, home["id"]) if group == "functional"] == [
        ("switch", "hall"),
        ("switch", "loft"),
        ("alarm", "loft"),
        ("cooker outlet", "loft"),
    ]
    assert "Uc 275 V" in found.live_checks[0].hint


@pytest.mark.parametrize("state", ["none", None])
def test_no_varistor_test_without_a_device(state):
    home = board(circuit(1, "A"), **({"spd_state": state} if state else {}))
    assert [group for group, _, _ in walked(judged(home), home["id"])] == ["leakage"]


def test_what_was_not_reached_is_not_asked_and_what_hangs_on_no_circuit_is():
    lost = points({"kind": "switch", "not_reached": "locked"})
    home = board(circuit(1, "A", points=lost))
    found = judged(home, points=[{"id": "loose", "kind": "pull cord"}])
    assert [i for group, i, _ in walked(found, home["id"]) if group == "functional"] == ["loose"]


def test_the_button_of_an_arc_fault_device_is_asked_for_where_one_is_fitted():
    def asked(**fields):
        return [f for one in judged(board(circuit(1, "A", **fields))).progress.asked for f in one.fields]

    assert "afdd_button" in asked(afdd=True)
    assert "afdd_button" not in asked()
    judgement = judged(board(circuit(1, "A", afdd=True, afdd_button="incorrect")))
    assert [note.status for note in judgement.notes if note.field == "afdd_button"] == ["fail"]


def behind(*circuits, **rcd):
    return board(*(one | {"rcd_id": "r"} for one in circuits), rcds=[RCD | rcd])


def test_the_observation_comes_with_the_reason_where_the_device_held_at_half_its_rating():
    first, second = circuit(1, "A"), circuit(2, "B")
    (offer,) = judged(behind(first, second, half="correct")).not_possible
    assert (offer.reason, offer.key, offer.entity_id) == (TRIPS, "rcd-trips-on-test", "r")
    assert offer.circuit_ids == (first["id"], second["id"])
    # And it is what choosing the reason then does raise, once for the device.
    after = judged(behind(first | {"zs_not_possible": TRIPS, "zs_ohm": f"LIM {TRIPS}"}, second, half="correct"))
    assert [(one.key, one.entity_id) for one in after.suggested if one.key == offer.key] == [(offer.key, "r")]
    assert after.not_possible == ()


@pytest.mark.parametrize("half", [None, "incorrect", "LIM"])
def test_without_that_nothing_is_raised_by_a_tap(half):
    """Rule 7.4: the half test or the leakage comes first; a device that fails it is observed for that."""
    assert judged(behind(circuit(1, "A"), **({"half": half} if half else {}))).not_possible == ()


def test_where_the_leakage_has_said_why_it_trips_no_tap_says_otherwise():
    leaking = circuit(1, "A")
    assert judged(behind(leaking, half="correct", leakage_ma="12")).not_possible == ()
    # And choosing the reason raises nothing of the device there.
    after = judged(
        behind(leaking | {"zs_not_possible": TRIPS, "zs_ohm": f"LIM {TRIPS}"}, half="correct", leakage_ma="12")
    )
    assert not [one for one in after.suggested if one.key == "rcd-trips-on-test"]
    assert len(judged(behind(leaking, half="correct", leakage_ma="2")).not_possible) == 1


def test_a_loop_that_was_measured_or_an_observation_that_stands_asks_for_none():
    assert judged(behind(circuit(1, "A", zs_ohm="0.6"), half="correct")).not_possible == ()
    noted = [{"id": "o", "about_entity": "rcd", "about_id": "r", "catalogue_key": "rcd-trips-on-test", "code": "C3"}]
    assert judged(behind(circuit(1, "A"), half="correct"), observations=noted).not_possible == ()
