"""What tests take apart lists itself, and stands before issuing until it is ticked; what has to come off stands before
the test."""

import pytest

from dorrik.core.inspection import document
from dorrik.core.judging.judgement import judge
from dorrik.core.judging.readiness import readiness


def inspection(circuit=None, points=(), board=None, **origin):
    """A home of one board with one circuit."""
    one = {"id": "c", "way": "1", "designation": "Sockets", "form": "ring", "points": list(points)} | (circuit or {})
    board = {"id": "b", "name": "Board 1", "circuits": [one]} | (board or {})
    return document.parse(
        {"format": document.FORMAT, "version": document.VERSION, "inspection": {"id": "i", "boards": [board], **origin}}
    )


def listed(found):
    return {(one.item, one.about_id): one for one in judge(found).putting_back}


def said(found):
    return [one.text for one in readiness(found, judge(found)) if "put back" in one.text]


def test_nothing_measured_nothing_apart():
    assert listed(inspection(board={"spd_state": "none"})) == {}
    assert said(inspection()) == []


@pytest.mark.parametrize(
    ("measured", "item", "about"),
    [
        ({"ze_ohm": "0.2", "ze_parallel_removed": True}, "earthing", "i"),
        ({"bonds": [{"id": "w", "service": "water", "at_pipe_ohm": "0.03"}]}, "bond", "w"),
        ({"circuit": {"r1_ohm": "0.4"}}, "ends", "c"),
        ({"points": [{"id": "p", "line_cpc_ohm": "0.3"}]}, "ends", "c"),
        ({"circuit": {"form": "radial", "r1_r2_ohm": "0.3"}}, "link", "c"),
        ({"circuit": {"insulation_lne_mohm": ">200"}}, "neutrals", "b"),
        ({"board": {"insulation_lne_mohm": ">200"}}, "loads", "b"),
        ({"board": {"insulation_lne_mohm": ">200", "spd_state": "sound"}}, "surge", "b"),
        ({"board": {"electrode_ohm": "84", "electrode_alone": True}}, "electrode", "b"),
    ],
)
def test_each_test_lists_what_it_took_apart_until_it_is_ticked(measured, item, about):
    found = inspection(**measured)
    thing = listed(found)[(item, about)]
    assert thing.open
    assert thing.says
    assert thing.because
    assert any(thing.says in text for text in said(found))
    back = {"id": "t", "item": item, "about_id": about, "back_at": "2026-11-03T12:00:00Z"}
    ticked = inspection(**measured, put_backs=[back])
    assert not listed(ticked)[(item, about)].open
    assert not any(thing.says in text for text in said(ticked))
    # A tick for another thing, or one that was taken out again, is none for this.
    for other in (back | {"about_id": "x"}, back | {"item": "x"}, back | {"removed": True}, back | {"back_at": None}):
        assert listed(inspection(**measured, put_backs=[other]))[(item, about)].open


def test_a_long_lead_takes_nothing_apart():
    assert listed(inspection(points=[{"id": "p", "r2_ohm": "0.3"}])) == {}
    by_long_lead = {"form": "radial", "continuity_method": "long lead", "r1_r2_ohm": "0.3"}
    assert listed(inspection(circuit=by_long_lead)) == {}


def test_what_500_v_would_harm_stands_there_before_the_test():
    points = [
        {"id": "usb", "name": "Bed socket", "room": "Back bedroom", "kind": "socket", "delicate": "USB socket"},
        {"id": "smoke", "name": "Smoke alarm", "kind": "alarm"},
        {"id": "plain", "kind": "socket"},
    ]
    found = listed(inspection(points=points, board={"spd_state": "sound"}))
    assert set(found) == {("point", "usb"), ("point", "smoke"), ("surge", "b")}
    assert all(one.before and not one.off and not one.open for one in found.values())
    assert "Back bedroom, Bed socket" in found[("point", "usb")].says
    # Taken off it is to be put back; what was never taken off is not.
    off = {"id": "t", "item": "point", "about_id": "usb", "off_at": "2026-11-03T10:00:00Z"}
    found = listed(inspection(points=points, put_backs=[off]))
    assert found[("point", "usb")].open
    assert not found[("point", "smoke")].open


def test_a_spare_way_and_a_limitation_take_nothing_apart():
    assert listed(inspection(circuit={"spare": True, "r1_ohm": "0.4"})) == {}
    limited = {"r1_ohm": "LIM no access", "rn_ohm": "N/V", "insulation_lne_mohm": "LIM not agreed"}
    assert listed(inspection(circuit=limited, ze_ohm="N/V", ze_parallel_removed=True)) == {}


@pytest.mark.parametrize(
    ("board", "origin", "words"),
    [
        ({}, {}, "Tails and supply side stay live"),
        ({"fed_by": "c"}, {}, "cable that feeds it stays live"),
        ({}, {"other_source": "solar"}, "its own source (solar)"),
    ],
)
def test_what_stays_live_in_an_isolated_board_is_said(board, origin, words):
    assert words in judge(inspection(board=board, **origin)).boards[0].stays_live
