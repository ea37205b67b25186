"""Things to come back to, and what people ask about: in walking order, never forgotten, never over the truth."""

import random

import pytest

from dorrik.core.inspection.document import parse
from dorrik.core.judging.judgement import judge
from dorrik.core.judging.readiness import readiness
from tests.core.homes import cottage
from tests.core.whole_homes import board, circuit, judged, points

ROOMS = [{"id": "r1", "position": 1, "name": "Hall"}, {"id": "r2", "position": 2, "name": "Kitchen"}]


def left(about, about_id, what="look closer", **fields):
    return {"id": f"k-{about_id}", "about_entity": about, "about_id": about_id, "what": what} | fields


def home(*come_backs, **origin):
    sockets = circuit(
        1,
        "Sockets",
        "sockets",
        points=points({"room_id": "r2", "name": None, "kind": "socket"}, {"name": "shed light"}),
    )
    return judged(board(sockets, circuit(2, "Cooker")), rooms=ROOMS, come_backs=list(come_backs), **origin)


EVERY = [
    ("inspection", "i", "Origin of the supply"),
    ("room", "r1", "Hall"),
    ("room", "r2", "Kitchen"),
    ("point", "p0", "Kitchen socket"),
    ("board", "b", "House"),
    ("circuit", "c1", "1 Sockets"),
    ("point", "p1", "1 Sockets, shed light"),
    ("circuit", "c2", "2 Cooker"),
]


def test_they_are_listed_in_the_order_in_which_one_walks_past_them():
    things = [left(about, key) for about, key, _ in EVERY]
    random.Random(7).shuffle(things)
    listed = home(*things).come_back
    assert [(one.entity_id, one.where) for one in listed] == [(key, where) for _, key, where in EVERY]
    assert [one.board_id for one in listed] == ["", "", "", "", "b", "b", "", "b"]


def test_a_figure_is_named_and_entered_where_figures_of_its_kind_are():
    (one,) = home(left("circuit", "c2", field="zs_ohm")).come_back
    assert (one.where, one.stage, one.field) == ("2 Cooker: Zs", "live", "zs_ohm")


def test_one_whose_thing_was_removed_says_what_it_was_called():
    (one,) = home(left("point", "p9", place="Cellar, fan")).come_back
    assert one.gone and one.where == "Cellar, fan" and one.board_id == ""


@pytest.mark.parametrize("ended", [{"done_at": "2026-11-03T10:00:00Z"}, {"became": "limitation"}])
def test_what_was_done_or_moved_is_listed_no_more(ended):
    assert home(left("circuit", "c2", **ended)).come_back == ()


def sound(**added):
    """The sound cottage of the tests, with something added."""
    document = cottage()
    document["inspection"].update(added)
    return parse(document)


def test_nothing_is_satisfactory_while_something_was_left_for_later():
    assert judge(sound()).outcome == "satisfactory"
    about = sound().boards[0].id
    judgement = judge(sound(come_backs=[left("board", about, "way 9 not traced")]))
    assert judgement.outcome == "open"
    assert [one.says.endswith("way 9 not traced") for one in judgement.against] == [True]
    assert judge(sound(come_backs=[left("board", about, done_at="2026-11-03T10:00:00Z")])).outcome == "satisfactory"


def musts(*concerns):
    inspection = sound(concerns=list(concerns))
    return [one.text for one in readiness(inspection, judge(inspection)) if one.level == "must"]


def test_what_people_ask_about_is_answered_before_the_report_is_issued():
    asked = {"id": "q", "what": "Lights dim with the kettle"}
    assert "“Lights dim with the kettle”: say what was found." in musts(asked)
    for answer in ({"answer": "Loose neutral, tightened"}, {"observation_id": "o"}):
        assert not [text for text in musts(asked | answer) if "kettle" in text]
