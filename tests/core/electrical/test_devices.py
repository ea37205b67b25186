import csv
from pathlib import Path

import pytest

from dorrik.core.electrical import devices

CHECKS = Path(__file__).parents[1] / "data" / "device-checks.csv"


def published():
    lines = [line for line in CHECKS.read_text().splitlines() if not line.startswith("#")]
    return list(csv.DictReader(lines))


@pytest.mark.parametrize("row", published(), ids=lambda row: f"{row['standard']} {row['type']}{row['rating_a']}")
def test_published_limits(row):
    limit = devices.zs_limit_ohm(row["standard"], row["type"], float(row["rating_a"]), float(row["disconnection_s"]))
    assert f"{limit:.2f}" == row["zs_limit_ohm"]


def test_breakers_follow_the_formula_at_any_time():
    # 0.95 · 230 / (10 · 16) = 1.3656…
    assert devices.zs_limit_ohm("BS EN 60898", "C", 16, 0.4) == 1.37
    assert devices.zs_limit_ohm("BS EN 60898", "C", 16, 5) == 1.37
    assert devices.zs_limit_ohm("BS EN 60898", "C", 16, 0.2) == 1.37


def test_what_the_table_does_not_hold_is_told():
    with pytest.raises(LookupError, match="not in the device table"):
        devices.zs_limit_ohm("BS EN 99999", "B", 32, 0.4)
    with pytest.raises(LookupError, match="not tabulated at 31 A"):
        devices.zs_limit_ohm("BS 3036", "rewirable", 31, 0.4)
    with pytest.raises(LookupError, match=r"at 0\.4 s"):
        devices.zs_limit_ohm("BS 1361", "II", 60, 0.4)
    with pytest.raises(LookupError, match=r"at 0\.2 s"):
        devices.zs_limit_ohm("BS 88-2", "gG", 32, 0.2)


@pytest.mark.parametrize(
    ("earthing", "rating", "serves", "seconds"),
    [
        ("TN-S", 32, "sockets", 0.4),
        ("TN-S", 40, "sockets", 0.4),
        ("TN-S", 40, "fixed", 5.0),
        ("TN-C-S", 32, "fixed", 0.4),
        ("TN-C-S", 32, "distribution", 5.0),
        ("TT", 32, "lighting", 0.2),
        ("TT", 63, "distribution", 1.0),
    ],
)
def test_disconnection_times(earthing, rating, serves, seconds):
    assert devices.disconnection_s(earthing, rating, serves) == seconds
