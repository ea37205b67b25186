"""Limitations gather from where they were said, each once, with its reason, and say how much they hide (12.4)."""

import copy

import pytest

from dorrik.core.inspection import document
from dorrik.core.judging.coverage import limitations
from dorrik.core.judging.judgement import judge
from dorrik.core.judging.readiness import readiness
from tests.core.homes import cottage, spoilt


def gathered(home):
    return limitations.gathered(document.parse(home))


def whole(edit):
    home = copy.deepcopy(cottage())
    edit(home["inspection"])
    return home


def said(home):
    return [(one.whom, one.what, one.why) for one in gathered(home)]


def test_a_sound_home_is_not_limited():
    assert gathered(cottage()) == ()
    share = judge(document.parse(cottage())).limited_share
    assert (share.share, share.limited_tests, share.riskiest) == (0.0, 0, "")


@pytest.mark.parametrize(
    ("written", "why"),
    [
        ({"zs_ohm": "LIM boiler may not go off"}, "Boiler may not go off"),
        ({"zs_ohm": "LIM"}, "No reason was given"),
        ({"zs_ohm": "N/V"}, "Not verified"),
        ({"zs_ohm": None, "zs_not_possible": "RCD trips on the test"}, "RCD trips on the test"),
    ],
)
def test_a_figure_that_could_not_be_had_is_one_limitation_with_its_reason(written, why):
    home = spoilt("c2", **written)
    assert said(home) == [("2 Cooker", "Zs", why)]
    (one,) = gathered(home)
    assert (one.entity, one.entity_id, one.circuit_id) == ("circuit", "c2", "c2")


@pytest.mark.parametrize("written", ["N/A", ">500", "OL", "0.49"])
def test_what_was_measured_or_does_not_apply_is_none(written):
    assert gathered(spoilt("c2", insulation_lne_mohm=written)) == ()


def test_of_several_boards_the_board_is_named_with_its_circuit():
    def two(i):
        shed = copy.deepcopy(i["boards"][0]) | {"id": "b2", "name": "Boat store", "isolated_at": None}
        shed["circuits"] = [shed["circuits"][2] | {"id": "s1", "way": "1", "zs_ohm": "LIM locked"}]
        i["boards"].append(shed)

    assert said(whole(two)) == [("Boat store, 1 Lights", "Zs", "Locked")]


def test_looks_at_a_board_and_in_a_room_gather_with_what_was_noted():
    def shut(i):
        i["boards"][0]["checks"] = [{"id": "k2", "item": "entries", "state": "LIM", "note": "cover sealed"}]
        i["rooms"][0]["checks"][0] |= {"state": "LIM"}

    found = {one.whom: one.why for one in gathered(whole(shut))}
    assert found == {"Board 1": "cover sealed", "Parlour": "No reason was given"}


def points(i, *rows):
    """Sockets of the ring in the parlour: their ids, and what stands in the way of each."""
    i["boards"][0]["circuits"][0]["points"] = [
        {"id": id_, "position": at, "kind": "socket", "room_id": "r1"} | ({"not_reached": why} if why else {})
        for at, (id_, why) in enumerate(rows, 1)
    ]


def test_a_point_that_was_not_reached_counts_by_itself_and_one_in_a_shut_room_with_its_room():
    def some(i):
        points(i, ("p1", "furniture in the way"), ("p2", None), ("p3", None), ("p4", None))

    (one,) = gathered(whole(some))
    assert (one.entity_id, one.circuit_id, one.why) == ("p1", "c1", "Furniture in the way")

    def shut(i):
        some(i)
        i["rooms"][0]["not_reached"] = "locked"

    (one,) = gathered(whole(shut))
    assert (one.entity, one.whom, one.why) == ("room", "Parlour", "Locked")
    assert judge(document.parse(whole(shut))).limited_share.limited_points == 4


def test_the_share_is_the_larger_of_tests_and_points():
    def one_of_two(i):
        points(i, ("p1", "furniture in the way"), ("p2", None))

    share = judge(document.parse(whole(one_of_two))).limited_share
    assert (share.points, share.limited_points, share.share) == (2, 1, 0.5)
    assert share.says.startswith(f"Limited: 0 of {share.tests} tests, 1 of 2 points.")


def test_points_are_warned_of_beyond_a_fifth_and_not_at_it():
    """The default share of rule 12.4 is 20 %; points that were not reached hide as much as tests that were not made."""

    def of_ten(count):
        def edit(i):
            points(i, *[(f"p{at}", "locked" if at < count else None) for at in range(10)])

        return document.parse(whole(edit))

    assert judge(of_ten(2)).limited_share.warning is None
    three = of_ten(3)
    judgement = judge(three)
    assert judgement.limited_share.warning.startswith("3 of 10 points were not reached (30%).")
    assert any("3 of 10 points" in one.text for one in readiness(three, judgement))


def test_what_hides_the_circuit_that_most_speaks_against_is_named_first():
    """A bathroom circuit without an RCD is at more risk than a cooker behind one (rules 8.3, 12.4)."""

    def both(i):
        _, cooker, lights = i["boards"][0]["circuits"]
        cooker["zs_ohm"] = "LIM hot"
        for key in [k for k in lights if k.startswith("rcd_")]:
            del lights[key]
        lights |= {"bathroom": True, "zs_ohm": "LIM ceiling", "device_standard": "BS EN 60898"}

    riskiest = judge(document.parse(whole(both))).limited_share.riskiest
    assert riskiest.startswith("The one at most risk is 3 Lights (bath or shower, ")
    assert riskiest.endswith(": Zs.")
