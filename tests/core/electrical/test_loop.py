import pytest

from dorrik.core.basics.readings import Reading
from dorrik.core.electrical import loop

R = Reading.parse


@pytest.mark.parametrize(
    ("zs", "status"),
    [
        ("0.46", "pass"),
        ("1.05", "pass"),  # within 0.8 × 1.37 = 1.096, if close
        ("1.20", "attention"),
        ("1.37", "attention"),
        ("1.38", "fail"),
        (">1.5", "fail"),
        (">1.0", "unknown"),
        ("<0.5", "pass"),
        ("LIM RCD trips", "unknown"),
        ("OL", "fail"),
    ],
)
def test_zs_of_a_b32(zs, status):
    verdict = loop.judge_zs(R(zs), 1.37)
    assert verdict.status == status
    assert verdict.reason and "7.1" in verdict.source


def test_margin_is_the_room_left():
    assert loop.judge_zs(R("0.46"), 1.37).margin == pytest.approx(1.096 - 0.46)
    assert loop.judge_zs(R("1.50"), 1.37).margin == pytest.approx(-0.13)


def test_the_full_limit_as_house_rule():
    assert loop.judge_zs(R("1.20"), 1.37, basis=1.0).status == "pass"
    assert loop.judge_zs(R("1.20"), 1.37, basis=0.8).status == "attention"


def test_missing_reading_is_unknown_and_says_so():
    assert loop.judge_zs(None, 1.37).status == "unknown"
    assert "not been measured" in loop.judge_zs(None, 1.37).reason


@pytest.mark.parametrize(
    ("zs", "status"), [("120", "pass"), ("232", "attention"), ("1700", "fail"), (">1500", "unknown")]
)
def test_behind_a_30_ma_rcd(zs, status):
    # 50 V / 30 mA = 1666.7 Ω; above 200 Ω an electrode may not be stable.
    verdict = loop.judge_zs_behind_rcd(R(zs), 30)
    assert verdict.status == status
    assert verdict.limit == pytest.approx(50 / 0.03)


@pytest.mark.parametrize(
    ("zs", "status", "word"),
    [
        ("0.46", "pass", "Agrees"),
        ("0.58", "attention", "Higher"),
        ("0.30", "attention", "Lower"),
        (">0.4", "unknown", "Zs"),
    ],
)
def test_measured_beside_calculated(zs, status, word):
    # 0.19 + 0.27 = 0.46 Ω; tolerance max(0.05, 15 %) = 0.069 Ω.
    verdict = loop.cross_check(R(zs), R("0.19"), R("0.27"))
    assert (verdict.status, word in verdict.reason) == (status, True)


def test_cross_check_names_what_is_missing():
    assert "Zdb and R1+R2" in loop.cross_check(R("0.4"), None, R("LIM")).reason
