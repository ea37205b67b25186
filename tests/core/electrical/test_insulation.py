from itertools import permutations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dorrik.core.basics.readings import Reading
from dorrik.core.electrical import insulation

R = Reading.parse


@pytest.mark.parametrize(
    ("readings", "combined"),
    [
        (["10", "10"], "5.00"),
        (["2", "3", "6"], "1.00"),  # 1/2 + 1/3 + 1/6 = 1
        ([">200", ">200"], ">100"),
        ([">500", "0.6"], ">0.60"),
        (["<0.5", "10"], "<0.48"),
        (["<0.5", ">200"], "<0.50"),
        (["LIM", "10"], "10.0"),
        (["OL", "OL"], ">100"),  # each over a 200 MΩ range
        (["LIM"], ""),
        ([], ""),
    ],
)
def test_parallel_combination(readings, combined):
    assert str(insulation.combine([R(r) for r in readings])) == combined


def test_order_does_not_matter():
    readings = [R(r) for r in (">200", "0.7", "33", "<5")]
    assert len({str(insulation.combine(order)) for order in permutations(readings)}) == 1


values = st.builds(lambda sign, n: R(f"{sign}{n}"), st.sampled_from(["", ">", "<"]), st.decimals("0.01", 999, places=2))


@given(st.lists(values, min_size=1, max_size=12), st.randoms())
def test_the_combination_claims_no_more_than_it_knows(readings, random):
    """Draw true values that the readings allow: their parallel value lies within what is claimed."""
    claimed = insulation.combine(readings)
    conductance = 0.0
    for reading in readings:
        true = reading.value
        if reading.bound == ">":
            true += random.random() * 1000
        elif reading.bound == "<":
            true *= random.uniform(0.001, 1)
        conductance += 1 / true
    low, high = claimed.interval
    assert low * (1 - 1e-9) <= 1 / conductance <= high * (1 + 1e-9)


@pytest.mark.parametrize(
    ("reading", "status"),
    [
        ("412", "pass"),
        (">500", "pass"),
        ("OL", "pass"),
        ("1.4", "attention"),
        ("1.0", "attention"),
        ("0.99", "fail"),
        ("<1", "fail"),
        (">0.5", "unknown"),
        ("LIM", "unknown"),
    ],
)
def test_one_circuit_at_230_v(reading, status):
    assert insulation.judge_circuit(R(reading), 230).status == status


def test_minimum_and_test_voltage_by_nominal_voltage():
    # BS 7671 table 64.
    assert [(insulation.minimum_mohm(v), insulation.test_voltage_v(v)) for v in (12, 230, 690)] == [
        (0.5, 250),
        (1.0, 500),
        (1.0, 1000),
    ]


def test_low_line_to_neutral_looks_for_loads_first():
    assert "lamps out" in insulation.judge_circuit(R("0.02"), 230, to_earth=False).next_step


def test_a_board_fails_though_each_circuit_passes():
    board = {f"{i}": R("6") for i in range(1, 9)}  # eight of 6 MΩ: 0.75 MΩ
    verdict = insulation.judge_board(board, 230)
    assert (verdict.status, str(verdict.combined)) == ("fail", "0.75")
    # Two off leave six of 6 MΩ: exactly 1 MΩ.
    assert len(verdict.culprits) == 2
    assert str(verdict.without) == "1.00"


def test_culprits_are_named_worst_first():
    board = {"1 Lights": R("0.6"), "2 Ring": R(">500"), "3 Shed": R("0.9"), "4 Cooker": R("50")}
    verdict = insulation.judge_board(board, 230)
    assert verdict.culprits == ("1 Lights", "3 Shed")
    assert str(verdict.without) == ">45.5"


def test_bounds_that_cannot_settle_the_board():
    board = {str(i): R(">5") for i in range(8)}  # at least 0.625 MΩ
    assert insulation.judge_board(board, 230).status == "unknown"


def test_attention_level_of_the_house():
    assert insulation.judge_board({"1": R("1.5")}, 230).status == "attention"
    assert insulation.judge_board({"1": R("1.5")}, 230, attention_mohm=1.0).status == "pass"
    assert insulation.judge_board({"1": R("LIM")}, 230).status == "unknown"


def test_a_circuit_that_stands_out():
    middle = insulation.middle_mohm([R("400"), R("450"), R("38")])
    assert middle == 400
    assert insulation.stands_out(R("38"), middle).status == "attention"
    assert insulation.stands_out(R("45"), middle) is None  # over a tenth of the median
    assert insulation.stands_out(R(">20"), middle) is None
    assert insulation.middle_mohm([R("400"), R("38")]) is None


@pytest.mark.parametrize(
    ("one", "other", "leg"),
    [
        ("0.4", "30", "first"),
        ("30", "0.4", "second"),
        ("3", "20", None),
        (">200", "5", "second"),
        (">20", "5", None),
        ("LIM", "5", None),
    ],
)
def test_the_faulty_leg_of_an_opened_ring(one, other, leg):
    assert insulation.faulty_leg(R(one), R(other)) == leg
