"""What a process remembers of inspections in hand is bounded, and never older than what it was told last."""

from dorrik.core.inspection.kept_inspection import KeptEntity, KeptInspection
from dorrik.core.judging.lasting_judge import LastingJudge
from dorrik.store.inspections.inspection_cache import Memory, Remembered


def memory(name, seq=1, entries=10, judged=True):
    kept = KeptInspection(name, "firm", seq)
    kept.entities = {str(n): KeptEntity("circuit", str(n), name, {}) for n in range(entries)}
    return Memory(kept, {}, seq, LastingJudge() if judged else None)


def test_what_is_taken_out_nobody_else_has():
    remembered = Remembered()
    remembered.put(memory("a"))
    assert remembered.take("a") is not None
    assert remembered.take("a") is None


def test_the_oldest_are_forgotten_and_before_them_their_judges():
    remembered = Remembered(most=40, most_judged=25)
    for name in "abcde":
        remembered.put(memory(name))
    assert remembered.take("a") is None
    held = {name: remembered.take(name) for name in "bcde"}
    assert [name for name, one in held.items() if one.lasting is not None] == ["d", "e"]


def test_one_that_is_larger_than_all_is_remembered_all_the_same():
    remembered = Remembered(most=40, most_judged=25)
    remembered.put(memory("a"))
    remembered.put(memory("b", entries=500))
    large = remembered.take("b")
    assert large is not None and large.lasting is not None
    assert remembered.take("a") is None


def test_of_two_in_hand_at_once_the_later_stays():
    remembered = Remembered()
    remembered.put(memory("a", seq=7))
    remembered.put(memory("a", seq=6))
    assert remembered.take("a").judged_seq == 7


def test_sizes_are_kept_right_while_inspections_grow():
    remembered = Remembered(most=100, most_judged=100)
    for _ in range(20):
        one = remembered.take("a") or memory("a")
        # What is in hand grows until it is put back.
        one.kept.entities[f"more-{len(one.kept.entities)}"] = KeptEntity("circuit", "x", "a", {})
        remembered.put(one)
    remembered.put(memory("b", entries=60))
    assert remembered.take("a") is not None and remembered.take("b") is not None
    remembered.put(memory("c", entries=90))
    remembered.forget()
    remembered.put(memory("d", entries=90))
    assert remembered.take("d") is not None
