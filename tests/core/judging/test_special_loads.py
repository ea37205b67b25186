"""Charge points, hot tubs, pools, hook-ups, and sources of their own (rules 8.2 to 8.4)."""

import pytest

from tests.core.whole_homes import RCD, board, circuit, figures, judged, offered

GUARD = {"neutral_guard": "device that watches the neutral"}
CHARGER = {"load": "vehicle", "rcd_kind": "A", "dc_detection": True, "vehicle_outdoors": True, **GUARD}


def charger(**fields):
    return board(circuit(1, "Charger", device_rating_a=32, line_csa_mm2=6, **(CHARGER | fields)))


@pytest.mark.parametrize(
    ("fields", "code"),
    [
        ({}, None),  # nobody entered whether one is built in: a question, no code
        ({"own_rcd": "30 mA or less"}, None),
        ({"own_rcd": "none"}, "C2"),
        ({"own_rcd": "more than 30 mA"}, "C2"),
        ({**RCD, "own_rcd": "none"}, None),
        ({**RCD, "rcd_rated_ma": 100, "own_rcd": "none"}, "C2"),
    ],
)
def test_every_charge_point_has_a_30_ma_rcd_of_its_own(fields, code):
    """BS 7671 722.531.3."""
    assert offered(judged(charger(**fields))).get("rcd-missing-vehicle") == code


def test_what_was_not_entered_is_a_question_and_stands_against_satisfactory():
    judgement = judged(charger())
    assert figures(judgement, "c1", "own_rcd") == ["unknown"]
    assert [one.kind for one in judgement.against if one.field == "own_rcd"] == ["question"]


@pytest.mark.parametrize(
    ("earthing", "fields", "said"),
    [
        ("TN-C-S", {"neutral_guard": "none"}, True),
        ("TN-C-S", {"neutral_guard": None}, True),
        ("TN-C-S", {"neutral_guard": "none", "vehicle_outdoors": None}, True),
        ("TN-C-S", {"neutral_guard": "none", "vehicle_outdoors": False}, False),
        ("TN-C-S", {"neutral_guard": None, "earthed_by": "own electrode"}, False),
        ("TN-C-S", {}, False),
        ("TN-S", {"neutral_guard": "none"}, False),
    ],
)
def test_on_a_combined_supply_a_broken_neutral_is_guarded_against(earthing, fields, said):
    """722.411.4.1: wherever the charge point hangs, as long as the vehicle may stand outdoors."""
    judgement = judged(charger(own_rcd="30 mA or less", **fields), earthing=earthing)
    assert bool([s for s in figures(judgement, "c1", "neutral_guard") if s != "pass"]) is said


@pytest.mark.parametrize("appliance", ["caravan hook-up", "boat supply"])
def test_the_combined_conductor_is_no_earth_of_a_hook_up(appliance):
    """708.411.4 and 709.411.4."""
    unknown = judged(board(circuit(1, "Hook-up", appliance=appliance, outdoors=True, **RCD)))
    assert "hook-up-on-supply-earth" not in offered(unknown)
    assert figures(unknown, "c1", "earthed_by") == ["unknown"]
    there = board(circuit(1, "Hook-up", appliance=appliance, outdoors=True, earthed_by="of the supply", **RCD))
    assert offered(judged(there))["hook-up-on-supply-earth"] == "C2"
    own = board(circuit(1, "Hook-up", appliance=appliance, outdoors=True, earthed_by="own electrode", **RCD))
    assert "hook-up-on-supply-earth" not in offered(judged(own))
    assert "hook-up-on-supply-earth" not in offered(judged(there, earthing="TN-S"))


def test_a_device_for_one_direction_does_not_carry_what_an_inverter_feeds_back():
    both = board(circuit(1, "Inverter", load="inverter", both_ways="no", **RCD))
    assert any(s != "pass" for s in figures(judged(both), "c1", "both_ways"))
    sound = board(circuit(1, "Inverter", load="inverter", both_ways="yes", **RCD))
    assert not [s for s in figures(judged(sound), "c1", "both_ways") if s != "pass"]
