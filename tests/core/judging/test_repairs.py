"""Repairs of one's own: what the work undoes is tested again, and nothing counts as put right before it holds."""

import copy

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dorrik.core.book.works import works
from dorrik.core.inspection.document import parse
from dorrik.core.inspection.kinds import KINDS
from dorrik.core.judging.judgement import judge
from dorrik.core.judging.readiness import readiness
from tests.core.homes import cottage
from tests.report import full_homes

RING = next(
    c for b in cottage()["inspection"]["boards"] for c in b["circuits"] if c.get("form") == "ring"
)  # fmt: skip
SOCKET = {"id": "sink", "position": 1, "name": "socket by the sink", "kind": "socket", "polarity": "incorrect"}
BEGUN = "2026-11-03T11:02:00Z"
FOUND = {"id": "o", "about_entity": "circuit", "about_id": RING["id"], "text": "Neutral open", "code": "C2"}


def home(*repairs, found=None, change=None, **observation):
    """The sound cottage with a C2 on its ring, and repairs of it."""
    document = copy.deepcopy(cottage())
    i = document["inspection"]
    ring = next(c for b in i["boards"] for c in b["circuits"] if c["id"] == RING["id"])
    if found:
        ring["points"] = [SOCKET]
    ring.update(change or {})
    i["observations"] = [*i["observations"], FOUND | observation]
    i["repairs"] = list(repairs)
    return parse(document)


def repair(work="joint", about=("circuit", RING["id"]), found=(), **fields):
    as_founds = [
        {"id": f"f{n}", "about_entity": kind, "about_id": key, "field": field, "value": value}
        for n, (kind, key, field, value) in enumerate(found)
    ]
    usual = {"id": "r", "observation_id": "o", "about_entity": about[0], "about_id": about[1], "work": work}
    return usual | {"begun_at": BEGUN, "done": "Crimp at the sink socket", "as_founds": as_founds} | fields


def view(inspection):
    (found,) = judge(inspection).repairs
    return found


def test_a_joint_remade_asks_for_its_tests_again_by_name():
    """Continuity of all its conductors, insulation, polarity and Zs, as the issue of a joint names them."""
    told = view(home(repair(begun_at=None)))
    wanted = {"r1_ohm", "rn_ohm", "r2_ohm", "r1_r2_ohm", "insulation_lne_mohm", "polarity", "zs_ohm"}
    assert {test.field for test in told.tests} == wanted
    # Before the work is begun they read as found.
    assert all(test.found and not test.left for test in told.tests)
    assert not told.complete and "the figures as found" in told.lacks


def test_the_old_figures_stay_as_found_beside_the_new():
    ring = ("circuit", RING["id"])
    told = view(home(repair(found=[(*ring, "rn_ohm", "OL"), (*ring, "zs_ohm", "0.9")]), change={"zs_ohm": None}))
    tests = {test.field: test for test in told.tests}
    assert (tests["rn_ohm"].found, tests["rn_ohm"].left) == ("OL", RING["rn_ohm"])
    assert (tests["zs_ohm"].found, tests["zs_ohm"].left) == ("0.9", "")
    assert told.lacks == ("Zs again",)


def test_it_counts_as_put_right_once_everything_was_tested_again_and_holds():
    judgement = judge(home(repair()))
    assert judgement.repairs[0].complete and judgement.outcome == "satisfactory"
    (recorded,) = (one for one in judgement.recorded if one.id == "o")
    assert recorded.made_good


@pytest.mark.parametrize(
    ("change", "told"),
    [
        ({"zs_ohm": None}, "Zs again"),
        ({"zs_ohm": "LIM no access"}, "Zs again"),
        ({"polarity": "incorrect"}, "Polarity"),
    ],
)
def test_without_a_retest_it_still_counts_whatever_was_written(change, told):
    words = {"mended": True, "as_left": "All fine", "retest": "0.2"}
    judgement = judge(home(repair(), change=change, **words))
    assert judgement.outcome == "unsatisfactory" and not judgement.repairs[0].complete
    assert any(told in lack for lack in (*judgement.repairs[0].lacks, *judgement.repairs[0].failing))


def test_a_retest_that_fails_is_told_and_nothing_is_put_right_by_it():
    judgement = judge(home(repair(), change={"zs_ohm": "3.9"}))
    (told,) = judgement.repairs
    assert told.failing == ("Zs 3.9",) and not told.complete
    assert judgement.outcome == "unsatisfactory"


FIGURES = ("r1_ohm", "rn_ohm", "r2_ohm", "r1_r2_ohm", "insulation_lne_mohm", "polarity", "zs_ohm")


@given(st.sets(st.sampled_from(FIGURES), min_size=1), st.sampled_from([None, "LIM no access", "N/V"]))
def test_no_set_of_missing_retests_is_ever_satisfactory(missing, instead):
    values = {field: None if field == "polarity" else instead for field in missing}
    judgement = judge(home(repair(), change=values))
    assert judgement.outcome == "unsatisfactory" and not judgement.repairs[0].complete


def test_of_two_repairs_both_have_to_hold():
    other = repair("cover", about=("board", "gone"), id="q", as_left="Blank fitted")
    judgement = judge(home(repair(), other))
    assert {one.id: one.complete for one in judgement.repairs} == {"r": True, "q": False}
    assert judgement.outcome == "unsatisfactory"
    assert {one.id: one.gone for one in judgement.repairs} == {"r": False, "q": True}


def test_a_lower_device_stands_beside_the_one_of_then():
    ring = ("circuit", RING["id"])
    told = view(home(repair("lowered", found=[(*ring, "device_rating_a", "32")]), change={"device_rating_a": 20}))
    marks = {mark.field: (mark.then, mark.now) for mark in told.marks}
    assert marks["device_rating_a"] == ("32", "20")
    assert {test.field for test in told.tests} >= {"zs_ohm", "polarity"}
    assert "device_rating_a" not in {test.field for test in told.tests}


def test_a_socket_is_tested_again_with_its_circuit():
    told = view(home(repair("polarity", about=("point", "sink"), found=[("point", "sink", "polarity", "incorrect")]),
                     found=True))  # fmt: skip
    tests = {(test.entity, test.field): test for test in told.tests}
    assert tests["point", "polarity"].found == "incorrect"
    # It still reads as it was found: that is no retest.
    assert "Polarity here: still not correct" in told.lacks
    assert ("circuit", "zs_ohm") in tests


def test_work_that_undoes_no_test_needs_a_word_how_it_was_left():
    about = ("board", cottage()["inspection"]["boards"][0]["id"])
    assert view(home(repair("cover", about=about))).lacks == ("how it was left",)
    assert view(home(repair("cover", about=about, as_left="Blank fitted over way 7"))).complete


@pytest.mark.parametrize("school", ["hold the report", "issue now, certificates close it"])
def test_either_school_holds_the_report_or_only_says_so(school):
    document = home(repair(), change={"zs_ohm": None})
    held = copy.copy(document)
    held = type(document)(**{f: getattr(document, f) for f in document.__dataclass_fields__} | {
        "house_rules": {"own_repairs": school},
    })  # fmt: skip
    levels = {h.level for h in readiness(held, judge(held)) if h.text.startswith("Own repair")}
    assert levels == {"must" if school == "hold the report" else "look"}


def test_every_kind_of_work_names_fields_that_there_are():
    special = {"continuity", "insulation", "rcd", "tests", "measured", "device", "cable", "marks"}
    for work in works().values():
        assert set(work.of) <= set(KINDS) and work.label
        for word in (*work.asks, *work.keeps):
            kind, _, what = word.partition(":")
            assert what in special or what in KINDS[kind].fields, word


def test_what_a_document_calls_another_kind_than_it_is_is_not_asked_for():
    """A figure of a circuit, kept as found of what is a board: there is none to test again, and nothing breaks."""
    whole = full_homes.everything()
    (repair,) = whole["inspection"]["repairs"]
    repair["as_founds"].append(
        {"id": "odd", "about_entity": "circuit", "about_id": "b0", "field": "zs_ohm", "value": "1.9"}
    )
    (view,) = judge(parse(whole)).repairs
    assert ("b0", "zs_ohm") not in {(test.entity_id, test.field) for test in view.tests}
    assert (repair["about_id"], "zs_ohm") in {(test.entity_id, test.field) for test in view.tests}
