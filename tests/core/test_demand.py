"""Assessed demand by the usual allowances of one dwelling, each figure worked by hand (rule 3.10)."""

import pytest

from dorrik.core.circuit import Circuit
from dorrik.core.demand import assess


def circuit(rating, **fields):
    return Circuit(id="c", device_rating_a=rating, **fields)


COOKER = circuit(32, appliance="cooker")
LIGHTS = circuit(6, serves="lighting")
SOCKETS = circuit(32, serves="sockets")
SHOWER = circuit(40, appliance="shower")


@pytest.mark.parametrize(
    ("circuits", "demand_a"),
    [
        ([COOKER], 10 + 0.30 * 22),
        ([circuit(32, appliance="cooker", outlet_with_socket=True)], 10 + 0.30 * 22 + 5),
        ([LIGHTS], 0.66 * 6),
        ([LIGHTS, LIGHTS], 0.66 * 12),
        ([SOCKETS], 32),
        ([SOCKETS, SOCKETS, SOCKETS], 32 + 0.40 * 64),
        ([SHOWER, SHOWER], 80),
        ([SHOWER, SHOWER, SHOWER], 80 + 0.25 * 40),
        ([circuit(16, appliance="immersion heater")], 16),
        ([circuit(32, load="vehicle")], 32),
        ([circuit(16, serves="fixed")], 10 + 0.50 * 6),
        ([SOCKETS, COOKER, LIGHTS, SHOWER], 32 + 16.6 + 3.96 + 40),
    ],
)
def test_a_demand_worked_by_hand(circuits, demand_a):
    assert assess(circuits) == pytest.approx(demand_a)


def test_what_the_inspector_knows_of_a_load_counts_before_its_breaker():
    assert assess([circuit(32, appliance="cooker", design_current_a=10)]) == pytest.approx(10)


def test_one_load_that_is_not_known_leaves_the_sum_unknown():
    assert assess([SOCKETS, Circuit(id="x")]) is None
