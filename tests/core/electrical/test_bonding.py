import pytest

from dorrik.core.basics.readings import Reading
from dorrik.core.electrical import bonding

R = Reading.parse


@pytest.mark.parametrize(("tails", "least"), [(10, 10), (16, 16), (25, 16), (35, 16), (50, 25), (70, 35)])
def test_main_earthing_conductor(tails, least):
    # BS 7671 table 54.7.
    assert bonding.earthing_conductor_mm2(tails) == least


@pytest.mark.parametrize(
    ("earthing", "earth", "neutral", "least"),
    [
        ("TN-S", 16, None, 10),
        ("TN-S", 10, None, 6),
        ("TT", 6, None, 6),
        ("TN-S", 120, None, 25),
        ("TN-C-S", 16, 25, 10),
        ("TN-C-S", 16, 35, 10),
        ("TN-C-S", 16, 50, 16),
        ("TN-C-S", 16, 95, 25),
        ("TN-C-S", 16, 150, 35),
    ],
)
def test_main_bonding_conductor(earthing, earth, neutral, least):
    assert bonding.main_bonding_mm2(earthing, earth, neutral) == least


def test_on_tn_c_s_the_neutral_is_needed():
    with pytest.raises(ValueError, match="neutral"):
        bonding.main_bonding_mm2("TN-C-S", 16)


def test_longest_run_that_can_pass():
    # 0.05 Ω / 1.83 mΩ/m = 27.3 m; 0.05 / 1.15 = 43.5 m.
    assert bonding.longest_run_m(10) == pytest.approx(27.3, abs=0.05)
    assert bonding.longest_run_m(16) == pytest.approx(43.5, abs=0.05)


@pytest.mark.parametrize(
    ("reading", "status"),
    [
        ("0.02", "pass"),
        ("0.04", "pass"),
        ("0.05", "pass"),
        ("0.06", "fail"),
        (">0.5", "fail"),
        ("LIM", "unknown"),
    ],
)
def test_continuity(reading, status):
    assert bonding.judge(R(reading)).status == status


def test_clamp_against_pipe():
    assert bonding.judge_contact(R("0.03"), R("0.04")).status == "pass"
    assert bonding.judge_contact(R("0.03"), R("0.31")).status == "fail"
    assert bonding.judge_contact(R("0.03"), None).status == "unknown"


def test_size():
    assert bonding.judge_size("Main bonding", 6, 10).observation == "bond-undersized"
    assert bonding.judge_size("Main bonding", 10, 10).status == "pass"
