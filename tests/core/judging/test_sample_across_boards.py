"""A point opened on one board does not count for its namesake on another (rules 12.1 to 12.3)."""

from tests.core.whole_homes import board, judged, points, ring


def test_a_second_board_that_numbers_its_circuits_from_one_again_has_points_of_its_own():
    here = ring(1, points=points({"opened": True}, {"opened": True}))
    there = ring(1, id="c9", points=points({}, {}, prefix="q"))
    state = judged(board(here), board(there, id="b2", name="Workshop", position=1), records="none").sampling
    assert (state.population, state.sampled) == (4, 2)
    assert all(name.startswith("Workshop, ") for name in state.left)
    assert state.left


def test_opened_points_with_a_defect_are_never_more_than_the_points_that_were_opened():
    worn = {"opened": True, "defect": "loose terminal"}
    boards = [
        board(ring(1, id=f"c{n}", points=points(worn, prefix=f"p{n}")), id=f"b{n}", name="Board", position=n)
        for n in range(3)
    ]
    state = judged(*boards).sampling
    assert (state.population, state.sampled, state.defective) == (3, 3, 3)
    assert state.says.startswith("All 3 points were opened; 3")
