"""How a sample grows with what is found, and what it can claim, against figures worked out here."""

from math import comb

from hypothesis import given
from hypothesis import strategies as st

from dorrik.core.judging.coverage.sampling import (
    SamplePoint,
    SeenPoint,
    follow,
    greatest_defective,
    in_words,
    plan,
    widened,
)

POINTS = st.lists(
    st.tuples(st.sampled_from("ABC"), st.sampled_from(["hall", "loft", "bath"]), st.booleans()), min_size=1, max_size=30
)


def points_of(rows):
    return [SamplePoint(f"{c}{i}", c, room, always=always) for i, (c, room, always) in enumerate(rows)]


@given(POINTS, st.integers(0, 99), st.sampled_from(["good", "fair", "poor", "none"]))
def test_a_plan_holds_every_room_and_circuit_and_what_is_always_in(rows, seed, records):
    points = points_of(rows)
    drawn = plan(points, records, "good", seed)
    chosen = set(drawn.points)
    assert {p.circuit for p in chosen} == {p.circuit for p in points}
    assert {p.room for p in chosen} == {p.room for p in points}
    assert all(p in chosen for p in points if p.always)
    assert len(chosen) >= drawn.fraction * len(points) - 1e-9
    assert plan(points, records, "good", seed) == drawn


@given(POINTS, st.integers(0, 99), st.data())
def test_defects_only_ever_widen_it(rows, seed, data):
    points = points_of(rows)
    first = plan(points, "good", "good", seed)
    seen = [
        SeenPoint(
            p,
            data.draw(st.sampled_from(["socket", "light"])),
            True,
            data.draw(st.sampled_from([None, "loose", "heat"])),
        )
        for p in points
    ]
    sound = [SeenPoint(one.point, one.kind, one.opened) for one in seen]
    assert set(follow(sound, first).planned) == {p.name for p in first.points}
    assert set(follow(seen, first).planned) >= {p.name for p in first.points}


def test_a_second_defect_of_a_kind_opens_all_of_that_circuit_and_of_that_kind_of_point():
    points = [SamplePoint(f"{c}{i}", c, "hall") for c in "AB" for i in range(10)]
    first = plan(points, "good", "good", 3)

    def after(*defects):
        seen = [
            SeenPoint(p, "socket" if p.circuit == "A" else "light", True, dict(defects).get(p.name)) for p in points
        ]
        return set(follow(seen, first).planned)

    one = after(("A0", "loose"))
    assert sum(name.startswith("A") for name in one) >= 5
    both = after(("A0", "loose"), ("A1", "loose"))
    assert {f"A{i}" for i in range(10)} <= both
    assert sum(name.startswith("B") for name in both) < 10
    # Two defects of different kinds widen as one each.
    assert sum(name.startswith("A") for name in after(("A0", "loose"), ("A1", "heat"))) < 10


def test_shares_after_defects():
    assert [widened(0.25, n) for n in range(4)] == [0.25, 0.5, 1.0, 1.0]
    assert widened(0.8, 1) == 1.0


@given(st.integers(1, 40), st.data())
def test_the_greatest_number_of_defective_points_is_the_last_that_is_not_too_unlikely(population, data):
    sampled = data.draw(st.integers(0, population))
    defective = data.draw(st.integers(0, sampled))
    most = greatest_defective(population, sampled, defective)

    def so_few(total):
        return sum(
            comb(total, k) * comb(population - total, sampled - k) for k in range(min(defective, total) + 1)
        ) / comb(population, sampled)

    assert so_few(most) >= 0.05
    assert most == population - (sampled - defective) or so_few(most + 1) < 0.05


def test_words_for_the_report():
    assert in_words(8, 8, 1) == "All 8 points were opened; 1 had a defect."
    assert in_words(20, 5, 0).startswith("5 of 20 points were opened and 0 had a defect.")
