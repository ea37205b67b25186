import json

import pytest

from dorrik.core.inspection import document
from dorrik.core.judging.judgement import judge
from dorrik.core.judging.wire.judgement import as_json
from tests.core.homes import cottage, spoilt


def judged(home):
    return judge(document.parse(home))


def statuses(judgement):
    return {(n.entity_id, n.field, n.verdict.status) for n in judgement.notes if n.verdict.status != "pass"}


def test_a_sound_home_has_nothing_to_point_out():
    judgement = judged(cottage())
    assert statuses(judgement) == set()
    assert judgement.outcome == "satisfactory"
    assert str(judgement.prospective_fault_ka) == "1.24"
    assert sum(stage.left for stage in judgement.progress.stages) == 0


@pytest.mark.parametrize(
    ("entity", "fields", "expected"),
    [
        ("inspection", {"ze_ohm": "0.61"}, ("i1", "ze_ohm", "fail")),
        ("inspection", {"ze_parallel_removed": None}, ("i1", "ze_ohm", "unknown")),
        ("inspection", {"earthing": None}, ("i1", "ze_ohm", "unknown")),
        ("inspection", {"pefc_ka": "0.19"}, ("i1", "pefc_ka", "attention")),
        ("inspection", {"supply_polarity": "incorrect"}, ("i1", "supply_polarity", "fail")),
        ("inspection", {"earthing_conductor_mm2": 10}, ("i1", "earthing_conductor_mm2", "attention")),
        ("inspection", {"bonding_mm2": 6}, ("i1", "bonding_mm2", "attention")),
        ("inspection", {"pscc_ka": "17"}, ("b1", "conditional_ka", "fail")),
        ("c1", {"rn_ohm": "OL"}, ("c1", "rn_ohm", "fail")),
        ("c1", {"r2_ohm": "1.13"}, ("c1", "r2_ohm", "attention")),
        ("c1", {"r1_r2_ohm": "0.45"}, ("c1", "r1_r2_ohm", "attention")),
        ("c2", {"r1_r2_ohm": "OL"}, ("c2", "r1_r2_ohm", "fail")),
        ("c2", {"polarity": "incorrect"}, ("c2", "polarity", "fail")),
        ("c3", {"insulation_lne_mohm": "0.6"}, ("c3", "insulation_lne_mohm", "fail")),
        ("c3", {"insulation_lne_mohm": "20"}, ("c3", "insulation_lne_mohm", "attention")),
        ("c2", {"zs_ohm": "1.50"}, ("c2", "zs_ohm", "fail")),
        ("c2", {"zs_ohm": "0.45"}, ("c2", "zs_ohm", "attention")),
        ("c2", {"device_rating_a": None}, ("c2", "zs_ohm", "unknown")),
        ("c2", {"device_standard": "BS 3036", "device_type": "B"}, ("c2", "zs_ohm", "unknown")),
        ("c2", {"rcd_trip_ms": "340"}, ("c2", "rcd_trip_ms", "fail")),
        ("c2", {"rcd_rated_ma": None}, ("c2", "rcd_trip_ms", "unknown")),
        ("c2", {"rcd_button": "incorrect"}, ("c2", "rcd_button", "fail")),
    ],
)
def test_each_fault_is_pointed_out_at_its_field(entity, fields, expected):
    assert expected in statuses(judged(spoilt(entity, **fields)))


def test_the_board_sum_speaks_for_the_whole_board():
    judgement = judged(spoilt("c3", insulation_lne_mohm="0.6"))
    (total,) = [s for s in judgement.board_sums if s.field == "insulation_lne_mohm"]
    assert total.verdict.status == "fail"
    assert total.culprits == ("3 Lights",)


def test_on_a_tt_supply_the_rcd_gives_the_limit():
    judgement = judged(spoilt(earthing="TT", ze_ohm="120"))
    limit = next(e for e in judgement.expected if (e.entity_id, e.field) == ("c1", "zs_ohm"))
    assert limit.greatest == pytest.approx(1666.67, abs=0.01)


def test_on_tn_the_rcd_counts_only_where_it_is_relied_on():
    high = {"zs_ohm": "1.80"}
    assert ("c2", "zs_ohm", "fail") in statuses(judged(spoilt("c2", **high)))
    relied = statuses(judged(spoilt("c2", **high, r1_r2_ohm="1.62", fault_protection="RCD")))
    assert ("c2", "zs_ohm", "fail") not in relied


def test_an_rcd_never_hides_a_cpc_that_is_failing():
    """1.80 Ω where 0.19 + 0.12 Ω were to be expected; more than a few ohms; nothing at all (rule 7.2)."""
    relied = {"fault_protection": "RCD"}
    assert ("c2", "zs_ohm", "fail") in statuses(judged(spoilt("c2", zs_ohm="1.80", **relied)))
    assert ("c2", "zs_ohm", "fail") in statuses(judged(spoilt("c2", zs_ohm="8.4", r1_r2_ohm=None, **relied)))
    assert ("c2", "zs_ohm", "fail") in statuses(judged(spoilt("c2", zs_ohm="OL", **relied)))
    # With or without a loop test R1+R2 of ohms is a failing cpc, with or without an RCD (rule 5.2).
    lost = judged(spoilt("c2", zs_ohm=None, r1_r2_ohm="5.4", **relied)).suggested
    assert [(one.key, one.code) for one in lost] == [("cpc-lost", "C2")]
    assert ("c2", "zs_ohm", "fail") in statuses(judged(spoilt("c2", zs_ohm="OL", device_standard=None)))


def test_the_house_rule_for_zs_is_used():
    # C 6: 3.64 Ω, 0.8 of it 2.91 Ω.
    home = spoilt("c3", device_type="C", zs_ohm="3.20", r1_r2_ohm="3.01")
    assert ("c3", "zs_ohm", "attention") in statuses(judged(home))
    home["inspection"]["house_rules"] = {"zs_basis": 1.0}
    assert ("c3", "zs_ohm", "attention") not in statuses(judged(home))


def observed(*codes, **more):
    return spoilt(observations=[{"id": f"o{i}", "text": "x", "code": code, **more} for i, code in enumerate(codes)])


@pytest.mark.parametrize(
    ("codes", "outcome"),
    [
        ((), "satisfactory"),
        (("C3", "note"), "satisfactory"),
        (("C3", "C2"), "unsatisfactory"),
        (("FI",), "unsatisfactory"),
        (("C1",), "unsatisfactory"),
    ],
)
def test_outcome_from_the_open_codes(codes, outcome):
    assert judged(observed(*codes)).outcome == outcome


def test_what_was_made_good_on_the_day_does_not_count_and_is_not_dropped():
    judgement = judged(observed("C2", mended=True, as_left="Terminal tightened", retest="Zs 0.31 Ω"))
    assert judgement.outcome == "satisfactory"
    assert judgement.outcome_because == ()


@pytest.mark.parametrize("half", [{}, {"as_left": "Terminal tightened"}, {"retest": "Zs 0.31 Ω"}])
def test_made_good_without_as_left_and_retest_still_counts(half):
    assert judged(observed("C2", mended=True, **half)).outcome == "unsatisfactory"


def test_while_something_fails_and_nothing_is_coded_it_never_reads_satisfactory():
    judgement = judged(spoilt("c2", zs_ohm="1.90", r1_r2_ohm="1.70"))
    assert (judgement.outcome, judgement.outcome_says) == ("open", "not decided: 1 failure without a code")
    c3 = {"id": "o", "text": "x", "code": "C3", "about_id": "c1"}
    home = spoilt("c2", zs_ohm="1.90", r1_r2_ohm="1.70")
    home["inspection"]["observations"] = [c3]
    assert judged(home).outcome_says == "not decided: 1 failure without a code"
    home["inspection"]["observations"] = [c3 | {"about_id": "c2", "catalogue_key": "zs-above-limit"}]
    assert judged(home).outcome == "satisfactory"


def test_removed_things_are_not_judged():
    assert len(document.parse(spoilt("c3", removed=True)).boards[0].circuits) == 2


def test_progress_names_what_is_left():
    judgement = judged(spoilt("c1", zs_ohm=None, rn_ohm=None))
    stages = {stage.stage: stage for stage in judgement.progress.stages}
    assert stages["live"].left_names == ("1 Sockets: Zs",)
    assert stages["dead"].left_names == ("1 Sockets: Neutral end to end",)


def test_a_report_of_limitations_is_warned_about():
    home = cottage()
    for circuit in home["inspection"]["boards"][0]["circuits"]:
        circuit["zs_ohm"] = "LIM RCD trips on test"
        circuit["insulation_lne_mohm"] = "N/V"
    judgement = judged(home)
    assert (judgement.progress.limited, judgement.progress.tests) == (6, 22)
    assert "6 of 22 tests are limitations (27%)" in judgement.limited_share.warning


def test_the_document_survives_the_round_trip():
    inspection = document.parse(cottage())
    assert document.parse(document.write(inspection)) == inspection


def test_the_judgement_is_plain_json():
    assert json.loads(json.dumps(as_json(judged(cottage()))))["outcome"] == "satisfactory"


@pytest.mark.parametrize(
    ("home", "path", "told"),
    [
        ([], "document", "not an inspection"),
        ({"format": "other"}, "format", "dorrik-inspection"),
        (cottage() | {"version": 9}, "version", "1"),
        (cottage() | {"inspection": []}, "inspection", "not an object"),
        (spoilt(id=None), "inspection.id", "missing"),
        (spoilt(boards={}), "inspection.boards", "not a list"),
        (spoilt("c2", zs_ohm="1..4"), "inspection.boards[0].circuits[1].zs_ohm", "decimal mark"),
        (spoilt("c2", colour="red"), "inspection.boards[0].circuits[1].colour", "not a field"),
        (spoilt("c2", id="c1"), "inspection.boards[0].circuits[1].id", "stands already"),
        (spoilt(inspected_on="1890-01-01"), "inspection.inspected_on", "1890"),
    ],
)
def test_a_damaged_document_is_told_at_its_place(home, path, told):
    with pytest.raises(document.DocumentError, match=told) as caught:
        document.parse(home)
    assert caught.value.path == path
