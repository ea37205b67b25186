"""Zs at points: each is held against the limit, the worst speaks for all, the highest is the circuit's (rule 7.1)."""

import pytest

from tests.core.whole_homes import board, circuit, judged, points

# BS EN 60898 B 16: 0.95 × 230 / 80 = 2.73 Ω, held cold at 0.8 of it.
LIMIT = 2.73


def home(*zs, own=None, **fields):
    each = points(*({"zs_ohm": one} if one else {} for one in zs))
    lights = circuit(1, "Lights", "lighting", points=each, **({"zs_ohm": own} if own else {}), **fields)
    return judged(board(lights, zdb_ohm="0.22"))


def said(judgement):
    return [
        (n.entity_id, n.status, n.because_of) for n in judgement.notes if n.field == "zs_ohm" and n.status != "pass"
    ]


def test_the_highest_is_told_and_recorded_by_a_tap():
    judgement = home("0.51", "0.80", "0.62")
    bench = judgement.benches[0]
    assert (bench.highest_zs.text, bench.highest_zs.point_id, bench.highest_zs.to) == ("0.80", "p1", "zs_ohm")
    note = next(n for n in judgement.notes if n.entity_id == "c1" and "highest of its points" in n.verdict.reason)
    assert [(offer.field, offer.value) for offer in note.offers] == [("zs_ohm", "0.80")]
    # Recorded, there is nothing more to say; recorded lower than it is, there is.
    assert not any("highest of its points" in n.verdict.reason for n in home("0.51", "0.80", own="0.80").notes)
    assert any("the circuit has 0.51 Ω" in n.verdict.reason for n in home("0.51", "0.80", own="0.51").notes)


def test_a_point_over_the_limit_fails_though_the_circuit_has_no_zs_yet():
    found = said(home("0.51", "3.10"))
    assert ("p1", "fail", None) in found
    assert not any(entity == "p0" for entity, _, _ in found)


@pytest.mark.parametrize("own", [None, "3.60"])
def test_several_points_over_the_limit_have_one_voice(own):
    found = said(home("3.10", "3.60", "3.30", own=own))
    failing = [(entity, because) for entity, status, because in found if status == "fail"]
    speaker = ("c1", "zs_ohm") if own else ("p1", "zs_ohm")
    assert [entity for entity, because in failing if because is None] == [speaker[0]]
    assert {because for _, because in failing if because is not None} == {speaker}


def test_over_range_at_a_point_is_no_earth_there_and_is_the_highest():
    judgement = home("0.51", "OL", own="0.51")
    assert ("p1", "fail", None) in said(judgement)
    assert judgement.outcome != "satisfactory"
    assert any("OL" in n.verdict.reason and "highest" in n.verdict.reason for n in judgement.notes)


def test_a_limitation_at_a_point_is_no_reading():
    assert said(home("LIM no access")) == []
    assert home("LIM no access").benches[0].highest_zs is None


def test_voltages_and_metal_have_their_place_live():
    plain = judged(board(circuit(1, "Lights", "lighting", points=points({})))).benches[0]
    assert plain.live_fields == ("zs_ohm", "line_neutral_v", "line_earth_v", "neutral_earth_v")
    metal = judged(board(circuit(1, "Lights", "lighting", points=points({"front": "metal"})))).benches[0]
    assert metal.live_fields[-1] == "metal_earth_v"
    # What is measured live alone is no continuity.
    live = judged(board(circuit(1, "Lights", "lighting", points=points({"zs_ohm": "0.5"})))).benches[0].points[0]
    assert (live.tested, live.live) == (False, True)
