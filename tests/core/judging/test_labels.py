"""Labels one by one: what is missing raises one observation a place, an interval of its day raises none (rule 13.6)."""

import copy

import pytest

from dorrik.core.inspection.document import parse
from dorrik.core.judging.judgement import judge
from tests.core.homes import cottage

HOME = cottage()["inspection"]
BOARD = HOME["boards"][0]["id"]


def judged(*labels, checks=(), change=None):
    document = copy.deepcopy(cottage())
    i = document["inspection"]
    i["labels"] = [
        {"id": f"label-{n}", "about_entity": "board", "about_id": BOARD} | one for n, one in enumerate(labels)
    ]
    if checks:
        i["boards"][0]["checks"] = list(checks)
    i.update(change or {})
    return judge(parse(document))


def of_labels(found):
    return [note for note in found.notes if note.field.startswith(("labels", "rcd_label"))]


def test_all_that_is_missing_at_a_board_is_one_note_with_one_observation():
    found = judged({"kind": "main-switch", "state": "missing"}, {"kind": "next-inspection", "state": "removed"})
    (note,) = of_labels(found)
    assert note.verdict.observation == "labels-missing"
    assert "Main switch named" in note.verdict.reason and "Date of the next inspection" in note.verdict.reason
    assert [one.key for one in found.suggested].count("labels-missing") == 1


def test_a_board_whose_check_says_so_already_is_told_once():
    checks = [*({"id": "c", "item": "labels", "state": "not good"},)]
    found = judged({"kind": "main-switch", "state": "missing"}, checks=checks)
    assert [one.key for one in found.suggested].count("labels-missing") == 1


@pytest.mark.parametrize("state", ["found", "fitted"])
def test_what_is_there_says_nothing(state):
    assert not of_labels(judged({"kind": "main-switch", "state": state}))


def test_an_old_interval_is_pointed_out_and_is_no_defect():
    (note,) = of_labels(judged({"kind": "rcd-test", "state": "found", "interval": "quarterly"}))
    assert note.status == "attention" and note.verdict.observation is None
    assert "quarterly" in note.verdict.reason and "six-monthly" in note.verdict.reason
    assert not of_labels(judged({"kind": "rcd-test", "state": "fitted", "interval": "quarterly"}))
    assert not of_labels(judged({"kind": "rcd-test", "state": "found", "interval": "six-monthly"}))


def test_the_origins_own_labels_raise_the_origins_observation():
    found = judged({"kind": "earth", "state": "missing", "about_entity": "inspection", "about_id": HOME["id"]})
    (note,) = of_labels(found)
    assert (note.entity, note.verdict.observation) == ("inspection", "safety-label-missing")


def test_a_label_of_a_board_that_is_gone_says_nothing():
    assert not of_labels(judged({"kind": "main-switch", "state": "missing", "about_id": "gone"}))


def test_what_the_home_has_needs_its_label():
    needed = {(label.entity, label.kind) for label in judged(change={"other_source": "solar"}).labels if label.needed}
    assert {("inspection", "dual-supply"), ("inspection", "earth"), ("board", "next-inspection")} <= needed
    assert ("inspection", "dual-supply") not in {
        (label.entity, label.kind) for label in judged(change={"other_source": "none"}).labels if label.needed
    }
