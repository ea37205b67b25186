"""Records behave as frozen dataclasses do."""

from dataclasses import FrozenInstanceError, fields, replace

import pytest

from dorrik.core.basics.record import record


@record
class Pair:
    one: int
    other: int = 2


@record(kw_only=True)
class Named:
    name: str
    more: tuple[int, ...] = ()


@record
class Told:
    text: str

    def __repr__(self) -> str:
        return f"<{self.text}>"


def test_they_are_compared_and_hashed_by_their_fields():
    assert Pair(1) == Pair(1, 2) != Pair(2, 1)
    assert len({Pair(1), Pair(1, 2), Pair(2)}) == 2
    assert Pair(1) != (1, 2)
    assert Named(name="a") != Pair(1)


def test_they_show_their_fields_unless_they_have_a_way_of_their_own():
    assert repr(Named(name="a", more=(1,))) == "Named(name='a', more=(1,))"
    assert repr(Told("x")) == "<x>"


def test_nothing_in_them_changes_and_nothing_is_added():
    pair = Pair(1)
    for name in ("one", "third"):
        with pytest.raises((FrozenInstanceError, AttributeError, TypeError)):
            setattr(pair, name, 5)
    assert not hasattr(pair, "__dict__")


def test_they_are_dataclasses_to_everybody_else():
    assert [field.name for field in fields(Pair)] == ["one", "other"]
    assert replace(Pair(1), other=7) == Pair(1, 7)
    with pytest.raises(TypeError):
        Named("a")
