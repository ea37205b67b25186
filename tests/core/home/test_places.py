"""What has a place of its own: lampholders, neutrals, what stood open, ends opened at a socket, a live R1+R2."""

import pytest

from dorrik.core.judging.topics.context import round_from_ends
from tests.core.whole_homes import board, circuit, judged, points, ring


def notes_of(judgement, field):
    return [n for n in judgement.notes if n.field == field]


@pytest.mark.parametrize(
    ("holder", "contact", "status"),
    [
        ("screw", None, "unknown"),
        ("screw", "incorrect", "fail"),
        ("screw", "correct", None),
        ("screw", "LIM", None),
        ("bayonet", None, None),
        ("screw, thread dead without a lamp", None, None),
    ],
)
def test_the_thread_of_a_screw_lampholder_is_asked_about(holder, contact, status):
    light = {"kind": "light", "lampholder": holder} | ({"centre_contact": contact} if contact else {})
    judgement = judged(board(circuit(1, "Lights", "lighting", polarity="correct", points=points(light))))
    assert [n.status for n in notes_of(judgement, "centre_contact")] == ([status] if status else [])
    assert ("polarity-wrong" in {one.key for one in judgement.suggested}) == (status == "fail")
    if status is not None:
        assert judgement.outcome != "satisfactory"


def test_a_neutral_at_another_terminal_is_said_and_two_at_one_are_asked_about():
    first, second, third = (circuit(n, name) for n, name in ((1, "A"), (2, "B"), (3, "C")))
    judgement = judged(board(first | {"neutral_at": "7"}, second, third | {"neutral_at": "2"}))
    alone, shared = notes_of(judgement, "neutral_at")
    assert "terminal 7, not 1" in alone.verdict.reason
    assert "as is that of 2 B" in shared.verdict.reason
    assert set(shared.touches) == {first["id"], second["id"], third["id"]} - {first["id"]}
    assert notes_of(judged(board(first | {"neutral_at": "1"}, second)), "neutral_at") == []


def insulated(*each, **of_board):
    return judged(
        board(
            *(circuit(n, f"C{n}", insulation_lne_mohm=">200", **fields) for n, fields in enumerate(each, 1)), **of_board
        )
    )


def test_a_step_of_100_v_is_no_test():
    judgement = insulated({"insulation_test_v": "100"}, {"insulation_test_v": "500"})
    step, test = (n for n in judgement.notes if n.field == "insulation_lne_mohm" and n.entity == "circuit")
    assert (step.status, test.status) == ("unknown", "pass")
    whole = next(one for one in judgement.board_sums if one.field == "insulation_lne_mohm")
    assert whole.missing == ("1 C1",)
    assert "1 of 2 not in it" in whole.verdict.reason
    assert whole.verdict.status != "pass"
    # The client is told nothing good of it either.
    (bench,) = judgement.insulation
    assert bench.client.startswith("1 circuit is sound")
    assert "1 circuit was not measured whole" in bench.client
    # Under the minimum it fails at any voltage.
    low = judged(board(circuit(1, "C", insulation_lne_mohm="0.4", insulation_test_v="100")))
    assert any(n.status == "fail" for n in notes_of(low, "insulation_lne_mohm"))


def test_what_lay_beyond_an_open_switch_is_not_in_the_test():
    judgement = insulated({"insulation_switches": "some open", "insulation_open_at": "the immersion's switch"}, {})
    note = next(n for n in judgement.notes if n.field == "insulation_lne_mohm" and n.entity == "circuit")
    assert note.status == "attention"
    assert "beyond the immersion's switch" in note.verdict.reason
    assert any(limit.why == "Beyond the immersion's switch, open during the test" for limit in judgement.limits)
    whole = next(one for one in judgement.board_sums if one.field == "insulation_lne_mohm")
    assert whole.verdict.status != "pass"
    assert insulated({"insulation_switches": "all closed"}).limits == insulated({}).limits


def test_a_board_measured_with_a_way_open_does_not_pass_as_a_whole():
    judgement = insulated({}, insulation_lne_mohm=">200", insulation_switches="some open", insulation_open_at="way 4")
    note = next(n for n in judgement.notes if n.entity == "board" and n.field == "insulation_lne_mohm")
    assert (note.status, "beyond way 4" in note.verdict.reason) == ("attention", True)


def test_a_ring_opened_at_a_socket_is_gone_round_from_there():
    each = points(*({"kind": "socket", "name": name} for name in "ABCD"))
    judgement = judged(board(ring(1, points=each, ends_at="a socket", ends_at_point="p2")))
    bench = judgement.benches[0]
    assert bench.starts_at == "C"
    # From C by D and the board to A and B: five cables round, the board passed between D and A.
    assert {p.name: p.walked for p in bench.points} == pytest.approx({"C": 0, "D": 0.2, "A": 0.6, "B": 0.8})
    (ends,) = [one for one in judgement.putting_back if one.item == "ends"]
    assert ends.says.endswith("back in their terminals at C")


def test_opened_at_the_board_or_at_a_socket_that_is_gone_it_begins_at_the_board():
    for fields in ({}, {"ends_at": "a socket", "ends_at_point": "gone"}, {"ends_at_point": "p2"}):
        document = judged(board(ring(1, points=points({}, {}, {}), **fields)))
        assert [p.walked for p in document.benches[0].points] == [0.25, 0.5, 0.75]
    assert round_from_ends.__doc__


@pytest.mark.parametrize(
    ("live", "dead", "status"),
    [
        ("0.44", "0.42", "pass"),
        ("0.62", "0.42", "attention"),
        ("0.20", "0.42", "attention"),
        ("0.44", None, "unknown"),
        ("0.44", "LIM", "unknown"),
        ("OL", "0.42", "fail"),
        ("9.2", None, "fail"),
    ],
)
def test_r1_r2_by_a_live_test_stands_beside_the_dead_one_and_never_for_it(live, dead, status):
    fields = {"live_r1_r2_ohm": live} | ({"r1_r2_ohm": dead} if dead else {})
    judgement = judged(board(circuit(1, "Cooker", **fields)))
    assert [n.status for n in notes_of(judgement, "live_r1_r2_ohm")] == [status]
    asked = next(one for one in judgement.progress.asked if one.entity_id == "c1")
    assert "live_r1_r2_ohm" not in asked.fields and "r1_r2_ohm" in asked.fields


@pytest.mark.parametrize(
    ("tried", "last", "offered"),
    [(True, "0.9", ("p2",)), (None, "0.9", ()), (True, None, ()), (True, "OL", ())],
)
def test_switches_tried_with_every_point_read_are_offered_as_a_functional_check(tried, last, offered):
    lights = points(
        {"kind": "light", "line_cpc_ohm": "0.4"},
        {"kind": "light"} | ({"line_cpc_ohm": last} if last else {}),
        {"kind": "switch"},
        {"kind": "switch", "functional": "incorrect"},
    )
    made = circuit(1, "Lights", "lighting", points=lights, **({"switches_both_ways": True} if tried else {}))
    assert judged(board(made)).benches[0].works_offered == offered


def test_a_link_across_is_drawn_between_the_outer_ones_of_those_that_read_high():
    def walked(*pairs):
        each = points(*({"line_neutral_ohm": ln, "line_cpc_ohm": lc} for ln, lc in pairs))
        return judged(board(ring(1, r2_ohm="0.75", points=each))).benches[0]

    sound, high = ("0.23", "0.29"), (("0.33", "0.42"), ("0.34", "0.43"), ("0.33", "0.42"))
    assert walked(sound, sound, *high, sound, sound, sound, sound).across == (("p2", "p4"),)
    assert walked(*[sound] * 9).across == ()
