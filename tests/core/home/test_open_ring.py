"""An open ring today: the rating of one leg, who agreed, and whether its ends are another ring's (rules 4.1, 4.8)."""

import pytest

from tests.core.whole_homes import board, circuit, judged, points, ring

OPEN = {"r1_ohm": "OL", "rn_ohm": "OL", "r2_ohm": "OL"}


def of(judgement, field):
    return next((note for note in judgement.notes if note.field == field), None)


def open_ring(**fields):
    return judged(board(ring(1, **OPEN, **fields), ring(2)))


@pytest.mark.parametrize(
    ("fields", "status", "words"),
    [
        # 2.5 mm²: 20 A first, since the way of the cable is rarely seen whole.
        ({"lowered_to_a": 20, "lowered_agreed_with": "Hester Vane"}, "pass", "agreed with Hester Vane"),
        ({"lowered_to_a": 16, "lowered_agreed_with": "Hester Vane"}, "pass", "16 A"),
        ({"lowered_to_a": 20}, "attention", "nobody is named"),
        ({"lowered_to_a": 32, "lowered_agreed_with": "Hester Vane"}, "fail", "more than one leg carries"),
    ],
)
def test_what_it_is_lowered_to_is_held_against_one_leg_and_names_who_agreed(fields, status, words):
    note = of(open_ring(**fields), "lowered_to_a")
    assert (note.status, words in note.verdict.reason) == (status, True)


def test_the_rating_to_lower_to_is_served_while_it_is_open_and_the_finding_stands():
    judgement = open_ring(lowered_to_a=20, lowered_agreed_with="Hester Vane")
    assert judgement.benches[0].lower_to_a == 20
    assert judgement.benches[1].lower_to_a is None
    # What was lowered is no repair: the ring is open still.
    assert of(judgement, "r1_ohm").status == "fail"
    assert judgement.outcome != "satisfactory"


def test_a_ring_that_is_whole_says_nothing_of_a_rating_for_today():
    judgement = judged(board(ring(1, lowered_to_a=20)))
    assert of(judgement, "lowered_to_a") is None


@pytest.mark.parametrize(
    ("readings", "status", "words"),
    [
        (("0.52", "0.51", "0.84"), "attention", "the ends are exchanged"),
        (("OL", "OL", "OL"), "pass", "not exchanged"),
        (("0.52", "OL", "OL"), "attention", "1 of 3 read through"),
        (("0.52", None, None), "unknown", "not all three"),
        (("OL", None, None), "unknown", "so far"),
        # A few ohms by way of other cpcs are no way through.
        (("OL", "OL", "6.2"), "pass", "not exchanged"),
    ],
)
def test_ends_that_read_through_to_another_ring_prove_that_they_are_exchanged(readings, status, words):
    tried = dict(zip(("swap_line_ohm", "swap_neutral_ohm", "swap_cpc_ohm"), readings, strict=True))
    judgement = open_ring(swap_with="c2", **{k: v for k, v in tried.items() if v is not None})
    note = of(judgement, "swap_line_ohm")
    assert (note.status, words in note.verdict.reason) == (status, True)
    assert note.because_of is not None, "the open ring has spoken; this explains it"
    assert [name for _, name in judgement.benches[0].swap_with] == ["2 Sockets"]


def test_polarity_is_offered_where_every_point_read_right_and_nowhere_else():
    def offered(*each, **fields):
        return (
            judged(board(circuit(1, "Lights", "lighting", points=points(*each), **fields))).benches[0].polarity_offered
        )

    right = {"line_cpc_ohm": "0.5"}
    assert offered(right, right)
    assert not offered(right, {})
    assert not offered(right, {"line_cpc_ohm": "OL"})
    assert not offered(right, polarity="incorrect")
    assert not offered({"r2_ohm": "0.3"}, continuity_method="long lead")
    both = {"line_neutral_ohm": "0.23", "line_cpc_ohm": "0.30"}
    assert judged(board(ring(1, points=points(both, both)))).benches[0].polarity_offered
    # Two conductors crossed at one socket: nothing is offered.
    crossed = {"line_neutral_ohm": "0.23", "line_cpc_ohm": "OL"}
    assert not judged(board(ring(1, points=points(both, crossed)))).benches[0].polarity_offered


def test_a_radial_says_whether_switches_and_controls_were_seen_to_and_bridges_are_to_come_off():
    judgement = judged(board(circuit(1, "Lights", "lighting", points=points({}), controls_bridged=True)))
    assert judgement.benches[0].flags == ("switches_both_ways", "controls_bridged")
    assert [one.item for one in judgement.putting_back if one.open and one.about_id == "c1"] == ["controls"]
    assert judged(board(ring(1))).benches[0].flags == ()
