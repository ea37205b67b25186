"""Left disconnected by consent, and out of scope: asks for nothing, hides nothing, and passes for nothing."""

import copy

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dorrik.core.inspection.document import parse
from dorrik.core.judging.judgement import judge
from tests.core.homes import cottage
from tests.core.whole_homes import board, circuit, judged, points

AGREED = {"agreed_with": "Hester Vane"}
STATES = ("left disconnected", "out of scope")
RATINGS = {"insulation_lne_mohm": ">500", "r1_r2_ohm": "0.20", "polarity": "correct", "zs_ohm": "0.40"}


def set_aside(about, about_id, state="left disconnected", **fields):
    return {"id": f"s-{about_id}", "about_entity": about, "about_id": about_id, "state": state} | AGREED | fields


def home(*asides, measured_at=None, second=None, **origin):
    shower = circuit(1, "Shower", **RATINGS)
    lights = circuit(2, "Outside lights", "lighting", points=points({"kind": "light"}), **(second or {}))
    return judged(board(shower, lights, zdb_ohm="0.20"), set_asides=list(asides), measured_at=measured_at, **origin)


def asked(judgement, entity_id):
    return {field for one in judgement.progress.asked if one.entity_id == entity_id for field in one.fields}


@pytest.mark.parametrize("state", STATES)
def test_what_is_set_aside_asks_for_no_test_and_no_look(state):
    assert {"zs_ohm", "insulation_lne_mohm"} <= asked(home(), "c2")
    judgement = home(set_aside("circuit", "c2", state))
    assert asked(judgement, "c2") == set() and asked(judgement, "c1")
    assert not [one for one in judgement.against if one.entity_id == "c2"]
    assert not [note for note in judgement.notes if note.entity_id == "c2" and note.status == "unknown"]
    (told,) = judgement.set_aside
    assert told.says == f"{state}, agreed with Hester Vane" and set(told.covers) == {"c2", "p0"}


@pytest.mark.parametrize("lacking", [{"agreed_with": None}, {"state": None}])
def test_without_an_agreement_everything_is_still_asked_for_and_that_is_said(lacking):
    judgement = home(set_aside("circuit", "c2") | lacking)
    assert asked(judgement, "c2") == asked(home(), "c2")
    assert [n.status for n in judgement.notes if n.figure == ("c2", "designation")] == ["attention"]


def test_what_was_read_of_it_is_judged_as_found():
    low = {"insulation_lne_mohm": "0.2", "zs_ohm": "9.1"}
    for state in STATES:
        told = {n.figure: n.status for n in home(set_aside("circuit", "c2", state), second=low).notes}
        assert told["c2", "insulation_lne_mohm"] == told["c2", "zs_ohm"] == "fail"


def sums(judgement):
    return {one.field: (one.verdict.status, one.missing) for one in judgement.board_sums}


def test_what_is_disconnected_is_no_part_of_its_board_and_what_is_out_of_scope_still_is():
    field = "insulation_lne_mohm"
    assert sums(home())[field][1] == ("2 Outside lights",)
    assert sums(home(set_aside("circuit", "c2")))[field] == ("pass", ())
    assert sums(home(set_aside("circuit", "c2", "out of scope")))[field] == ("unknown", ("2 Outside lights",))


def test_what_a_disconnected_circuit_feeds_is_dead_with_it():
    feed = circuit(1, "Shed", "distribution", **RATINGS)
    shed = {"id": "s", "name": "Shed", "fed_by": "c1", "circuits": [circuit(7, "Pump")]}
    for state, dead in (("left disconnected", True), ("out of scope", False)):
        judgement = judged(board(feed), shed, set_asides=[set_aside("circuit", "c1", state)])
        assert ("c7" in judgement.set_aside[0].covers) is dead
        assert (asked(judgement, "c7") == set()) is dead


def test_a_live_reading_after_it_was_disconnected_is_asked_about():
    before, after = "2026-11-03T09:00:00Z", "2026-11-03T11:00:00Z"
    one = set_aside("circuit", "c2", since="2026-11-03T10:00:00Z")
    for at, told in ((before, False), (after, True)):
        judgement = home(one, measured_at={("c2", "zs_ohm"): at}, second={"zs_ohm": "0.5"})
        asking = [n for n in judgement.notes if n.entity_id == "c2" and n.verdict.asks]
        assert bool(asking) is told
        assert bool([a for a in judgement.against if a.entity_id == "c2" and a.kind == "question"]) is told


def test_an_agreement_that_is_over_is_told():
    judgement = home(set_aside("circuit", "c2", until="2026-11-01"))
    (told,) = [n for n in judgement.notes if n.figure == ("c2", "designation")]
    assert "until 1 Nov 2026" in told.verdict.reason


def whole(*asides):
    document = copy.deepcopy(cottage())
    document["inspection"]["set_asides"] = list(asides)
    return judge(parse(document))


EVERY_CIRCUIT = [c["id"] for b in cottage()["inspection"]["boards"] for c in b["circuits"] if not c.get("spare")]


@pytest.mark.parametrize("state", STATES)
def test_nothing_is_satisfactory_where_every_circuit_is_set_aside(state):
    judgement = whole(*(set_aside("circuit", key, state) for key in EVERY_CIRCUIT))
    assert judgement.outcome == "open"
    assert "Every circuit is set aside by agreement: nothing was tested." in [one.says for one in judgement.against]


@given(st.sets(st.sampled_from(EVERY_CIRCUIT)), st.sampled_from(STATES))
def test_no_line_of_the_schedule_is_good_for_what_was_set_aside(keys, state):
    """And what is left out counts as untested: the share of limitations never falls for it."""
    sound, judgement = whole(), whole(*(set_aside("circuit", key, state) for key in keys))
    lines = {one.key: one.state for one in judgement.schedule}
    for line in sound.schedule:
        if keys and line.because.endswith(" tested."):
            assert lines[line.key] in ("LIM", "left"), line.key
    if state == "out of scope":
        assert judgement.limited_share.share >= sound.limited_share.share


def test_a_room_out_of_scope_asks_for_none_of_its_points_and_draws_none():
    rooms = [{"id": "r", "position": 1, "name": "Shed 2", "kind": "outdoors", "walked_at": "2026-11-03T09:00:00Z"}]
    loose = [{"id": "x", "kind": "light", "room_id": "r"}]
    judgement = judged(
        board(circuit(1, "Shower", **RATINGS)), rooms=rooms, points=loose, sampling_seed=7,
        set_asides=[set_aside("room", "r", "out of scope")],
    )  # fmt: skip
    (room,) = judgement.walk.rooms
    assert (room.left, room.seen, room.checks, room.unopened) == (0, True, (), 0)
    assert judgement.sampling is None
