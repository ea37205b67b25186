"""The one list of what stands against satisfactory: outcome, readiness and report say the same (rules 13.1, 13.5)."""

import pytest

from dorrik.core.inspection.document import parse
from dorrik.core.judging.judgement import judge
from dorrik.core.judging.readiness import readiness
from dorrik.core.judging.result.against import KINDS
from tests.core.homes import cottage

SEEN = {"id": "o", "about_entity": "inspection", "about_id": "i1", "text": "Plate cracked", "code": "C3"}


def with_(change):
    document = cottage()
    change(document["inspection"])
    return parse(document)


def circuit(number):
    return lambda i: i["boards"][0]["circuits"][number]


def observe(**fields):
    return lambda i: i["observations"].append(SEEN | fields)


def put(of, **fields):
    return lambda i: of(i).update(fields)


def drop(of, field):
    return lambda i: of(i).pop(field)


WATER = {"id": "w", "service": "water", "state": "present", "csa_mm2": 10.0}

#: What is done to the sound cottage, the kind that then stands on the list, and the outcome.
WORSE = [
    (observe(code="C2"), "code", "unsatisfactory"),
    (observe(code="FI"), "code", "unsatisfactory"),
    (observe(code=None), "uncoded", "open"),
    (put(circuit(1), zs_ohm="3.9"), "suggested", "open"),
    (put(circuit(1), insulation_lne_mohm="0.4"), "suggested", "open"),
    (drop(circuit(1), "zs_ohm"), "test", "open"),
    (put(circuit(1), zs_ohm="N/A"), "test", "open"),
    (put(circuit(1), insulation_lne_mohm="N/A"), "test", "open"),
    (put(circuit(1), polarity="N/A"), "test", "open"),
    (put(circuit(1), zs_ohm="LIM"), "test", "open"),
    # At its clamp alone half of a bond was measured.
    (lambda i: i.update(bonds=[WATER | {"at_clamp_ohm": "0.01"}]), "test", "open"),
    (lambda i: i.update(bonds=[WATER | {"at_clamp_ohm": "0.01", "at_pipe_ohm": "LIM"}]), "test", "open"),
    (lambda i: i["checks"][0].update(state="not good"), "marked", "open"),
    (lambda i: i["boards"].clear(), "test", "open"),
    (put(circuit(1), points=[{"id": "p", "kind": "socket", "looked": "defect"}]), "marked", "open"),
]


def test_the_sound_cottage_has_nothing_on_it():
    judgement = judge(with_(lambda i: None))
    assert (judgement.outcome, judgement.against) == ("satisfactory", ())


@pytest.mark.parametrize(("change", "kind", "outcome"), WORSE)
def test_what_was_left_open_stands_on_the_list_and_in_the_outcome(change, kind, outcome):
    inspection = with_(change)
    judgement = judge(inspection)
    assert kind in {one.kind for one in judgement.against}
    assert judgement.outcome == outcome
    if outcome == "open":
        assert judgement.outcome_says.startswith("not decided: ")
    # Readiness says nothing else: each of them is there, or stops the report in its own words.
    texts = {point.text for point in readiness(inspection, judgement)}
    assert {one.says for one in judgement.against if one.kind not in ("code", "uncoded")} <= texts


@pytest.mark.parametrize(
    "change",
    [
        observe(),
        observe(code="note"),
        observe(code="C2", mended=True, as_left="New plate", retest="0.31 Ω"),
        put(circuit(1), zs_ohm="LIM no access"),
        lambda i: i.update(bonds=[WATER | {"at_clamp_ohm": "0.01", "at_pipe_ohm": "LIM boxed in"}]),
    ],
)
def test_a_recommendation_what_was_put_right_and_a_limitation_with_its_reason_do_not(change):
    assert judge(with_(change)).outcome == "satisfactory"


def test_every_kind_has_words_for_one_and_for_several():
    assert all(one and several and one != several for one, several in KINDS.values())


def test_the_most_serious_observation_is_named_first():
    home = cottage()
    home["inspection"]["observations"] = [
        {"id": f"o{n}", "text": f"number {n}", "about_id": "c2", "code": code}
        for n, code in enumerate(("FI", "C2", "C3", "C1", "C2"))
    ]
    named = [one.observation_id for one in judge(parse(home)).against if one.kind == "code"]
    assert named == ["o3", "o1", "o4", "o0"]
