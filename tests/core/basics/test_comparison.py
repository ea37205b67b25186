"""A reading against a limit: within, close to it, beyond it or unsettled (rules 1.2 and 1.3)."""

import pytest

from dorrik.core.basics import comparison
from dorrik.core.basics.readings import Reading, accurate
from dorrik.core.electrical import insulation, loop

R = Reading.parse
WORDS = comparison.ComparedWords(
    name="Zs", unit="Ω", source="rule 7.1", within="{reading} is within {limit}", beyond="{reading} is above {limit}",
    observation="zs-above-limit",
)  # fmt: skip


@pytest.mark.parametrize(
    ("typed", "state"),
    [
        # Loop: 5 % and 5 digits: 1.00 Ω is uncertain by 0.05 + 0.05.
        ("1.00", "within"),
        ("1.29", "close"),
        ("1.37", "close"),
        ("1.38", "beyond"),
        (">1.37", "beyond"),
        (">1.00", "unsettled"),
        ("<1.37", "within"),
        ("<2", "unsettled"),
        ("LIM", "unsettled"),
        ("OL", "beyond"),  # over range is a value: where low is good it fails
    ],
)
def test_against_a_greatest_value(typed, state):
    assert comparison.compare(R(typed), 1.37, "loop") == state


@pytest.mark.parametrize(
    ("typed", "state"), [("0.9", "beyond"), ("1.0", "close"), (">1", "within"), ("<0.5", "beyond")]
)
def test_against_a_least_value(typed, state):
    assert comparison.compare(R(typed), 1.0, "insulation", least=True) == state


def test_what_was_not_measured_is_unknown_and_says_so():
    verdict = comparison.judge(None, 1.37, "loop", WORDS)
    assert verdict.status == "unknown" and "not been measured" in verdict.reason


def test_beyond_leads_to_its_observation_and_close_does_not():
    assert comparison.judge(R("1.60"), 1.37, "loop", WORDS).observation == "zs-above-limit"
    close = comparison.judge(R("1.36"), 1.37, "loop", WORDS)
    assert (close.status, close.observation) == ("pass", None) and "close" in close.reason
    # With data of its own the instrument is known to be unable to tell (rule 1.3).
    with accurate({"loop": (0.05, 5)}):
        assert comparison.judge(R("1.36"), 1.37, "loop", WORDS).status == "attention"
    assert "close" in comparison.judge(R("1.38"), 1.37, "loop", WORDS).reason
    assert close.margin == pytest.approx(0.01)


def test_a_finer_instrument_is_close_later():
    with accurate({"loop": (0.01, 1)}):
        assert comparison.compare(R("1.29"), 1.37, "loop") == "within"
    assert comparison.compare(R("1.29"), 1.37, "loop") == "close"


def test_a_limitation_without_a_reason_has_an_empty_one():
    assert R("LIM").limitation == ""
    assert R("LIM no access").limitation == "no access"
    assert R("0.4").limitation is None


def test_what_is_remembered_is_kept_apart_for_each_instrument():
    # 1.05 Ω against 0.8 × 1.37 = 1.096 Ω: within by less than 5 % and 5 digits, and by more than 1 % and 1 digit.
    usual = loop.judge_zs(R("1.05"), 1.37)
    with accurate({"loop": (0.01, 1)}):
        assert loop.judge_zs(R("1.05"), 1.37).status == "pass"
    with accurate({"loop": (0.05, 5)}):
        assert loop.judge_zs(R("1.05"), 1.37).status == "attention"
    assert usual.status == "pass"
    assert loop.judge_zs(R("1.05"), 1.37) == usual


def test_what_is_remembered_is_kept_apart_for_each_way_to_write_a_reading():
    minimum = [insulation.judge_circuit(R(typed), 230).status for typed in ("1.0", ">1.0", "<1.0", "1.00")]
    assert minimum[2] == "fail"
    assert "fail" not in (minimum[0], minimum[1], minimum[3])
