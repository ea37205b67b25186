import pytest

from dorrik.core.basics.readings import Reading
from dorrik.core.electrical import rcd

R = Reading.parse


@pytest.mark.parametrize(
    ("standard", "delay", "trip", "status"),
    [
        ("BS EN 61008", "none", "24", "pass"),
        ("BS EN 61008", "none", "300", "pass"),
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


@pytest.mark.parametrize(
    ("kind", "load", "detects", "status"),
    [
        ("AC", "resistive", False, "pass"),
        ("AC", "electronics", False, "attention"),
        ("A", "electronics", False, "pass"),
        ("A", "variable-speed", False, "attention"),
        ("A", "vehicle", False, "fail"),
        ("A", "vehicle", True, "pass"),
        ("AC", "vehicle", True, "fail"),
        ("B", "inverter", False, "pass"),
    ],
)
def test_kind_against_load(kind, load, detects, status):
    assert rcd.judge_kind(kind, load, dc_detection=detects).status == status


@pytest.mark.parametrize(
    ("use", "key"),
    [
        (rcd.Use(socket_rating_a=13, feeds_outdoors=True), "rcd-missing-outdoor"),
        (rcd.Use(bathroom=True), "rcd-missing-bathroom"),
        (rcd.Use(socket_rating_a=32), "rcd-missing-sockets"),
        (rcd.Use(socket_rating_a=63), None),
        (rcd.Use(cable_depth_mm=30), "rcd-missing-hidden"),
        (rcd.Use(cable_depth_mm=60), None),
        (rcd.Use(dwelling_lighting=True), "rcd-missing-hidden"),
    ],
)
def test_where_30_ma_is_expected(use, key):
    assert rcd.expected_protection(use) == key
