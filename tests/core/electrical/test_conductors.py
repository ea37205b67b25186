import pytest

from dorrik.core.electrical import conductors


def test_resistance_per_metre_from_the_standard():
    # BS EN 60228, plain copper at 20 °C.
    assert conductors.resistance_ohm(2.5, 100) == pytest.approx(0.741)
    assert conductors.resistance_ohm(1.5, 10) == pytest.approx(0.121)
    assert conductors.resistance_ohm(10, 50) == pytest.approx(0.0915)


def test_temperature():
    # 50 K warmer, 0.4 % a kelvin: a fifth more.
    assert conductors.resistance_ohm(2.5, 100, temperature_c=70) == pytest.approx(0.741 * 1.2)


def test_length_is_the_inverse():
    assert conductors.length_m(2.5, 0.46) == pytest.approx(62.08, abs=0.01)
    assert conductors.length_m(6, conductors.resistance_ohm(6, 31)) == pytest.approx(31)


def test_ratio_of_flat_cable_spans_area_and_resistance():
    # 2.5/1.5: 1.67 by area, 12.10/7.41 = 1.633 by resistance.
    assert conductors.cpc_ratio_span(2.5, 1.5) == pytest.approx((1.63293, 1.66667), abs=1e-4)
    assert conductors.cpc_choices_mm2(2.5) == (1.5, 1.0)
    assert conductors.cpc_choices_mm2(3) == ()


def test_unknown_size():
    with pytest.raises(LookupError, match="3 mm²"):
        conductors.per_metre_ohm(3)
