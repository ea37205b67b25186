"""The draw keeps its lots, the bound is of what was drawn, and the words say no more (rules 12.1 to 12.3)."""

from itertools import combinations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dorrik.core.judging.coverage.sampling import (
    SamplePoint,
    SeenPoint,
    follow,
    greatest_defective,
    plainly,
    plan,
    propose,
)


def points(count, **more):
    return [SamplePoint(f"p{i}", f"c{i % 3}", f"r{i % 4}", key=f"id-{i}", **more) for i in range(count)]


@given(st.integers(0, 2**31 - 1), st.integers(1, 30), st.integers(0, 10), st.sampled_from([0.25, 0.5]))
def test_a_point_keeps_its_lot_when_others_are_counted_later(seed, count, late, share):
    """In one room on one circuit the lots alone decide: among the points of before, those drawn now are the first of
    the same order, never a swap of one for another."""
    some = [SamplePoint(f"p{i}", "c", "r", key=f"id-{i}") for i in range(count)]
    more = [*some, *(SamplePoint(f"late{i}", "c", "r", key=f"late-{i}") for i in range(late))]
    before = set(plan(some, "good", "good", seed, share).drawn)
    after = {one for one in plan(more, "good", "good", seed, share).drawn if one.startswith("id-")}
    assert before <= after or after <= before


def test_the_draw_does_not_hang_on_the_order_nor_on_names():
    some = points(24)
    drawn = set(plan(some, "good", "good", 7).drawn)
    assert set(plan(list(reversed(some)), "good", "good", 7).drawn) == drawn
    renamed = [SamplePoint(f"other {one.name}", one.circuit, one.room, key=one.key) for one in some]
    assert set(plan(renamed, "good", "good", 7).drawn) == drawn
    assert set(plan(some, "good", "good", 8).drawn) != drawn


def test_what_the_inspector_chose_is_in_or_out_and_never_drawn():
    some = points(12)
    some[2] = SamplePoint("p2", "c2", "r2", key="id-2", chosen="added")
    some[3] = SamplePoint("p3", "c0", "r3", key="id-3", chosen="left out")
    for seed in range(40):
        found = plan(some, "fair", "good", seed)
        names = {point.name for point in found.points}
        assert "p2" in names and "p3" not in names
        assert "id-2" not in found.drawn


def bound_by_counting(frame, sampled, defective):
    """The greatest number of defective points that is still consistent, by trying every sample there is."""
    most = defective
    samples = list(combinations(range(frame), sampled))
    for total in range(frame + 1):
        few = sum(sum(i < total for i in sample) <= defective for sample in samples)
        if total >= defective and frame - total >= sampled - defective and few / len(samples) >= 0.05:
            most = total
    return most


@pytest.mark.parametrize("frame", range(1, 10))
def test_bounds_agree_with_counting_every_sample(frame):
    for sampled in range(1, frame + 1):
        for defective in range(sampled + 1):
            assert greatest_defective(frame, sampled, defective) == bound_by_counting(frame, sampled, defective)


def seen(point, *, opened=True, defect=None):
    return SeenPoint(point, "socket", opened, defect)


def test_the_bound_is_of_drawn_points_alone_and_the_others_stand_beside_it():
    """Ten points that can be drawn, one in any case: the end of the line with its defect says nothing of the others."""
    some = [SamplePoint(f"p{i}", "c", "r", key=f"id-{i}") for i in range(10)]
    end = SamplePoint("end", "c", "r", key="end", always=True)
    first = plan([*some, end], "fair", "fair", 3)
    drawn = set(first.drawn)
    state = follow([seen(one, opened=one.id in drawn) for one in some] + [seen(end, defect="heat")], first)
    assert (state.frame, state.drawn, state.drawn_defective) == (10, len(drawn), 0)
    assert (state.beside, state.beside_defective) == (1, 1)
    assert state.most == bound_by_counting(10, len(drawn), 0)
    assert f"no more than {state.most} of those 10" in state.says
    assert "1 point was opened by choice or after a finding; 1 had a defect" in state.says
    assert state.defective == 1 and state.population == 11


def test_opening_more_by_choice_never_makes_the_claim_bolder():
    some = [SamplePoint(f"p{i}", "c", "r", key=f"id-{i}") for i in range(20)]
    first = plan(some, "good", "good", 11)
    honest = follow([seen(one, opened=one.id in first.drawn) for one in some], first)
    eager = follow([seen(one, opened=one.id in first.drawn or i < 15) for i, one in enumerate(some)], first)
    assert eager.most == honest.most
    assert eager.beside > 0


def test_nothing_opened_claims_nothing():
    some = points(6)
    state = follow([seen(one, opened=False) for one in some], plan(some, "good", "good", 1))
    assert state.most is None
    assert "nothing can be said" in state.says
    assert "opened none" in state.plainly


def test_a_plain_sentence_for_the_client():
    # Of 20, 5 opened, none bad: up to 8 could be bad (rule 12.3: C(12,5)/C(20,5) = 0.051, C(11,5)/C(20,5) = 0.030).
    assert greatest_defective(20, 5, 0) == 8
    told = plainly(20, 20, 5, 0)
    assert "opened 5 of the 20" in told and "no more than 8 of the others" in told
    assert plainly(4, 4, 4, 1).startswith("We opened every socket")
    by_eye = plainly(10, 8, 0, 0, 3, 0)
    assert "not picked at random" in by_eye and "likely" not in by_eye


@pytest.mark.parametrize(
    ("records", "condition", "signs", "share"),
    [
        ("good", "good", 0, 0.25),
        ("good", "fair", 0, 0.5),
        ("good", "good", 1, 0.5),
        ("good", "good", 2, 1.0),
        ("fair", "good", 1, 1.0),
        ("none", "good", 0, 1.0),
        ("good", "poor", 3, 1.0),
    ],
)
def test_the_share_follows_the_risk(records, condition, signs, share):
    found = propose(records, condition, [f"sign {n}" for n in range(signs)])
    assert found.share == share
    assert len(found.reasons) == 1 + signs


def test_widening_names_where_it_was_found_and_what_came_in():
    some = [SamplePoint(f"p{i}", "1 Ring", "r", key=f"id-{i}") for i in range(8)]
    first = plan(some, "good", "good", 5)
    (bad, *_) = first.drawn
    state = follow(
        [seen(one, opened=one.id in first.drawn, defect="heat" if one.id == bad else None) for one in some], first
    )
    by_circuit = next(widening for widening in state.widenings if widening.group == "1 Ring")
    assert by_circuit.found_at == (bad,)
    assert by_circuit.share == 0.5
    # A quarter of eight is two; half of them four: two come in.
    assert len(first.points) == 2 and len(by_circuit.added) == 2
    assert set(state.still) == set(by_circuit.added)
