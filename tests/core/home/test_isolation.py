"""Safe isolation: the pairings of a board, and whether a record of it holds."""

from dorrik.core.home import isolation
from dorrik.core.inspection.records import Board, Circuit, Isolation


def record(**given):
    whole = {
        "proved_at": "2026-11-03T09:00:00Z", "isolated_at": "2026-11-03T09:05:00Z", "lock": "Lock 7",
        "proved_again_at": "2026-11-03T09:20:00Z", "pairings": {p.name: "dead" for p in WANTED},
    }  # fmt: skip
    return Isolation(id="i", **(whole | given))


WANTED = isolation.pairings("1", [("1", None)])


def test_one_phase_has_three_pairings_at_the_busbar_and_at_each_way():
    names = [p.name for p in isolation.pairings("1", [("1", None), ("2", None)])]
    assert names[:3] == ["busbar L–N", "busbar L–E", "busbar N–E"]
    assert len(names) == 9


def test_three_phases_have_ten_pairings():
    # Three lines against each other, against neutral and earth, and neutral against earth: 3 + 3 + 3 + 1.
    busbar = [p.between for p in isolation.pairings("3", [])]
    assert busbar == ["L1–L2", "L1–L3", "L2–L3", "L1–N", "L2–N", "L3–N", "L1–E", "L2–E", "L3–E", "N–E"]
    one = [p.between for p in isolation.pairings("3", [("4", "L2")]) if p.at == "way 4"]
    assert one == ["L2–N", "L2–E", "N–E"]
    three = [p for p in isolation.pairings("3", [("1", "all three")]) if p.at == "way 1"]
    assert len(three) == 10


def test_a_board_has_the_pairings_of_its_circuits_but_not_of_spare_ways():
    board = Board(id="b", circuits=(Circuit(id="1", way="1"), Circuit(id="2", way="2", spare=True)))
    assert {p.at for p in isolation.of_board(board, "1")} == {"busbar", "way 1"}
    assert len(isolation.of_board(Board(id="b", phases="1"), "3")) == 3


def test_a_whole_record_holds():
    assert isolation.judge(record(), WANTED).status == "pass"
    assert record().proved_dead


def test_a_live_pairing_fails_at_once():
    verdict = isolation.judge(Isolation(id="i", pairings={"busbar L–N": "live"}), WANTED)
    assert verdict.status == "fail"
    assert "busbar L–N" in verdict.reason
    assert not record(pairings={"busbar L–N": "live"}).proved_dead


def test_a_record_that_is_being_made_is_left_alone():
    assert isolation.judge(record(proved_again_at=None, pairings=None), WANTED) is None


def test_what_is_missing_is_said():
    left = isolation.judge(record(pairings={"busbar L–N": "dead"}), WANTED)
    assert left.status == "attention" and "5 pairings were not tested" in left.reason
    unlocked = isolation.judge(record(lock=None), WANTED)
    assert "No lock or tag" in unlocked.reason
    order = isolation.judge(record(isolated_at="2026-11-03T08:00:00Z"), WANTED)
    assert "not in their order" in order.reason
    assert "proved first" in isolation.judge(record(proved_at=None), WANTED).reason


def test_a_board_is_proved_dead_by_its_last_whole_record():
    board = Board(id="b", isolations=(record(), record(proved_again_at=None)))
    assert board.proved_dead == "2026-11-03T09:20:00Z"
    assert Board(id="b", isolated_at="2026-11-03T10:00:00Z").proved_dead == "2026-11-03T10:00:00Z"
    assert Board(id="b").proved_dead is None
