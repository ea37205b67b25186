"""Both gangs of a double socket: the lower places the point, the higher is recorded, and half a test is none."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dorrik.core.basics.readings import Reading
from dorrik.core.home import gangs
from dorrik.core.inspection.point import Point
from tests.core.whole_homes import board, circuit, judged, points, ring

R = Reading.parse
#: Ends of 0.46, 0.46 and 0.76 Ω: L–N 0.23 Ω everywhere, L–cpc 0.287 at the board to 0.305 half-way (rule 4.3).
SOUND = {"line_neutral_ohm": "0.23", "line_cpc_ohm": "0.30"}


def home(**second):
    """A sound ring of three sockets, the second with two gangs that read as given."""
    each = points(SOUND, SOUND | second, SOUND)
    return judged(board(ring(1, points=each)))


def of_gangs(judgement):
    return [(n.field, n.status) for n in judgement.notes if n.entity_id == "p1" and "gangs" in n.title]


def test_gangs_that_agree_say_nothing_and_the_higher_is_the_highest():
    judgement = home(gang_line_neutral_ohm="0.24", gang_line_cpc_ohm="0.33")
    assert of_gangs(judgement) == []
    assert judgement.benches[0].highest.text == "0.33"
    assert judgement.benches[0].points[1].two_gangs


@pytest.mark.parametrize(
    ("first", "second", "where"),
    [("0.30", "0.62", "gang_line_cpc_ohm"), ("0.62", "0.30", "line_cpc_ohm")],
)
def test_a_contact_of_one_gang_is_no_spur(first, second, where):
    judgement = home(line_cpc_ohm=first, gang_line_cpc_ohm=second, gang_line_neutral_ohm="0.23")
    assert of_gangs(judgement) == [(where, "attention")]
    bench = judgement.benches[0]
    assert bench.points[1].spur_m is None
    assert bench.points[1].says == ""
    # What is recorded is the highest of all, until it is put right.
    assert bench.highest.text == "0.62"


def test_both_gangs_high_alike_are_still_on_a_spur():
    judgement = home(
        line_neutral_ohm="0.31", line_cpc_ohm="0.40", gang_line_neutral_ohm="0.31", gang_line_cpc_ohm="0.40"
    )
    # 0.08 Ω over 2 × 7.41 mΩ a metre: 5.4 m.
    assert judgement.benches[0].points[1].spur_m == pytest.approx(5.3, abs=0.4)


def test_one_gang_alone_is_half_a_test():
    judgement = home(two_gangs=True)
    assert set(of_gangs(judgement)) == {("gang_line_neutral_ohm", "unknown"), ("gang_line_cpc_ohm", "unknown")}
    assert judgement.outcome != "satisfactory"
    limited = home(gang_line_neutral_ohm="LIM covered", gang_line_cpc_ohm="LIM covered")
    assert of_gangs(limited) == []


@pytest.mark.parametrize("field", ["line_cpc_ohm", "gang_line_cpc_ohm"])
def test_a_gang_without_earth_fails_whichever_it_is(field):
    judgement = home(**{"gang_line_cpc_ohm": "0.30", "gang_line_neutral_ohm": "0.23", field: "OL"})
    assert (field, "fail") in of_gangs(judgement)
    assert "no-cpc-at-point" in {one.key for one in judgement.suggested}


def test_zs_of_the_second_gang_is_held_against_the_limit_and_carried_up():
    lights = circuit(1, "Sockets", "sockets", points=points({"zs_ohm": "0.60", "gang_zs_ohm": "3.40"}), zs_ohm="0.60")
    judgement = judged(board(lights, zdb_ohm="0.22"))
    assert any(n.figure == ("p0", "gang_zs_ohm") and n.status == "fail" for n in judgement.notes)
    assert any("3.40 Ω at" in n.verdict.reason and "second gang" in n.verdict.reason for n in judgement.notes)
    assert judgement.benches[0].highest_zs.text == "3.40"


@given(st.sampled_from([None, "OL", ">200", "LIM", "0.2", "0.31", "1.4"]), st.sampled_from([None, "OL", "0.3", "2"]))
def test_a_point_is_never_placed_by_more_than_a_gang_read(own, second):
    point = Point(id="p", line_cpc_ohm=own and R(own), gang_line_cpc_ohm=second and R(second))
    found = gangs.through_cable(point, "line_cpc_ohm")
    values = [R(text).value for text in (own, second) if text and R(text).kind == "number" and R(text).bound is None]
    if found is not None and found.kind == "number" and found.bound is None:
        assert found.value == min(values)
