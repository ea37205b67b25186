"""Boards as they hang together: ways, groups, electrodes of outbuildings, what was looked at."""

import pytest

from dorrik.core.book import board_checks, catalogue
from dorrik.core.inspection.document import parse
from dorrik.core.judging.judgement import judge


def notes(*boards, **origin):
    home = {"id": "h", "boards": list(boards), **origin}
    return judge(parse({"format": "dorrik-inspection", "version": 1, "inspection": home})).notes


def said(found, field):
    return [note for note in found if note.field == field]


def test_a_way_that_stands_twice_is_said_once_for_both():
    board = {"id": "b", "circuits": [{"id": "1", "way": "3"}, {"id": "2", "way": "3"}, {"id": "3", "way": "4"}]}
    assert [note.touches for note in said(notes(board), "way")] == [("1", "2")]


def test_on_three_phases_one_way_has_three_places():
    ways = [{"id": phase, "way": "1", "phase": phase} for phase in ("L1", "L2", "L3")]
    assert said(notes({"id": "b", "circuits": ways}), "way") == []


def test_more_circuits_than_ways():
    board = {"id": "b", "ways": 1, "circuits": [{"id": "1", "way": "1"}, {"id": "2", "way": "2"}]}
    assert "2 circuits are on 1 ways" in said(notes(board), "ways")[0].verdict.reason


def test_an_unknown_circuit_would_raise_its_observation():
    (note,) = said(notes({"id": "b", "circuits": [{"id": "1", "way": "1", "untraced": True}]}), "untraced")
    assert note.verdict.observation == "circuit-unknown"


def test_circuits_behind_one_rcd_share_its_data():
    ways = [
        {"id": "1", "way": "1", "rcd_group": "A", "rcd_rated_ma": 30},
        {"id": "2", "way": "2", "rcd_group": "A", "rcd_rated_ma": 100},
    ]
    (note,) = said(notes({"id": "b", "circuits": ways}), "rcd_group")
    assert "rated current differs" in note.verdict.reason
    ways[1]["rcd_rated_ma"] = 30
    assert said(notes({"id": "b", "circuits": ways}), "rcd_group") == []


def test_an_outbuilding_with_an_electrode_of_its_own_is_tt():
    shed = {"id": "b", "earthing": "own electrode", "electrode_ohm": "250", "circuits": [{"id": "1", "way": "1"}]}
    found = notes(shed, earthing="TN-C-S")
    assert said(found, "electrode_ohm")[0].status == "attention"  # above 200 Ω: may be unstable
    assert said(found, "earthing")[0].verdict.observation == "tt-without-rcd"
    shed["circuits"][0]["rcd_rated_ma"] = 300
    found = notes(shed, earthing="TN-C-S")
    assert said(found, "earthing") == []
    # 250 Ω · 0.3 A = 75 V, above 50 V.
    assert said(found, "electrode_ohm")[0].status == "fail"


def test_a_board_whose_feeding_way_is_gone():
    assert said(notes({"id": "b", "fed_by": "nowhere"}), "fed_by")[0].status == "attention"


@pytest.mark.parametrize("key", board_checks.items())
def test_every_check_that_is_not_good_raises_an_observation_of_the_catalogue(key):
    board = {"id": "b", "checks": [{"id": "k", "item": key, "state": "not good"}]}
    (note,) = said(notes(board), "state")
    assert note.status == "fail"
    assert note.verdict.observation in catalogue.entries()


def test_checks_that_are_good_or_not_known_say_nothing():
    checks = [{"id": "1", "item": "heat", "state": "good"}, {"id": "2", "item": "of another book", "state": "not good"}]
    assert said(notes({"id": "b", "checks": checks}), "state") == []
