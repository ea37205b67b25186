import pytest

from dorrik.core.inspection import document
from dorrik.core.judging.judgement import judge
from dorrik.core.judging.readiness import readiness
from tests.core.homes import cottage, spoilt


def points(home, level):
    inspection = document.parse(home)
    return [p.text for p in readiness(inspection, judge(inspection)) if p.level == level]


def test_a_complete_home_is_ready():
    home = cottage()
    assert points(home, "must") == []
    apart = judge(document.parse(home)).putting_back
    assert {one.item for one in apart} >= {"earthing", "ends", "link", "neutrals"}
    home["inspection"]["put_backs"] = [
        {"id": f"t{n}", "item": one.item, "about_id": one.about_id, "back_at": "2026-11-03T15:40:00Z"}
        for n, one in enumerate(apart)
    ]
    assert points(home, "look") == []


def test_what_must_be_mended_first():
    told = points(spoilt(client_name=None, declared_outcome=None, boards=[]), "must")
    assert any("client's name" in text for text in told)
    assert any("satisfactory" in text for text in told)
    assert any("no board" in text for text in told)


def test_another_outcome_than_the_codes_needs_a_reason():
    c2 = [{"id": "o", "text": "Cracked plate", "code": "C2"}]
    assert len(points(spoilt(observations=c2), "must")) == 1
    assert points(spoilt(observations=c2, outcome_reason="Made safe by the firm after"), "must") == []


def test_an_observation_without_a_code_stops_the_report():
    told = points(spoilt(observations=[{"id": "o", "text": "Cracked plate"}]), "must")
    assert "“Cracked plate” has no code." in told


def test_a_failing_figure_that_no_observation_speaks_of_is_pointed_out():
    home = spoilt("c2", zs_ohm="1.90", r1_r2_ohm="1.70")
    assert any("Zs 1.90" in text for text in points(home, "look"))
    recorded = {"id": "o", "text": "Zs high", "code": "C2", "about_id": "c2", "catalogue_key": "zs-above-limit"}
    home["inspection"]["observations"] = [recorded]
    assert not any("Zs 1.90" in text for text in points(home, "look"))


@pytest.mark.parametrize(
    ("fields", "lacking"),
    [
        ({"code": "C1"}, ["is C1: record whom you told, and when"]),
        ({"code": "C1", "told_to": "the tenant"}, ["is C1: record whom you told, and when"]),
        ({"code": "C1", "told_to": "the tenant", "told_at": "2026-11-03T10:00:00Z"}, []),
        (
            {"code": "C1", "told_to": "the tenant", "told_at": "2026-11-03T10:00:00Z", "made_safe": "made safe"},
            ["was made safe: record with whose consent"],
        ),
        (
            {"code": "C2", "mended": True, "as_left": "new front"},
            ["was put right: add “as left” and the retest, or it still counts"],
        ),
        ({"code": "C2", "mended": True, "as_left": "new front", "retest": "0.31 Ω"}, []),
        ({"code": "C2"}, []),
    ],
)
def test_what_the_record_of_an_observation_lacks_is_said_in_one_place(fields, lacking):
    """Rules 13.4 and 13.5; the list of observations shows the same words as the list before the report."""
    home = cottage()
    home["inspection"]["observations"] = [{"id": "o", "text": "A live part", "about_id": "c2"} | fields]
    judgement = judge(document.parse(home))
    (recorded,) = judgement.recorded
    assert list(recorded.lacking) == lacking
    looked = [p.text for p in readiness(document.parse(home), judgement)]
    assert all(any(words in text for text in looked) for words in lacking)
    assert recorded.made_good == (len(fields) == 4 and "retest" in fields)
