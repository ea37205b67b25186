"""Named options: every one has choices and a reason, what is chosen is kept, and each has its effect."""

import pytest

from dorrik.core.book.house_rules import HouseRules, clean, options, shown
from dorrik.core.inspection import document
from dorrik.core.judging.judgement import judge
from dorrik.core.judging.readiness import readiness
from tests.core.homes import cottage, spoilt


@pytest.mark.parametrize("name", list(options()))
def test_every_option_has_choices_a_default_among_them_and_a_reason(name):
    option = options()[name]
    assert option["default"] in option["choices"] and len(option["choices"]) >= 2
    assert len(option["why"]) > 60 and option["label"]
    assert getattr(HouseRules(), name) == option["default"]


@pytest.mark.parametrize("name", list(options()))
def test_every_choice_can_be_kept_and_an_inspection_judged_with_it(name):
    for choice in options()[name]["choices"]:
        assert clean({name: choice}) == {name: choice}
        judgement = judge(document.parse(spoilt(house_rules={name: choice})))
        assert getattr(judgement.house_rules, name) == choice


@pytest.mark.parametrize(
    "value", ["0.8", [], {"zs_basis": True}, {"zs_basis": "0.8"}, {5: 1}, {"coding_school": "lax"}]
)
def test_what_is_no_choice_is_refused(value):
    with pytest.raises(ValueError, match=r"named options|one of|no house rule"):
        clean(value)


def test_choices_in_words():
    assert (shown(0.8), shown("yes")) == ("0.8", "yes")


def expected(field, **rules):
    judgement = judge(document.parse(spoilt(house_rules=rules)))
    return next((e for e in judgement.expected if (e.entity_id, e.field) == ("c2", field)), None)


def test_250_volts_first_is_said_where_insulation_is_measured():
    assert expected("insulation_lne_mohm").says == "250 V first, then 500 V; min 1 MΩ"
    assert expected("insulation_lne_mohm", insulation_first="500 V").says == "min 1 MΩ"


def test_five_times_is_expected_only_where_it_is_asked_for():
    assert expected("rcd_five_ms") is None
    assert expected("rcd_five_ms", rcd_tests="½, 1 and 5 × IΔn").greatest == 40


def test_a_firm_that_does_not_mend_is_told_when_something_was():
    mended = [{"id": "o", "text": "Loose terminal", "code": "C2", "mended": True}]

    def told(**rules):
        inspection = document.parse(spoilt(observations=mended, house_rules=rules))
        points = readiness(inspection, judge(inspection))
        return [point.text for point in points if "put right on the day" in point.text]

    assert told() == []
    assert len(told(mending="no")) == 1


def test_shares_of_the_sample():
    points = [{"id": f"p{i}", "name": f"p{i}", "kind": "socket", "room": "hall"} for i in range(20)]

    def planned(records, condition, **rules):
        home = spoilt("c1", points=points)
        home["inspection"] |= {"records": records, "condition_on_sight": condition, "house_rules": rules}
        return len(judge(document.parse(home)).sampling.planned)

    assert planned("good", "good") == 5
    assert planned("good", "fair") == 10
    assert planned("none", "good") == 20
    assert planned("good", "good", sample_good=0.5) == 10
    assert planned("poor", "good", sample_poor=0.5) == 10
    assert planned(None, None) == 20  # what is not said counts as the worst


def test_a_ring_walked_with_a_long_lead_is_not_judged_as_cross_connected():
    outlets = [{"id": f"p{i}", "line_neutral_ohm": "0.23", "line_cpc_ohm": "0.60"} for i in range(4)]

    def findings(**rules):
        home = spoilt("c1", points=outlets)
        home["inspection"]["house_rules"] = rules
        judgement = judge(document.parse(home))
        return judgement.rings["c1"].findings

    assert findings() != ()
    assert findings(ring_method="long lead") == ()


def test_the_cottage_is_as_sound_under_any_school():
    for school in options()["coding_school"]["choices"]:
        home = cottage()
        home["inspection"]["house_rules"] = {"coding_school": school}
        assert judge(document.parse(home)).suggested == ()
