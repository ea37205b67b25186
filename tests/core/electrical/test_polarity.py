import pytest

from dorrik.core.electrical.polarity import JOINED, judge_voltages


@pytest.mark.parametrize(
    ("volts", "status", "observation"),
    [
        ((232, 232, 1), "pass", None),
        ((232, 0, 232), "fail", "socket-polarity"),
        ((138, 230, 92), "fail", "neutral-lost"),
        ((230, 230, 230), "fail", "neutral-lost"),
        ((230, 120, 110), "fail", "no-cpc-at-point"),
        ((0, 0, 0), "unknown", None),
        ((90, 90, 0), "unknown", None),
        # Two of the three say as much: the third is what they lead to (rule 4.6).
        ((None, 230, 0), "pass", None),
        ((None, 230, 230), "fail", "metal-live"),
        ((0, None, 230), "fail", "metal-live"),
        ((230, None, 230), "fail", "socket-polarity"),
        ((230, 230, None), "pass", None),
        ((230, 229, 14), "attention", None),  # N–E above 10 V names the neutral
        ((None, None, 230), "unknown", None),
    ],
)
def test_three_voltages_tell_what_is_wrong(volts, status, observation):
    verdict = judge_voltages(*volts)
    assert (verdict.status, verdict.observation) == (status, observation)


def test_circuits_found_joined_are_a_failure_by_any_conductor():
    assert {verdict.status for verdict in JOINED.values()} == {"fail"}
    assert JOINED["neutral"].observation == "shared-neutral"
