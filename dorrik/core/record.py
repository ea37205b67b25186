"""Records: frozen dataclasses with slots that start quickly.

A dataclass compiles six methods of its own when its class is made; with some forty classes that was two thirds of the
time in which the core starts, and the core also starts in a browser. Three of the six are shared here.
"""

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any, TypeVar, cast, dataclass_transform, overload

_C = TypeVar("_C", bound=type)


def _repr(self: Any) -> str:
    told = ", ".join(f"{name}={getattr(self, name)!r}" for name in self.__dataclass_fields__)
    return f"{type(self).__qualname__}({told})"


def _eq(self: Any, other: Any) -> Any:
    if type(other) is not type(self):
        return NotImplemented
    return all(getattr(self, name) == getattr(other, name) for name in self.__dataclass_fields__)


def _hash(self: Any) -> int:
    return hash(tuple(getattr(self, name) for name in self.__dataclass_fields__))


@overload
def record(cls: _C, /) -> _C: ...
@overload
def record(*, kw_only: bool = False) -> Callable[[_C], _C]: ...


@dataclass_transform(frozen_default=True, field_specifiers=(field,))
def record(cls: _C | None = None, /, *, kw_only: bool = False) -> _C | Callable[[_C], _C]:
    """Make a class a frozen dataclass with slots, compared, hashed and shown by its fields.

    kw_only: its fields are given by name only.
    """

    def make(found: _C) -> _C:
        for name, method in (("__repr__", _repr), ("__eq__", _eq), ("__hash__", _hash)):
            if name not in vars(found):
                setattr(found, name, method)
        turn: Any = dataclass(frozen=True, slots=True, kw_only=kw_only, eq=False, repr=False)
        return cast(_C, turn(found))

    return make if cls is None else make(cls)
