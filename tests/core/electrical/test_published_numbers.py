"""Figures that the trade has in print, row by row, against what the core works out."""

import pytest

from dorrik.core.electrical import bonding, conductors, continuity, devices, insulation, overload, rcd

#: Greatest Zs (Ω) of breakers at 0.4 s and 5 s alike, by rating.
BREAKERS = {
    "B": {
        3: 14.57, 6: 7.28, 10: 4.37, 16: 2.73, 20: 2.19, 25: 1.75, 32: 1.37, 40: 1.09, 50: 0.87, 63: 0.69,
        80: 0.55, 100: 0.44, 125: 0.35,
    },
    "C": {6: 3.64, 10: 2.19, 16: 1.37, 20: 1.09, 25: 0.87, 32: 0.68, 40: 0.55, 50: 0.44, 63: 0.35},
    "D": {6: 1.82, 10: 1.09, 16: 0.68, 20: 0.55, 25: 0.44, 32: 0.34, 40: 0.27},
}  # fmt: skip


@pytest.mark.parametrize(
    ("type_", "rating", "limit"), [(t, r, z) for t, row in BREAKERS.items() for r, z in row.items()]
)
def test_breakers(type_, rating, limit):
    for time in (0.4, 5):
        assert devices.zs_limit_ohm("BS EN 60898", type_, rating, time) == pytest.approx(limit, abs=0.011)
    if 6 <= rating <= 63:
        assert devices.zs_limit_ohm("BS EN 61009", type_, rating, 0.4) == pytest.approx(limit, abs=0.011)


@pytest.mark.parametrize(
    ("standard", "type_", "rating", "at_0s4", "at_5s"),
    [
        ("BS 3036", "rewirable", 5, 9.10, 16.8),
        ("BS 3036", "rewirable", 15, 2.43, 5.08),
        ("BS 3036", "rewirable", 20, 1.68, 3.64),
        ("BS 3036", "rewirable", 30, 1.04, 2.51),
        ("BS 1361", "I", 5, 9.93, 15.6),
        ("BS 1361", "I", 15, 3.12, 4.75),
        ("BS 1361", "I", 20, 1.62, 2.66),
        ("BS 1361", "I", 30, 1.09, 1.75),
        ("BS 88-2", "gG", 6, 7.80, 12.8),
        ("BS 88-2", "gG", 10, 4.65, 7.05),
        ("BS 88-2", "gG", 16, 2.43, 3.97),
        ("BS 88-2", "gG", 32, 0.99, 1.75),
        ("BS 1362", "plug", 13, 2.30, None),
    ],
)
def test_fuses(standard, type_, rating, at_0s4, at_5s):
    assert devices.zs_limit_ohm(standard, type_, rating, 0.4) == pytest.approx(at_0s4, rel=0.01)
    if at_5s is not None:
        assert devices.zs_limit_ohm(standard, type_, rating, 5) == pytest.approx(at_5s, rel=0.01)
    else:
        with pytest.raises(LookupError):
            devices.zs_limit_ohm(standard, type_, rating, 5)


@pytest.mark.parametrize(("type_", "rating", "limit"), [(1, 30, 1.82), (2, 30, 1.04), (3, 30, 0.73), (4, 5, 0.87)])
def test_older_breakers(type_, rating, limit):
    # 0.95 · 230 over 4, 7, 10 and 50 times the rating.
    assert devices.zs_limit_ohm("BS 3871", str(type_), rating, 0.4) == pytest.approx(limit, abs=0.011)


@pytest.mark.parametrize(
    ("line", "cpc", "milliohm_per_m"),
    [
        (1, 1, 36.20), (1.5, 1, 30.20), (1.5, 1.5, 24.20), (2.5, 1, 25.51), (2.5, 1.5, 19.51), (2.5, 2.5, 14.82),
        (4, 1.5, 16.71), (4, 2.5, 12.02), (4, 4, 9.22), (6, 2.5, 10.49), (6, 4, 7.69), (6, 6, 6.16), (10, 4, 6.44),
        (10, 6, 4.91), (10, 10, 3.66), (16, 6, 4.23), (16, 10, 2.98), (16, 16, 2.30), (25, 16, 1.877),
    ],
)  # fmt: skip
def test_r1_r2_of_a_metre(line, cpc, milliohm_per_m):
    assert continuity.expected_r1_r2_ohm(line, cpc, 1000) == pytest.approx(milliohm_per_m)


@pytest.mark.parametrize(
    ("csa", "capacities", "drop"),
    [
        (1.0, (13, 10.5, 13, 8, 16, 11.5), 44),
        (1.5, (16, 13, 16, 10, 20, 14.5), 29),
        (2.5, (21, 17, 21, 13.5, 27, 20), 18),
        (4, (27, 22, 27, 17.5, 37, 26), 11),
        (6, (34, 27, 35, 23.5, 47, 32), 7.3),
        (10, (45, 36, 47, 32, 64, 44), 4.4),
        (16, (57, 46, 63, 42.5, 85, 57), 2.8),
    ],
)
def test_flat_twin_and_earth(csa, capacities, drop):
    for method, capacity in zip(overload.methods(csa), capacities, strict=True):
        assert overload.capacity_a(csa, method) == capacity
    assert overload.voltage_drop_v(csa, 10, 10) == pytest.approx(drop / 10)


@pytest.mark.parametrize(
    ("tails", "earthing", "bond_tn_s"),
    # S up to 16, 16 up to 35, half above; bonds half of that, 6 to 25 mm².
    [(6, 6, 6), (10, 10, 6), (16, 16, 10), (25, 16, 10), (35, 16, 10), (50, 25, 16), (95, 50, 25)],
)
def test_earthing_and_bonding_conductors(tails, earthing, bond_tn_s):
    assert bonding.earthing_conductor_mm2(tails) == earthing
    assert bonding.main_bonding_mm2("TN-S", earthing) == bond_tn_s


@pytest.mark.parametrize(("neutral", "bond"), [(16, 10), (25, 10), (35, 10), (50, 16), (95, 25), (150, 35)])
def test_bonding_by_the_supply_neutral(neutral, bond):
    assert bonding.main_bonding_mm2("TN-C-S", 16, neutral) == bond


@pytest.mark.parametrize(
    ("volts", "test_v", "minimum"), [(12, 250, 0.5), (50, 250, 0.5), (230, 500, 1), (400, 500, 1), (690, 1000, 1)]
)
def test_insulation_test_voltages(volts, test_v, minimum):
    assert (insulation.test_voltage_v(volts), insulation.minimum_mohm(volts)) == (test_v, minimum)


@pytest.mark.parametrize(
    ("standard", "delay", "multiple", "limits"),
    [
        ("BS EN 61008", "none", 1, (0, 300)),
        ("BS EN 61008", "none", 5, (0, 40)),
        ("BS EN 61008", "S", 1, (130, 500)),
        ("BS EN 61008", "S", 5, (50, 150)),
        ("BS EN 61009", "none", 1, (0, 300)),
        ("BS 4293", "none", 1, (0, 200)),
    ],
)
def test_trip_times(standard, delay, multiple, limits):
    assert rcd.trip_limits_ms(standard, delay, multiple) == limits


@pytest.mark.parametrize(
    ("earthing", "rating", "serves", "seconds"),
    [
        ("TN-S", 32, "sockets", 0.4), ("TN-C-S", 63, "sockets", 0.4), ("TN-S", 40, "fixed", 5),
        ("TN-S", 32, "fixed", 0.4),
        ("TN-S", 20, "distribution", 5), ("TT", 32, "sockets", 0.2), ("TT", 40, "fixed", 1), ("TT", 63, "sockets", 0.2),
    ],
)  # fmt: skip
def test_disconnection_times(earthing, rating, serves, seconds):
    assert devices.disconnection_s(earthing, rating, serves) == seconds


def test_a_warm_conductor():
    # 100 m of 2.5 mm² at 70 °C: 0.741 · (1 + 0.004 · 50) = 0.889 Ω.
    assert conductors.resistance_ohm(2.5, 100, temperature_c=70) == pytest.approx(0.8892)
    assert conductors.length_m(2.5, 0.741) == pytest.approx(100)
