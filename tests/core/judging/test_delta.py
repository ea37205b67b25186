"""What became different between two judgements says exactly the second one."""

import copy

from hypothesis import given, settings
from hypothesis import strategies as st

from dorrik.core.judging.delta import applied, difference
from tests.examples import examples

letter = st.sampled_from("abcd")
item = st.fixed_dictionaries({"id": letter, "field": st.sampled_from("xy"), "value": st.integers(0, 3)})
value = st.one_of(st.none(), st.integers(), st.lists(item, max_size=8), st.dictionaries(letter, st.integers()))
judgement = st.fixed_dictionaries({"notes": st.lists(item, max_size=12), "sums": value, "outcome": value})


@settings(max_examples=examples(300), deadline=None)
@given(judgement, judgement)
def test_of_any_two(old, new):
    before = copy.deepcopy(old)
    assert applied(old, difference(old, new)) == new
    assert old == before


def test_nothing_is_said_of_what_is_as_it_was():
    old = {"notes": [{"id": "a"}, {"id": "b"}], "sums": {"a": 1}, "outcome": "x"}
    assert difference(old, copy.deepcopy(old)) == {"set": {}, "lists": {}, "maps": {}}


def test_of_a_list_only_what_is_new_is_written():
    old = {"notes": [{"id": n} for n in range(100)]}
    new = {"notes": [*old["notes"][:50], {"id": 50, "status": "fail"}, *old["notes"][51:]]}
    (parts,) = difference(old, new)["lists"].values()
    assert parts == [{"start": 0, "end": 50}, {"new": [{"id": 50, "status": "fail"}]}, {"start": 51, "end": 100}]
