"""What is kept of what was worked out is what working it out now would give, and nothing is worked out without need."""

import random
from collections import Counter

import pytest

from dorrik.core.basics.cells import CHUNK, Cells, Once, Readable
from dorrik.core.basics.identity_cache import IdentityCache
from tests.examples import examples


class Thing(Readable):
    """Two figures that are watched, each by its bit."""

    __slots__ = ("cells", "figures")

    def __init__(self, cells, one=0, other=0):
        super().__init__()
        self.cells, self.figures = cells, [one, other]

    def __getitem__(self, at):
        if self.cells.reading is not None:
            self.cells.reading[self] = self.cells.reading.get(self, 0) | 1 << at
        return self.figures[at]

    def __setitem__(self, at, value):
        self.figures[at] = value
        self.cells.changed(self, 1 << at)


@pytest.fixture
def cells():
    return Cells()


def counted(runs, function):
    def run(*arguments):
        runs[function.__name__] += 1
        return function(*arguments)

    return run


def test_only_what_read_the_figure_that_changed_is_worked_out_again(cells):
    thing, runs = Thing(cells, 1, 10), Counter()

    def first(thing):
        return thing[0]

    def second(thing):
        return thing[1]

    one, two = counted(runs, first), counted(runs, second)
    assert (cells.made(one, thing), cells.made(two, thing)) == (1, 10)
    thing[0] = 2
    assert (cells.made(one, thing), cells.made(two, thing)) == (2, 10)
    assert runs == {"first": 2, "second": 1}


def test_what_comes_out_as_before_reaches_no_further(cells):
    thing, runs = Thing(cells, 3), Counter()

    def is_high(thing):
        return thing[0] > 2

    low = counted(runs, is_high)

    def words(thing):
        return "high" if cells.made(low, thing) else "low"

    said = counted(runs, words)
    assert cells.made(said, thing) == "high"
    thing[0] = 9
    assert cells.made(said, thing) == "high"
    assert runs == {"is_high": 2, "words": 1}
    thing[0] = 1
    assert cells.made(said, thing) == "low"
    assert runs == {"is_high": 3, "words": 2}


def test_what_is_read_only_because_of_another_figure_is_not_worked_out_in_vain(cells):
    thing = Thing(cells, 4, 2)

    def quotient(thing):
        return thing[0] / thing[1]

    def said(thing):
        return cells.made(quotient, thing) if cells.made(divides, thing) else None

    def divides(thing):
        return thing[1] != 0

    assert cells.made(said, thing) == 2
    # Worked out by itself, the quotient would raise.
    thing[1] = 0
    assert cells.made(said, thing) is None
    thing[1] = 1
    assert cells.made(said, thing) == 4


def test_a_function_that_raises_leaves_what_was_kept_as_it_was(cells):
    thing = Thing(cells, 4, 2)

    def quotient(thing):
        return thing[0] / thing[1]

    assert cells.made(quotient, thing) == 2
    thing[1] = 0
    for _ in range(2):
        with pytest.raises(ZeroDivisionError):
            cells.made(quotient, thing)
    assert cells.reading is None
    thing[1] = 4
    assert cells.made(quotient, thing) == 1


def test_of_many_things_only_the_one_that_changed_is_looked_at(cells):
    things = [Thing(cells, n) for n in range(5 * CHUNK + 3)]
    runs = Counter()

    def twice(of, thing):
        runs[thing] += 1
        yield 2 * thing[0]

    def all_of(of):
        return tuple((thing,) for thing in things)

    def total(of):
        return sum(cells.each(twice, of, all_of, join=sum))

    expected = sum(range(len(things))) * 2
    assert cells.made(total, "all") == expected
    things[70][0] += 5
    assert cells.made(total, "all") == expected + 10
    assert runs.pop(things[70]) == 2 and set(runs.values()) == {1}
    assert cells.each(twice, "all", all_of) == tuple(2 * thing[0] for thing in things)


@pytest.mark.parametrize("kind", [Once, Cells])
def test_what_is_given_from_outside_is_found_again(kind):
    cells = kind()

    def said():
        return f"at {cells.given('moment')}"

    cells.put("moment", 9)
    assert cells.made(said) == "at 9"
    if kind is Cells:
        cells.put("moment", 10)
        assert cells.made(said) == "at 10"


def test_once_tells_things_apart_by_which_they_are():
    cells = Once()
    assert cells.made(lambda thing: len(thing), [1, 2]) == 2
    equal, other = [1], [1]

    def itself(thing):
        return thing

    assert cells.made(itself, equal) is equal and cells.made(itself, other) is other


@pytest.mark.hypothesis
@pytest.mark.parametrize("seed", range(examples(300)))
def test_any_net_of_cells_says_what_working_it_out_says(seed):
    """A net in which what is read depends on what was read, changed at random."""
    chance = random.Random(seed)
    cells = Cells()
    things = [Thing(cells, chance.randint(0, 3), chance.randint(0, 3)) for _ in range(4)]

    def node(level, at, ask):
        thing = things[(level + at) % 4]
        if level == 0:
            return thing[at % 2] % 3
        left = ask(level - 1, at)
        # Which others are asked depends on what came out.
        return (left + ask(level - 1, at + 1 + left) + (thing[1] if left else 0)) % 5

    def kept(level, at):
        return node(level, at, lambda *other: cells.made(kept, *other))

    def fresh(level, at):
        return node(level, at, fresh)

    for _ in range(30):
        for _ in range(chance.randint(0, 3)):
            chance.choice(things)[chance.randint(0, 1)] = chance.randint(0, 3)
        asked = (chance.randint(0, 5), chance.randint(0, 3))
        assert cells.made(kept, *asked) == fresh(*asked)


def test_a_view_is_made_once_for_the_same_thing_and_what_it_is_made_of_beside():
    kept, made = IdentityCache(), []

    def view(thing):
        made.append(thing)
        return [thing]

    one, two = object(), object()
    first = kept.each("parts", (one, two), view)
    assert kept.each("parts", (two, one), view) == (first[1], first[0])
    assert made == [one, two]
    assert kept.each("marked", (one,), view, lambda _: "marked") != kept.each(
        "marked", (one,), lambda _: 0, lambda _: ""
    )


def test_what_is_written_of_the_same_thing_is_the_same_object():
    kept = IdentityCache()
    notes = ({"a": 1}, {"b": 2})
    before = kept.written("notes", notes)
    after = kept.written("notes", (notes[0], {"b": 3}))
    assert after == [{"a": 1}, {"b": 3}] and after[0] is before[0]
    assert kept.written("says", "fail") == "fail"
