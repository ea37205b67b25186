"""Entries of devices that did not see each other, held against devices that remember what they saw."""

import random
from dataclasses import dataclass, field, replace
from datetime import datetime

import pytest

from dorrik.core.inspection.crossed_entries import (
    Entry,
    crossed,
    made_apart,
    removed_and_worked_on,
)
from dorrik.core.inspection.kept_inspection import KeptInspection, new_entity, put
from tests.examples import examples

AT = datetime(2026, 12, 1, 9, 0)


def entry(seq, value, device, based_on, *, of="way 1", name="zs_ohm", entity="circuit"):
    return Entry(seq, entity, of, name, value, based_on, AT, "ruth", device)


@dataclass
class Device:
    """A device that remembers each entry it has seen, and what it made since it was last in touch."""

    name: str
    seen: set[int] = field(default_factory=set)
    heard: int = 0
    made: list[tuple[str, str, int, set[int]]] = field(default_factory=list)


def days(seed):
    """A journal of devices that come and go, and of each entry what its device had seen."""
    chance = random.Random(seed)
    devices = [Device(name) for name in ("tablet", "phone", "laptop")]
    journal, knew = [], {}
    for _ in range(chance.randint(5, 60)):
        device = chance.choice(devices)
        if chance.random() < 0.6:
            where, value = chance.choice(("way 1", "way 2")), chance.choice(("0.3", "0.4"))
            device.made.append((where, value, device.heard, set(device.seen)))
            continue
        for where, value, based_on, seen in device.made:
            seq = len(journal) + 1
            journal.append(entry(seq, value, device.name, based_on, of=where))
            knew[seq] = seen
            device.seen.add(seq)
        device.made = []
        # In touch: it hears everything that is there.
        device.heard = len(journal)
        device.seen |= {one.seq for one in journal}
    return journal, knew


@pytest.mark.parametrize("seed", range(examples(300)))
def test_a_field_is_asked_for_where_the_last_entry_had_not_seen_anothers_and_differs(seed):
    journal, knew = days(seed)
    asked = {one.stands.entity_id: {other.seq for other in one.others} for one in crossed(journal)}
    for where in ("way 1", "way 2"):
        of_field = [one for one in journal if one.entity_id == where]
        expected = set()
        if of_field:
            last = of_field[-1]
            for name in {"tablet", "phone", "laptop"} - {last.device}:
                by = [one for one in of_field if one.device == name]
                if by and by[-1].seq not in knew[last.seq] and by[-1].value != last.value:
                    expected.add(by[-1].seq)
        assert asked.get(where, set()) == expected


def test_whoever_saw_both_has_decided():
    journal = [entry(1, "0.31", "tablet", 0), entry(2, "0.44", "phone", 0)]
    (one,) = crossed(journal)
    assert (one.stands.value, [other.value for other in one.others]) == ("0.44", ["0.31"])
    # The phone goes on typing without having heard of the tablet: still open.
    assert crossed([*journal, entry(3, "0.45", "phone", 0)])
    # The same value once more, having seen both, says that it stands.
    assert not crossed([*journal, entry(3, "0.44", "tablet", 2)])
    assert not crossed([entry(1, "0.31", "tablet", 0), entry(2, "0.31", "phone", 0)])


def home(*removed):
    kept = KeptInspection("home", "firm", 0)
    kept.entities["home"] = new_entity("inspection", "home", "firm")
    for kind, parent, one, of in (
        ("board", "inspection", "board", "home"), ("circuit", "board", "way 1", "board"),
        ("point", "circuit", "socket", "way 1"), ("rcd", "board", "rcd", "board"),
    ):  # fmt: skip
        put(kept, kind, one, parent, of)
    for kind, one in removed:
        put(kept, kind, one, "removed", True)
    return kept


def test_what_was_entered_on_what_another_removed_is_told():
    removal = entry(5, True, "phone", 2, of="board", name="removed", entity="board")
    before, unseen, after = entry(2, "0.3", "tablet", 0), entry(4, "0.3", "tablet", 0), entry(7, "8", "tablet", 4)
    kept = home(("board", "board"))
    told = removed_and_worked_on(kept, [before, unseen, removal, after])
    assert [(one.removed.seq, [e.seq for e in one.entered]) for one in told] == [(5, [4, 7])]
    # The remover's own entries, and what they had seen, are no news; a point still hangs on the wall.
    own = entry(4, "0.3", "phone", 0)
    at_a_point = entry(4, "0.3", "tablet", 0, of="socket", name="zs_ohm", entity="point")
    assert not removed_and_worked_on(kept, [before, own, removal])
    assert not removed_and_worked_on(kept, [at_a_point, removal])
    # Removed once more having seen it.
    again = entry(8, True, "phone", 7, of="board", name="removed", entity="board")
    assert not removed_and_worked_on(kept, [before, unseen, removal, after, again])


def test_two_removals_one_in_the_other_are_one_question():
    kept = home(("board", "board"), ("circuit", "way 1"))
    entries = [
        entry(1, "0.3", "tablet", 0),
        entry(2, True, "phone", 0, name="removed"),
        entry(3, True, "phone", 0, of="board", name="removed", entity="board"),
    ]
    assert [one.removed.entity_id for one in removed_and_worked_on(kept, entries)] == ["board"]


def test_two_things_were_made_apart_until_somebody_who_saw_both_says_so():
    def made(seq, device, based_on, of):
        return entry(seq, "home", device, based_on, of=of, name="inspection", entity="board")

    first, second = made(3, "tablet", 0, "a"), made(9, "phone", 1, "b")
    assert made_apart([first], [second]) and made_apart([second], [first])
    assert not made_apart([first], [made(9, "phone", 3, "b")])
    assert not made_apart([first], [made(9, "tablet", 0, "b")])
    assert made_apart([first], [second, made(10, "phone", 1, "b")])
    assert not made_apart([first], [second, made(10, "tablet", 9, "b")])
    # Moved, as when its board is joined with another: nobody said that they are two.
    moved = replace(made(10, "tablet", 9, "b"), value="another home")
    assert made_apart([first], [second, moved])
    assert not made_apart([first], [second, moved, replace(moved, seq=11, based_on=10)])
