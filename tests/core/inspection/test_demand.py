"""Assessed demand by the usual allowances of one dwelling, each figure worked by hand (rule 3.10)."""

import pytest

from dorrik.core.inspection.circuit import Circuit
from dorrik.core.inspection.demand import assess
from tests.core.whole_homes import board, judged
from tests.core.whole_homes import circuit as house_circuit


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


# Room for more: 32 A of sockets in full, a cooker of 32 A as 10 + 0.30 × 22, 6 A of lights as 0.66 × 6.
TODAY = 32 + 16.6 + 3.96
HOME = (
    house_circuit(1, "Sockets", "sockets", device_rating_a=32),
    house_circuit(2, "Cooker", device_rating_a=32, appliance="cooker"),
    house_circuit(3, "Lights", "lighting", device_rating_a=6),
)


def room(*wanted, circuits=HOME, **origin):
    loads = [{"id": f"w{n}"} | one for n, one in enumerate(wanted)]
    return judged(board(*circuits), wanted_loads=loads, **origin).room_for_more


def test_the_sum_of_today_is_told_kind_by_kind():
    told = room()
    assert told.total_a == pytest.approx(TODAY, abs=0.1)
    assert {share.load: share.counted_a for share in told.shares} == {
        "sockets on standard circuits": 32, "cooking appliance": 16.6, "lighting": 3.96,
    }  # fmt: skip
    assert (told.status, told.fuse_a) == ("pass", 80)


@pytest.mark.parametrize(
    ("wanted", "with_a", "status"),
    [
        ({"what": "vehicle charge point", "current_a": 32}, TODAY + 32, "attention"),
        ({"what": "vehicle charge point", "current_a": 16}, TODAY + 16, "pass"),
        ({"what": "vehicle charge point", "current_a": 32, "sheds": True}, TODAY, "pass"),
        ({"what": "heat pump", "current_a": 20}, TODAY + 20, "pass"),
        ({"what": "heat pump"}, TODAY, "unknown"),
    ],
)
def test_what_is_asked_about_is_added_by_its_own_allowance(wanted, with_a, status):
    told = room(wanted)
    assert told.with_a == pytest.approx(with_a, abs=0.1) and told.status == status


def test_a_load_that_is_not_known_leaves_no_sum_and_is_named():
    told = room(circuits=(*HOME, house_circuit(4, "Shed", device_rating_a=None)))
    assert (told.status, told.total_a, told.missing) == ("unknown", None, ("4 Shed",))
    assert "4 Shed" in told.says


def test_what_a_clamp_read_is_the_least_that_the_home_takes():
    assert room(demand_measured_a=31).status == "pass"
    assert room({"what": "heat pump", "current_a": 20}, demand_measured_a=70).status == "attention"


@pytest.mark.parametrize("origin", [{"service_fuse_a": None}, {"fuse_read": "its carrier alone"}, {"phases": "3"}])
def test_nothing_passes_against_a_fuse_that_is_not_known(origin):
    assert room(**origin).status == "unknown"


def test_a_board_counts_by_what_hangs_on_it_and_not_by_the_way_that_feeds_it():
    feed = house_circuit(4, "Shed", "distribution", device_rating_a=40)
    shed = {"id": "s", "fed_by": "c4", "circuits": [house_circuit(9, "Shed lights", "lighting", device_rating_a=6)]}
    told = judged(board(*HOME, feed), shed).room_for_more
    assert told.total_a == pytest.approx(32 + 16.6 + 0.66 * 12, abs=0.1)
