"""What to pack, from what is known of the home: each thing with its reason."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dorrik.core.work.packing import PackFacts, pack


def names(**facts):
    return {item.name: item.why for item in pack(PackFacts(**facts))}


def test_an_electrode_kit_goes_along_for_tt_and_where_nobody_knows():
    assert names(earthings=[("House", "TN-C-S"), ("Boat shed", "TT")])["Electrode test kit"].endswith("Boat shed")
    assert "not known" in names(earthings=[("House", "")])["Electrode test kit"]
    assert "not known" in names()["Electrode test kit"]
    assert "Electrode test kit" not in names(earthings=[("House", "TN-S")])


@pytest.mark.parametrize(
    ("facts", "thing", "why"),
    [
        ({"points_tested": 34}, "Long lead, known resistance", "34 points"),
        ({"rings": 2}, "Long lead, known resistance", "every socket of the rings"),
        ({"radials": 6}, "Lamp adapters", "lampholder"),
        ({"boards": 3}, "Lock and tag", "3 boards"),
        ({"rewired": 1994}, "Spare covers, blanks, grommets", "1994"),
        ({"built": 1867}, "Spare covers, blanks, grommets", "1867"),
        ({}, "Spare covers, blanks, grommets", "age not known"),
        ({"must_stay_on": "Fish tank"}, "Extension lead from a live supply", "Fish tank"),
        ({"keys": "Harbour Office, hook 9"}, "Keys", "hook 9"),
        ({"access": "Board in the loft"}, "Ladder", "loft"),
        ({"points_opened": 6}, "Spare accessory screws", "6 points"),
        ({"power_off_min": 190}, "Charged tablet, power bank", "3 h"),
        ({"earlier": True}, "Earlier report", "confirm"),
    ],
)
def test_each_thing_says_why_it_is_on_the_list(facts, thing, why):
    assert why in names(**facts)[thing]


def test_a_board_of_this_age_needs_no_spare_covers_and_no_keys_none():
    found = names(rewired=2019, built=1890)
    assert "Spare covers, blanks, grommets" not in found and "Keys" not in found


@given(st.integers(0, 9), st.integers(0, 20), st.integers(0, 60))
def test_proving_dead_is_never_left_at_home(boards, rings, points):
    found = names(boards=boards, rings=rings, points_tested=points)
    assert {"Voltage indicator, proving unit", "Lock and tag"} <= set(found)
    assert all(found.values())
