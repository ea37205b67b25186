"""Records behave as frozen dataclasses do."""

from dataclasses import FrozenInstanceError, field, fields, replace

import pytest

from dorrik.core.basics.record import plain, record


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


def test_a_record_is_written_with_fields_of_any_name():
    """Also of those that the program that writes it uses itself."""

    @record
    class Odd:
        plain: str
        _0: int
        record: tuple[int, ...] = ()
        write: dict[str, float] = field(default_factory=dict)

    assert plain(Odd("a", 1, (2, 3), {"x": 0.5})) == {"plain": "a", "_0": 1, "record": [2, 3], "write": {"x": 0.5}}


def test_a_record_that_adds_to_another_is_made_of_the_fields_of_both():
    @record
    class Base:
        first: int

    @record
    class More(Base):
        second: int = 2

    assert (More(1).first, More(1).second, More(1, 3).second) == (1, 2, 3)
    assert plain(More(1)) == {"first": 1, "second": 2}
