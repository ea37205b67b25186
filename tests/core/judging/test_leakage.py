"""Leakage at the tails: the sum of all circuits, held against the most sensitive RCD (rule 3.8)."""

import pytest

from dorrik.core.inspection.document import parse
from dorrik.core.judging.judgement import judge


def note(leakage, *rated):
    circuits = [{"id": f"c{n}", "way": str(n), "rcd_rated_ma": ma} for n, ma in enumerate(rated)]
    home = {"id": "h", "leakage_ma": leakage, "boards": [{"id": "b", "circuits": circuits}]}
    found = parse({"format": "dorrik-inspection", "version": 1, "inspection": home})
    return next(one for one in judge(found).notes if one.field == "leakage_ma" and one.entity == "inspection")


# 30 % of 30 mA is 9 mA; within ±(3 % + 5 digits of 0.1 mA) of it the clamp cannot tell.
@pytest.mark.parametrize(
    ("leakage", "rated", "status"),
    [
        ("8.1", (30, 100), "pass"),
        ("8.9", (30, 100), "pass"),
        ("9.1", (30, 100), "attention"),
        ("28", (100,), "pass"),
        ("4", (), "unknown"),
    ],
)
def test_leakage_is_held_against_the_most_sensitive_rcd(leakage, rated, status):
    assert note(leakage, *rated).status == status


def test_above_it_is_to_be_measured_behind_each_rcd_and_raises_nothing_yet():
    found = note("12", 30).verdict
    assert "12 mA in all" in found.reason and "after each RCD" in found.next_step
    assert found.observation is None
