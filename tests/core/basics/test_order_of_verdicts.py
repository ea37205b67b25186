"""A worse figure never gets a better verdict: properties of every judgement that has a limit."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dorrik.core.basics.readings import Reading
from dorrik.core.electrical import bathroom, bonding, insulation, loop, overload, rcd, supply, trend

WORSE = {"pass": 0, "attention": 1, "fail": 2}
#: From 0.01 Ω: a loop of nothing at all is asked about as a slip (rule 1.2).
OHMS = st.floats(0.01, 50).map(lambda value: round(value, 2))


def weight(verdict):
    return WORSE[verdict.status]


def written(value, digits=2):
    return Reading.parse(f"{value:.{digits}f}")


@given(OHMS, OHMS, st.sampled_from([0.8, 1.0]))
def test_a_higher_zs_is_never_judged_better(one, other, basis):
    low, high = sorted((one, other))
    assert weight(loop.judge_zs(written(low), 1.37, basis)) <= weight(loop.judge_zs(written(high), 1.37, basis))


@given(OHMS, OHMS, st.sampled_from(["TN-S", "TN-C-S"]))
def test_a_higher_ze_is_never_judged_better(one, other, earthing):
    low, high = sorted((one, other))
    assert weight(supply.judge_ze(written(low), earthing)) <= weight(supply.judge_ze(written(high), earthing))


@given(st.floats(2, 3000), st.floats(2, 3000), st.sampled_from([30, 100, 300]))
def test_a_higher_electrode_is_never_judged_better(one, other, rated):
    # From 2 Ω on: less than that is asked about, since no rod in the ground gives it (rule 3.2).
    low, high = sorted((round(one), round(other)))
    first, second = (supply.judge_ze(Reading.parse(str(ra)), "TT", rcd_ma=rated) for ra in (low, high))
    assert weight(first) <= weight(second)


@given(OHMS, OHMS)
def test_a_higher_bond_is_never_judged_better(one, other):
    low, high = sorted((one, other))
    assert weight(bonding.judge(written(low))) <= weight(bonding.judge(written(high)))


@given(st.floats(0, 500), st.floats(0, 500))
def test_lower_insulation_is_never_judged_better(one, other):
    low, high = sorted((one, other))
    assert weight(insulation.judge_circuit(written(high), 230)) <= weight(insulation.judge_circuit(written(low), 230))


@given(st.lists(st.floats(0.05, 500), min_size=1, max_size=12), st.floats(0.05, 500))
def test_one_more_circuit_never_makes_a_board_better(values, more):
    board = {f"c{i}": written(value) for i, value in enumerate(values)}
    before, after = insulation.judge_board(board, 230), insulation.judge_board(board | {"more": written(more)}, 230)
    assert weight(before) <= weight(after)
    assert after.combined.value <= before.combined.value + 1e-9


@given(st.integers(1, 1000), st.integers(1, 1000), st.sampled_from(["BS EN 61008", "BS EN 61009", "BS 4293"]))
def test_a_slower_device_is_never_judged_better(one, other, standard):
    quick, slow = sorted((one, other))
    first, second = (rcd.judge_trip(standard, "none", 30, Reading.parse(str(ms))) for ms in (quick, slow))
    assert weight(first) <= weight(second)


@given(
    st.sampled_from([1.0, 1.5, 2.5, 4.0, 6.0, 10.0, 16.0]),
    st.sampled_from(overload.methods(2.5)),
    st.sampled_from(["BS EN 60898", "BS 3036"]),
    st.integers(1, 100),
    st.integers(1, 100),
)
def test_a_larger_device_is_never_judged_better(csa, method, standard, one, other):
    small, large = sorted((one, other))
    cable = overload.Cable(csa_mm2=csa, method=method)
    first, second = (overload.judge(standard, float(rating), cable, "radial") for rating in (small, large))
    assert weight(first) <= weight(second)


@given(st.sampled_from([1.0, 1.5, 2.5, 4.0, 6.0, 10.0]), st.integers(3, 63))
def test_an_unknown_method_is_never_judged_better_than_the_mildest_or_worse_than_the_worst(csa, rating):
    ways = [overload.Cable(csa_mm2=csa, method=method) for method in overload.methods(csa)]
    verdicts = [overload.judge("BS EN 60898", float(rating), way, "radial") for way in ways]
    unknown = overload.judge("BS EN 60898", float(rating), overload.Cable(csa_mm2=csa), "radial")
    assert min(map(weight, verdicts)) <= weight(unknown) <= max(map(weight, verdicts))


@given(st.floats(0, 3), st.floats(0, 3), st.floats(0, 3))
def test_further_from_the_bath_is_never_a_stricter_zone(height, one, other):
    near, far = sorted((one, other))
    order = ("0", "1", "2", "outside")
    assert order.index(bathroom.zone(height, near)) <= order.index(bathroom.zone(height, far))


@pytest.mark.parametrize("zone", ["0", "1", "2", "outside"])
def test_more_protection_is_never_judged_worse(zone):
    weights = [weight(bathroom.judge_protection(zone, ipx)) for ipx in range(10)]
    assert weights == sorted(weights, reverse=True)


@given(st.floats(0.1, 100), st.floats(0.1, 100), st.sampled_from(["continuity", "loop", "insulation"]))
def test_a_change_seen_backwards_is_the_other_way_round(one, other, quantity):
    turned = {"better": "worse", "worse": "better", "same": "same", "unknown": "unknown"}
    forth, back = (trend.compare(written(a), written(b), quantity) for a, b in ((one, other), (other, one)))
    assert turned[forth.direction] == back.direction


@given(OHMS, OHMS)
def test_a_bound_never_claims_more_than_the_figure_it_bounds(figure, limit):
    """Where `<x` passes, x passes; where `>x` fails, x fails."""
    plain = loop.judge_zs(written(figure), limit + 0.01, 1.0)
    below = loop.judge_zs(Reading.parse(f"<{figure:.2f}"), limit + 0.01, 1.0)
    above = loop.judge_zs(Reading.parse(f">{figure:.2f}"), limit + 0.01, 1.0)
    if below.status == "pass":
        assert plain.status in ("pass", "attention")
    if plain.status == "fail":
        assert above.status == "fail"
