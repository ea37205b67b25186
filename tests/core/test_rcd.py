import pytest

from dorrik.core import rcd
from dorrik.core.readings import Reading

R = Reading.parse


@pytest.mark.parametrize(
    ("standard", "delay", "trip", "status"),
    [
        ("BS EN 61008", "none", "24", "pass"),
        ("BS EN 61008", "none", "300", "attention"),
        ("BS EN 61008", "none", "301", "fail"),
        ("BS EN 61008", "none", ">300", "fail"),
        ("BS EN 61008", "none", "OL", "fail"),
        ("BS EN 61009", "none", "31", "pass"),
        ("BS 4293", "none", "210", "fail"),
        ("BS EN 61008", "S", "220", "pass"),
        ("BS EN 61008", "S", "90", "fail"),
        ("BS EN 61008", "S", "520", "fail"),
        ("BS 4293", "S", "220", "unknown"),
        ("BS EN 61008", "none", "LIM", "unknown"),
    ],
)
def test_trip_time_at_rated_current(standard, delay, trip, status):
    assert rcd.judge_trip(standard, delay, 30, R(trip)).status == status


def test_five_times_rated_current():
    assert rcd.judge_trip("BS EN 61008", "none", 30, R("38"), multiple=5).status == "pass"
    assert rcd.judge_trip("BS EN 61008", "none", 30, R("45"), multiple=5).status == "fail"


def test_limits():
    assert rcd.trip_limits_ms("BS EN 61008", "S") == (130, 500)
    with pytest.raises(LookupError):
        rcd.trip_limits_ms("BS EN 61008", "G")
