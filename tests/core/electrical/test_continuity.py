"""R1+R2 beside the cable, points without earth, and which figure is recorded."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dorrik.core.basics.readings import Reading
from dorrik.core.electrical import continuity

R = Reading.parse


@pytest.mark.parametrize(
    ("reading", "length", "status", "word"),
    [
        # 2.5/1.5 is 19.51 mΩ/m: 20 m lead to 0.39 Ω, 15 % of which is 0.06 Ω.
        ("0.39", 20, "pass", "agree"),
        ("0.44", 20, "pass", "agree"),
        ("0.46", 20, "attention", "higher"),
        ("0.32", 20, "attention", "lower"),
        # On 5 m the least tolerance of 0.05 Ω counts: 0.10 Ω.
        ("0.14", 5, "pass", "agree"),
        ("0.16", 5, "attention", "higher"),
        (">0.3", 20, "unknown", "plain figure"),
        ("LIM", 20, "unknown", "plain figure"),
    ],
)
def test_beside_the_length(reading, length, status, word):
    verdict = continuity.judge_length(R(reading), 2.5, 1.5, length)
    assert verdict.status == status and word in verdict.reason
    assert (verdict.next_step is not None) == (status == "attention")


def test_a_cable_that_is_not_tabulated():
    verdict = continuity.judge_length(R("0.4"), 3.3, 1.5, 10)
    assert verdict.status == "unknown" and "3.3 mm²" in verdict.reason


@pytest.mark.parametrize(("class_ii", "status"), [(False, "fail"), (True, "pass")])
def test_a_point_without_earth(class_ii, status):
    verdict = continuity.judge_point(R("OL"), class_ii=class_ii)
    assert verdict.status == status
    assert verdict.observation == (None if class_ii else "no-cpc-at-point")


READINGS = st.lists(st.sampled_from(["0.31", "0.62", "1,05", "OL", ">2", "LIM behind a wardrobe", "N/A", ""]))


@given(READINGS)
def test_the_highest_is_a_plain_figure_of_those_given(texts):
    found = continuity.highest([R(text) for text in texts])
    plain = [float(text.replace(",", ".")) for text in texts if text in ("0.31", "0.62", "1,05")]
    assert (found.value if found else None) == max(plain, default=None)


@pytest.mark.parametrize(
    ("recorded", "highest", "status"),
    [
        ("0.84", "0.84", None),
        ("0.84", "0.62", None),
        ("0.84", "0.91", "attention"),
        (">0.9", "0.91", None),
        (None, "0.91", "unknown"),
        ("LIM", "0.91", None),
    ],
)
def test_the_highest_is_recorded(recorded, highest, status):
    verdict = continuity.judge_recorded(recorded and R(recorded), R(highest))
    assert (verdict and verdict.status) == status
