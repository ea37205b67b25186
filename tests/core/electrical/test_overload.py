import pytest

from dorrik.core.electrical import overload


@pytest.mark.parametrize(
    ("csa", "method", "amperes"), [(2.5, "C", 27), (2.5, "100", 21), (1.0, "103", 8), (10, "C", 64), (6, "A", 32)]
)
def test_capacities_from_the_standard(csa, method, amperes):
    # BS 7671 table 4D5.
    assert overload.capacity_a(csa, method) == amperes


@pytest.mark.parametrize(
    ("standard", "rating", "csa", "method", "arrangement", "status"),
    [
        ("BS EN 60898", 20, 2.5, "C", "radial", "pass"),
        ("BS EN 60898", 32, 2.5, "C", "radial", "fail"),
        ("BS EN 60898", 32, 2.5, "C", "fused-spur-only", "attention"),
        ("BS EN 60898", 32, 2.5, "C", "ring", "pass"),
        ("BS EN 60898", 32, 2.5, "103", "ring", "fail"),  # 13.5 A a leg, a ring needs 20
        ("BS EN 60898", 40, 2.5, "C", "ring", "fail"),
        ("BS 3036", 15, 2.5, "C", "radial", "pass"),  # 0.725 · 27 = 19.6
        ("BS 3036", 20, 2.5, "C", "radial", "fail"),
        ("BS EN 60898", 16, 2.5, None, "radial", "attention"),  # 27 A or 13.5 A
        ("BS EN 60898", 6, 2.5, None, "radial", "pass"),
        ("BS EN 60898", 45, 2.5, None, "radial", "fail"),
        ("BS EN 60898", 20, 3.0, "C", "radial", "unknown"),
        ("BS EN 60898", 20, 2.5, "Z", "radial", "unknown"),
    ],
)
def test_device_against_cable(standard, rating, csa, method, arrangement, status):
    cable = overload.Cable(csa_mm2=csa, method=method)
    assert overload.judge(standard, rating, cable, arrangement).status == status


def test_fault_by_the_adiabatic_equation():
    # 1000 A for 0.1 s: 1000 · 0.3162 / 115 = 2.75 mm².
    assert overload.least_csa_mm2(1000, 0.1) == pytest.approx(2.7497, abs=1e-3)
    assert overload.judge_fault(1.5, 1000, 0.1).status == "fail"
    assert overload.judge_fault(4, 1000, 0.1).status == "pass"


def test_voltage_drop():
    # 2.5 mm²: 18 mV/A/m · 30 m · 20 A = 10.8 V; 5 % is 11.5 V, 3 % is 6.9 V.
    assert overload.voltage_drop_v(2.5, 30, 20) == pytest.approx(10.8)
    assert overload.judge_voltage_drop(2.5, 30, 20, lighting=False).status == "pass"
    assert overload.judge_voltage_drop(2.5, 30, 20, lighting=True).status == "attention"
    assert overload.judge_voltage_drop(3, 30, 20, lighting=True).status == "unknown"
