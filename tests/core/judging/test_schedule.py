"""The inspection schedule: every line has an answer that somebody gave, and none is filled without one."""

import copy
import csv
from pathlib import Path

import pytest

import dorrik.core
from dorrik.core.book.board_checks import items
from dorrik.core.book.catalogue import entries
from dorrik.core.book.usual_rooms import usual_rooms
from dorrik.core.home.place_checks import looks, room_checks
from dorrik.core.inspection import document
from dorrik.core.inspection.kinds import KINDS
from dorrik.core.inspection.point import POINT_KINDS
from dorrik.core.judging.coverage import schedule
from dorrik.core.judging.judgement import judge
from tests.core.homes import cottage

DATA = Path(dorrik.core.__file__).parent / "data"


def line(home, key):
    return next(one for one in judge(document.parse(home)).schedule if one.key == key)


def changed(edit):
    home = copy.deepcopy(cottage())
    home["inspection"]["checks"] = []
    edit(home["inspection"])
    return home


def test_nothing_is_answered_in_an_empty_inspection():
    empty = document.parse({"format": "dorrik-inspection", "version": 2, "inspection": {"id": "i"}})
    states = {one.key: one.state for one in judge(empty).schedule}
    assert set(states.values()) == {"left"}


def test_every_line_of_a_complete_home_is_answered():
    assert [one.key for one in judge(document.parse(cottage())).schedule if one.state == "left"] == []


def test_a_coded_observation_stands_before_every_tap():
    def cracked(i):
        i["checks"] = [{"id": "x", "item": "sockets", "state": "good"}]
        i["observations"] = [{"id": "o", "text": "Cracked", "code": "C3", "catalogue_key": "accessory-cracked"}]

    found = line(changed(cracked), "sockets")
    assert (found.state, found.codes, found.asked) == ("coded", ("C3",), False)


def test_a_tap_does_not_hide_what_a_verdict_says():
    def low(i):
        i["checks"] = [{"id": "x", "item": "insulation", "state": "good"}]
        i["boards"][0]["circuits"][0]["insulation_lne_mohm"] = "0.3"

    assert line(changed(low), "insulation").state == "not good"


def test_tests_answer_only_where_all_of_them_were_made():
    def missing(i):
        i["boards"][0]["circuits"][1]["zs_ohm"] = None

    def limited(i):
        i["boards"][0]["circuits"][1]["zs_ohm"] = "LIM no access"

    def none_made(i):
        for circuit in i["boards"][0]["circuits"]:
            circuit["zs_ohm"] = "LIM supply off"

    assert line(changed(missing), "disconnection").state == "left"
    one = line(changed(limited), "disconnection")
    # Part is never good: how many of how many is said.
    assert one.state == "LIM" and one.because == "2 of 3 tested; the others are limited."
    assert line(changed(none_made), "disconnection").state == "LIM"


def test_points_answer_once_all_are_looked_at():
    def sockets(*states):
        def edit(i):
            i["points"] = [{"id": f"p{n}", "room_id": "r1", "kind": "socket"} | state for n, state in enumerate(states)]

        return line(changed(edit), "sockets")

    fine, blocked = {"looked": "fine"}, {"not_reached": "locked"}
    assert sockets(fine, {}).state == "left"
    assert sockets(fine, fine).state == "good"
    assert sockets(blocked, blocked).state == "LIM"
    assert "1 of 2" in sockets(fine, blocked).because
    assert sockets(fine, {"looked": "defect"}).state == "not good"
    # Without a socket in a home that was walked round there is none.
    assert line(changed(lambda i: None), "sockets").state == "N/A"


def test_boards_answer_once_each_of_them_is_looked_at():
    def second(i):
        i["boards"][0]["checks"] = [{"id": "a", "item": "makes", "state": "good"}]
        i["boards"].append({"id": "b2", "name": "Shed", "position": 1, "checks": []})

    assert line(changed(second), "board-makes").state == "left"

    def both(i):
        second(i)
        i["boards"][1]["checks"] = [{"id": "b", "item": "makes", "state": "LIM"}]

    assert line(changed(both), "board-makes").state == "LIM"


@pytest.mark.parametrize("row", schedule.lines(), ids=lambda row: row.key)
def test_a_line_names_only_what_there_is(row):
    assert set(row.boards) <= set(items())
    assert set(row.rooms) <= set(room_checks())
    assert set(row.observations) <= set(entries())
    assert all(field.startswith(":") or field in KINDS["inspection"].fields for field in row.fields)
    declared = {field for kind in ("circuit", "rcd", "board") for field in KINDS[kind].fields}
    assert set(row.tests) <= declared
    if row.points and row.points != ":bath":
        left = f" {row.points} "
        for kind in sorted(POINT_KINDS, key=len, reverse=True):
            left = left.replace(f" {kind} ", "  ")
        assert not left.strip()


def test_the_files_of_the_walk_name_only_what_there_is():
    assert set(looks()) - {"point"} == set(POINT_KINDS)
    for look in looks().values():
        assert {*look.observations, *look.wet} <= set(entries())
    assert {check.observation for check in room_checks().values()} <= set(entries())
    kinds, floors = KINDS["room"].fields["kind"].choices, KINDS["room"].fields["floor"].choices
    for room in usual_rooms():
        assert room.kind in kinds and room.floor in floors and set(room.points) <= set(POINT_KINDS)
    with (DATA / "schedule.csv").open() as file:
        rows = list(csv.reader(line for line in file if not line.startswith("#")))
    assert {len(row) for row in rows} == {len(rows[0])}
